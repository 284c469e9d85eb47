<script setup lang="ts">
import { locale, t } from '@/wording'
import { useQuery } from '@pinia/colada'
import { ref } from 'vue'
import { api, take } from '@/api/client'
import type { RetentionRule } from '@/api/schema'
import { useSession } from '@/api/session'
import { useRowAct } from '@/shell/act'
import ProblemNote from '@/shell/ProblemNote.vue'
import StatePanel from '@/shell/StatePanel.vue'
import { shortTime } from '@/shell/times'
import { useUnsaved } from '@/shell/unsaved'

/** How long things are kept. */
const session = useSession()
const { data, error, refetch } = useQuery({
  key: ['keeping'],
  query: () => take(api.GET('/api/keeping')),
})
const { underWay, problem, attempt } = useRowAct()
const words: Record<string, { name: string; says: string }> = {
  audits: {
    name: t('house.audits'),
    says: t('house.withTheirFindingsTheBaselineTheStanding'),
  },
  'session-people': {
    name: t('house.whoWasInASession'),
    says: t('house.joinsActsAndAlertsThatItTook'),
  },
  sessions: { name: t('house.sessions'), says: t('house.asAWholeWithTheirIncidents') },
  messages: { name: t('house.messages'), says: t('house.thatWereSentWhatWaitsStillGoes') },
  versions: { name: t('house.meetingsAsTheyOnceWere'), says: t('house.andThoseThatWereCancelled') },
  places: { name: t('house.wherePeopleSignedIn'), says: t('house.networkAddresses') },
  tokens: { name: t('house.accessTokens'), says: t('house.afterTheirEnd') },
  ledger: {
    name: t('house.theLedger'),
    says: t('house.isCutAtItsBeginningTheCut'),
  },
}
/** What was typed and not yet said to count, by what it is about. */
const typed = ref<Record<string, string>>({})
const said = ref('')
const days = (rule: RetentionRule) => {
  const text = typed.value[rule.what]
  return text === undefined ? (rule.days ?? null) : text.trim() === '' ? null : Number(text)
}
const differs = (rule: RetentionRule) =>
  typed.value[rule.what] !== undefined && days(rule) !== (rule.days ?? null)
useUnsaved(() => (data.value ?? []).some(differs))
const wrong = (rule: RetentionRule) => {
  const d = days(rule)
  return d !== null && !(Number.isInteger(d) && d >= 1 && d <= 36_500)
}
/** Shorter than before lets go of what is there; longer, or for ever, of nothing. */
const shorter = (rule: RetentionRule) => {
  const d = days(rule)
  return d !== null && (rule.days == null || d < rule.days)
}
const before = (rule: RetentionRule) =>
  new Date(Date.now() - (days(rule) ?? 0) * 864e5).toLocaleDateString(locale, {
    day: 'numeric',
    month: 'long',
    year: 'numeric',
  })
function leave(rule: RetentionRule) {
  typed.value = Object.fromEntries(Object.entries(typed.value).filter(([k]) => k !== rule.what))
}
async function keep(rule: RetentionRule) {
  if (wrong(rule)) return
  said.value = ''
  const to = days(rule)
  await attempt(rule.what, async () => {
    await take(
      api.PUT('/api/keeping/{what}', {
        params: { path: { what: rule.what } },
        body: { days: to },
      }),
    )
    // what was typed while it was saved is still to be said
    if (days(rule) === to) leave(rule)
    said.value = t('house.nameKeptXFromNowOn', {
      name: words[rule.what]?.name ?? rule.what,
      x:
        to === null
          ? t('house.forEver')
          : to === 1
            ? t('house.forADay')
            : t('house.forToDays', { to }),
    })
  })
  await refetch()
}
</script>

<template>
  <StatePanel v-if="error && !data" state="failed" :problem="error" @retry="refetch()" />
  <StatePanel v-else-if="!data" state="loading" />
  <template v-else>
    <p class="mb-3 max-w-3xl text-soft">
      {{ t('house.whatIsOlderGoesByItselfEach') }}
    </p>
    <p v-if="said" class="mb-3 max-w-3xl border-l-4 border-kelp bg-sheet px-3 py-1" role="status">
      {{ said }}
    </p>
    <ProblemNote class="mb-3" :problem="problem" />
    <table class="grid-lines stack max-w-4xl">
      <thead>
        <tr>
          <th scope="col">{{ t('house.what') }}</th>
          <th scope="col">{{ t('house.days') }}</th>
          <th scope="col">{{ t('house.lastLookedFor') }}</th>
          <th scope="col" class="text-right">{{ t('house.rowsGoneSoFar') }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="rule in data" :key="rule.what">
          <td>
            {{ words[rule.what]?.name ?? rule.what }}
            <span class="block text-[12.5px] text-soft">{{ words[rule.what]?.says }}</span>
          </td>
          <td>
            <input
              class="field value w-24"
              :class="wrong(rule) ? 'border-rust' : ''"
              type="number"
              min="1"
              max="36500"
              :placeholder="t('house.forEver')"
              :aria-label="t('house.daysForName', { name: words[rule.what]?.name ?? rule.what })"
              :aria-describedby="differs(rule) ? `k-${rule.what}` : undefined"
              :disabled="!session.isWarden"
              :value="typed[rule.what] ?? rule.days ?? ''"
              @input="typed[rule.what] = ($event.target as HTMLInputElement).value"
              @keydown.enter="differs(rule) && !shorter(rule) && keep(rule)"
              @keydown.esc="leave(rule)"
            />
            <div v-if="differs(rule)" :id="`k-${rule.what}`" class="mt-1 max-w-72" data-unsaved>
              <p v-if="wrong(rule)" class="text-[12.5px] text-rust">
                {{ t('house.n1To36500DaysOrNothing') }}
              </p>
              <p v-else-if="shorter(rule)" class="text-[12.5px] text-rust">
                {{ t('house.whatIsFromBeforeRuleGoesWithin', { rule: before(rule) }) }}
              </p>
              <p v-else class="text-[12.5px] text-soft">{{ t('house.notSavedYet') }}</p>
              <span class="mt-1 flex gap-3">
                <button
                  type="button"
                  class="button"
                  :disabled="wrong(rule) || underWay.has(rule.what)"
                  @click="keep(rule)"
                >
                  {{ shorter(rule) ? t('house.letGoOfTheOlder') : t('house.keepSo') }}
                </button>
                <button type="button" class="link" @click="leave(rule)">
                  {{ t('house.asItWas') }}
                </button>
              </span>
            </div>
          </td>
          <td class="value">{{ rule.ranAt ? shortTime(rule.ranAt) : t('house.notYet') }}</td>
          <td class="value text-right">{{ rule.forgot }}</td>
        </tr>
      </tbody>
    </table>
  </template>
</template>
