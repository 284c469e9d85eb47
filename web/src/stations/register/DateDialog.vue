<script setup lang="ts">
import { t } from '@/wording'
import { computed, ref, watch } from 'vue'
import type { Plain } from '@/api/catalogue'
import { api, take } from '@/api/client'
import type { Coming, MeetingView } from '@/api/schema'
import { useAct } from '@/shell/act'
import ProblemNote from '@/shell/ProblemNote.vue'
import ModalSheet from '@/shell/ModalSheet.vue'
import { fullTime } from '@/shell/times'
import DateTable from './DateTable.vue'

/** What one date of a series has of its own, beside what the series has. */
const props = defineProps<{ meeting: MeetingView; date: Coming | null }>()
const emit = defineEmits<{ close: []; changed: [meeting: MeetingView] }>()
const wanted = ref<Record<string, Plain | null>>({})
const { busy, problem, attempt } = useAct()
watch(
  () => props.date?.at,
  () => {
    wanted.value = {}
    problem.value = null
  },
)
/** What it has of its own once this is saved. */
const own = computed(() => {
  const all = { ...(props.date?.controls ?? {}), ...wanted.value } as Record<string, Plain | null>
  return Object.fromEntries(
    Object.entries(all).filter((each): each is [string, Plain] => each[1] !== null),
  )
})
const limits = computed(() =>
  Object.fromEntries(
    Object.entries(props.meeting.assessment.resolved ?? {}).map(([id, rule]) => [id, rule.limit]),
  ),
)
function set(id: string, value: Plain | null) {
  const rest = Object.fromEntries(Object.entries(wanted.value).filter(([key]) => key !== id))
  const isNew = props.date?.controls[id] === undefined
  wanted.value = value === null && isNew ? rest : { ...rest, [id]: value }
}
async function save() {
  const date = props.date
  if (!date || busy.value) return
  await attempt(async () => {
    const after = await take(
      api.PATCH('/api/meetings/{id}/controls', {
        params: { path: { id: props.meeting.id } },
        body: { version: props.meeting.version, occurrence: date.at, controls: wanted.value },
      }),
    )
    emit('changed', after)
    emit('close')
  })
}
</script>

<template>
  <ModalSheet :open="date !== null" :title="t('register.thisDateAlone')" @close="emit('close')">
    <p v-if="date">
      {{ t('register.startWhatIsNotNamedHereIs', { start: fullTime(date.start) }) }}
    </p>
    <DateTable :own="own" :series="meeting.controls" :limits="limits" @set="set" />
    <ProblemNote class="mt-3" :problem="problem" />
    <div class="mt-4 flex items-center gap-3">
      <button
        class="button button-main"
        :disabled="busy || !Object.keys(wanted).length"
        @click="save"
      >
        {{ t('register.saveThisDate') }}
      </button>
      <button class="link" @click="emit('close')">{{ t('register.leaveIt') }}</button>
    </div>
  </ModalSheet>
</template>
