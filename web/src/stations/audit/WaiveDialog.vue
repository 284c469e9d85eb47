<script setup lang="ts">
import { t } from '@/wording'
import { useQuery, useQueryCache } from '@pinia/colada'
import { computed, ref } from 'vue'
import { useCatalogue, useOrganisation } from '@/api/catalogue'
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
const { controlTitle } = useCatalogue()
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
        ? t('audit.theWaiverWaitsForASecondWarden')
        : t('audit.waivedUntilUntil', { until: shortTime(granted.until) }),
    )
  })
}
</script>

<template>
  <ModalSheet :open="open" :title="t('audit.waive4')" @close="emit('close')">
    <form @submit.prevent="grant">
      <fieldset>
        <legend class="hidden-label">{{ t('audit.whatMayStand') }}</legend>
        <label class="flex gap-2">
          <input v-model="scope" type="radio" value="finding" />
          {{ t('audit.thisFindingInTitle', { title }) }}
        </label>
        <label class="flex gap-2">
          <input v-model="scope" type="radio" value="meeting" />
          {{ t('audit.everythingInTitle', { title }) }}
        </label>
        <label v-if="subject" class="flex flex-wrap items-center gap-2">
          <input v-model="scope" type="radio" value="rule" /> {{ t('audit.everythingOn') }}
          <strong>{{ controlTitle(subject) }}</strong> {{ t('audit.in') }}
          <select
            v-model="unit"
            class="field"
            :aria-label="t('audit.unit')"
            :disabled="scope !== 'rule'"
          >
            <option value="">{{ t('audit.aUnit') }}</option>
            <option v-for="u in organisation?.units ?? []" :key="u.id" :value="u.id">
              {{ u.name }}
            </option>
          </select>
        </label>
      </fieldset>
      <label class="mt-3 block">
        {{ t('audit.whyItMayStand') }}
        <textarea
          v-model="reason"
          class="field mt-1 w-full"
          rows="2"
          maxlength="2000"
          required
          :readonly="busy"
        />
      </label>
      <label class="mt-2 block">
        {{ t('audit.until2') }}
        <input v-model="until" type="datetime-local" class="field mt-1" required />
      </label>
      <p class="mt-1 text-[12.5px] text-soft">
        {{
          t('audit.itIsShownWhereverTheFindingWould', {
            x: settings?.byTwo ? t('audit.aSecondWardenHasToAgree') : '',
          })
        }}
      </p>
      <ProblemNote class="mt-2" :problem="problem" />
      <button class="button button-main mt-3" :disabled="busy || !isComplete">
        {{ busy ? t('audit.granting') : t('audit.waive4') }}
      </button>
    </form>
  </ModalSheet>
</template>
