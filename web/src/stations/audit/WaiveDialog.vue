<script setup lang="ts">
import { useQuery, useQueryCache } from '@pinia/colada'
import { computed, ref } from 'vue'
import { useOrganisation } from '@/api/catalogue'
import { api, take } from '@/api/client'
import type { FindingView } from '@/api/schema'
import { useAct } from '@/shell/act'
import ModalSheet from '@/shell/ModalSheet.vue'
import ProblemNote from '@/shell/ProblemNote.vue'
import { shortTime } from '@/shell/times'
import { untilFriday } from './wall'

/** Lets a finding, a meeting, or a rule in a unit stand for a while, with a reason. */
const props = defineProps<{
  open: boolean
  meeting: string
  title: string
  finding: FindingView
  subject: string
}>()
const emit = defineEmits<{ close: []; done: [words: string] }>()
const cache = useQueryCache()
const { organisation } = useOrganisation()
const scope = ref<'finding' | 'meeting' | 'rule'>('finding')
const unit = ref('')
const reason = ref('')
const until = ref(untilFriday(new Date()))
const { busy, problem, attempt } = useAct()
const { data: settings } = useQuery({
  key: ['waivers', 'settings'],
  query: () => take(api.GET('/api/waivers/settings')),
})
const isComplete = computed(
  () => reason.value.trim() && until.value && (scope.value !== 'rule' || unit.value),
)
async function grant() {
  await attempt(async () => {
    const granted = await take(
      api.POST('/api/waivers', {
        body: {
          scope: scope.value,
          ...(scope.value === 'rule'
            ? { unit: unit.value, subject: props.subject }
            : { meeting: props.meeting }),
          ...(scope.value === 'finding'
            ? {
                check: props.finding.check,
                subject: props.subject,
                occurrence: props.finding.occurrence ?? '',
              }
            : {}),
          reason: reason.value,
          until: new Date(until.value).toISOString(),
        },
      }),
    )
    await cache.invalidateQueries({ key: ['waivers'] })
    emit(
      'done',
      granted.state === 'waiting'
        ? 'The waiver waits for a second warden.'
        : `Waived until ${shortTime(granted.until)}.`,
    )
  })
}
</script>

<template>
  <ModalSheet :open="open" title="Waive" @close="emit('close')">
    <form @submit.prevent="grant">
      <fieldset>
        <legend class="hidden-label">What may stand</legend>
        <label class="flex gap-2">
          <input v-model="scope" type="radio" value="finding" /> this finding in “{{ title }}”
        </label>
        <label class="flex gap-2">
          <input v-model="scope" type="radio" value="meeting" /> everything in “{{ title }}”
        </label>
        <label v-if="subject" class="flex flex-wrap items-center gap-2">
          <input v-model="scope" type="radio" value="rule" /> everything on
          <span class="value">{{ subject }}</span> in
          <select v-model="unit" class="field" aria-label="Unit" :disabled="scope !== 'rule'">
            <option value="">a unit…</option>
            <option v-for="u in organisation?.units ?? []" :key="u.id" :value="u.id">
              {{ u.name }}
            </option>
          </select>
        </label>
      </fieldset>
      <label class="mt-3 block">
        Why it may stand
        <textarea v-model="reason" class="field mt-1 w-full" rows="2" maxlength="2000" required />
      </label>
      <label class="mt-2 block">
        Until
        <input v-model="until" type="datetime-local" class="field mt-1" required />
      </label>
      <p class="mt-1 text-[12.5px] text-soft">
        It is shown wherever the finding would be, and ends by itself.
        {{ settings?.byTwo ? 'A second warden has to agree.' : '' }}
      </p>
      <ProblemNote class="mt-2" :problem="problem" />
      <button class="button button-main mt-3" :disabled="busy || !isComplete">
        {{ busy ? 'Granting…' : 'Waive' }}
      </button>
    </form>
  </ModalSheet>
</template>
