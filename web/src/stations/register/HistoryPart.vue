<script setup lang="ts">
import { t } from '@/wording'
import { who } from '@/shell/who'
import { useQuery, useQueryCache } from '@pinia/colada'
import { ref } from 'vue'
import { label, useCatalogue } from '@/api/catalogue'
import { api, take } from '@/api/client'
import { useAct } from '@/shell/act'
import ProblemNote from '@/shell/ProblemNote.vue'
import { fullTime } from '@/shell/times'

/** Who changed what, and each earlier state to put back. */
const props = defineProps<{ id: string; mayChange: boolean }>()
const emit = defineEmits<{ restored: [] }>()

const cache = useQueryCache()
const { controls } = useCatalogue()
const { data, error, refetch } = useQuery({
  key: () => ['meeting', props.id, 'history'],
  query: () => take(api.GET('/api/meetings/{id}/history', { params: { path: { id: props.id } } })),
})
const { problem, attempt } = useAct()
const asking = ref<number | null>(null)
const acts: Record<string, string> = {
  scheduled: t('register.scheduledIt'),
  changed: t('register.changedIt'),
  controls: t('register.changedControls'),
  imported: t('register.broughtItIn'),
  restored: t('register.putAnEarlierVersionBack'),
  cancelled: t('register.cancelledIt'),
  'handed-over': t('register.handedItOver'),
  'taken-back': t('register.tookAnImportBack'),
}
const parts: Record<string, string> = {
  coHosts: t('register.coHosts'),
  exDates: t('register.droppedDates'),
  rDates: t('register.addedDates'),
  occurrences: t('register.changedOccurrences'),
  wholeDay: t('register.wholeDay'),
  description: t('register.agenda'),
  groups: t('register.breakoutGroups'),
}
const name = (part: string) => controls.value.get(part)?.title ?? parts[part] ?? part
function value(part: string, text?: string | null): string {
  if (text === null || text === undefined) return t('register.none2')
  const control = controls.value.get(part)
  const shown = control ? label(control, /^\d+$/.test(text) ? Number(text) : text) : text
  return shown.length > 140 ? `${shown.slice(0, 140)}…` : shown
}
const restore = (version: number) =>
  attempt(async () => {
    await take(
      api.POST('/api/meetings/{id}/restore', {
        params: { path: { id: props.id }, query: { version } },
      }),
    )
    asking.value = null
    await cache.invalidateQueries({ key: ['meetings'] })
    await refetch()
    emit('restored')
  })
</script>

<template>
  <p v-if="error" class="text-rust" role="alert">{{ error.message }}</p>
  <ProblemNote :problem="problem" />
  <ol v-if="data">
    <li v-for="(e, i) in data.entries" :key="i" class="border-b border-hair py-1.5">
      <div class="flex items-baseline gap-2">
        <span class="value">{{ fullTime(e.at) }}</span>
        <span>{{ who(e.by) }} {{ acts[e.act] ?? e.act }}</span>
        <template v-if="mayChange && e.restorable != null">
          <button
            v-if="asking !== e.restorable"
            type="button"
            class="link ml-auto"
            @click="asking = e.restorable ?? null"
          >
            {{ t('register.putBack') }}
          </button>
          <span v-else class="ml-auto flex gap-2">
            {{ t('register.asItWasThen') }}
            <button type="button" class="link" @click="restore(e.restorable)">
              {{ t('register.yes') }}
            </button>
            <button type="button" class="link" @click="asking = null">
              {{ t('register.no') }}
            </button>
          </span>
        </template>
      </div>
      <p v-if="e.remark" class="border-l-4 border-sand pl-2">{{ e.remark }}</p>
      <ul class="text-[12.5px]">
        <li v-for="d in e.differences" :key="d.part">
          {{ name(d.part) }}: <span class="text-soft">{{ value(d.part, d.from) }}</span> →
          <strong>{{ value(d.part, d.to) }}</strong>
        </li>
      </ul>
    </li>
  </ol>
</template>
