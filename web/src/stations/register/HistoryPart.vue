<script setup lang="ts">
import { t } from '@/wording'
import { who } from '@/shell/who'
import { useQuery, useQueryCache } from '@pinia/colada'
import { ref } from 'vue'
import { useCatalogue, useOrganisation } from '@/api/catalogue'
import { api, take } from '@/api/client'
import { useAct } from '@/shell/act'
import ProblemNote from '@/shell/ProblemNote.vue'
import { fullTime } from '@/shell/times'
import { partName, partWords } from './history'

/** Who changed what, and each earlier state to put back. */
const props = defineProps<{ id: string; mayChange: boolean }>()
const emit = defineEmits<{ restored: [] }>()

const cache = useQueryCache()
const { controls } = useCatalogue()
const { kindName } = useOrganisation()
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
  held: t('register.readInTheService'),
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
          {{ partName(d.part, controls) }}:
          <span class="text-soft">{{ partWords(d.part, d.from, controls, kindName) }}</span> →
          <strong>{{ partWords(d.part, d.to, controls, kindName) }}</strong>
        </li>
      </ul>
    </li>
  </ol>
</template>
