<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { ref } from 'vue'
import { api, take } from '@/api/client'
import type { RetentionRule } from '@/api/schema'
import { useSession } from '@/api/session'
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
const problem = ref<Error | null>(null)
const words: Record<string, { name: string; says: string }> = {
  audits: {
    name: 'Audits',
    says: 'with their findings; the baseline, the standing and the last one stay',
  },
  'session-people': {
    name: 'Who was in a session',
    says: 'joins, acts and alerts; that it took place, and its incidents, stay',
  },
  sessions: { name: 'Sessions', says: 'as a whole, with their incidents' },
  messages: { name: 'Messages', says: 'that were sent; what waits still goes out' },
  versions: { name: 'Meetings as they once were', says: 'and those that were cancelled' },
  places: { name: 'Where people signed in', says: 'network addresses' },
  tokens: { name: 'Access tokens', says: 'after their end' },
  ledger: {
    name: 'The ledger',
    says: 'is cut at its beginning; the cut is an entry, and the rest verifies',
  },
}
/** What was typed and not yet said to count, by what it is about. */
const typed = ref<Record<string, string>>({})
const saving = ref<string | null>(null)
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
  new Date(Date.now() - (days(rule) ?? 0) * 864e5).toLocaleDateString('en-GB', {
    day: 'numeric',
    month: 'long',
    year: 'numeric',
  })
function leave(rule: RetentionRule) {
  typed.value = Object.fromEntries(Object.entries(typed.value).filter(([k]) => k !== rule.what))
}
async function keep(rule: RetentionRule) {
  if (wrong(rule)) return
  problem.value = null
  said.value = ''
  saving.value = rule.what
  const to = days(rule)
  try {
    await take(
      api.PUT('/api/keeping/{what}', {
        params: { path: { what: rule.what } },
        body: { days: to },
      }),
    )
    leave(rule)
    said.value = `${words[rule.what]?.name ?? rule.what}: kept ${to === null ? 'for ever' : to === 1 ? 'for a day' : `for ${to} days`} from now on.`
  } catch (e) {
    problem.value = e as Error
  } finally {
    saving.value = null
  }
  await refetch()
}
</script>

<template>
  <StatePanel v-if="error && !data" state="failed" :problem="error" @retry="refetch()" />
  <StatePanel v-else-if="!data" state="loading" />
  <template v-else>
    <p class="mb-3 max-w-3xl text-soft">
      What is older goes by itself, each hour, and does not come back. An empty field keeps for
      ever. What is typed here counts once you say so.
    </p>
    <p v-if="said" class="mb-3 max-w-3xl border-l-4 border-kelp bg-sheet px-3 py-1" role="status">
      {{ said }}
    </p>
    <ProblemNote class="mb-3" :problem="problem" />
    <table class="grid-lines stack max-w-4xl">
      <thead>
        <tr>
          <th scope="col">What</th>
          <th scope="col">Days</th>
          <th scope="col">Last looked for</th>
          <th scope="col" class="text-right">Rows gone so far</th>
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
              placeholder="for ever"
              :aria-label="`Days for ${words[rule.what]?.name ?? rule.what}`"
              :aria-describedby="differs(rule) ? `k-${rule.what}` : undefined"
              :disabled="!session.isWarden"
              :value="typed[rule.what] ?? rule.days ?? ''"
              @input="typed[rule.what] = ($event.target as HTMLInputElement).value"
              @keydown.enter="differs(rule) && !shorter(rule) && keep(rule)"
              @keydown.esc="leave(rule)"
            />
            <div v-if="differs(rule)" :id="`k-${rule.what}`" class="mt-1 max-w-72" data-unsaved>
              <p v-if="wrong(rule)" class="text-[12.5px] text-rust">
                1 to 36,500 days, or nothing to keep for ever.
              </p>
              <p v-else-if="shorter(rule)" class="text-[12.5px] text-rust">
                What is from before {{ before(rule) }} goes within the hour, for good.
              </p>
              <p v-else class="text-[12.5px] text-soft">Not saved yet.</p>
              <span class="mt-1 flex gap-3">
                <button
                  type="button"
                  class="button"
                  :disabled="wrong(rule) || saving === rule.what"
                  @click="keep(rule)"
                >
                  {{ shorter(rule) ? 'Let go of the older' : 'Keep so' }}
                </button>
                <button type="button" class="link" @click="leave(rule)">as it was</button>
              </span>
            </div>
          </td>
          <td class="value">{{ rule.ranAt ? shortTime(rule.ranAt) : 'not yet' }}</td>
          <td class="value text-right">{{ rule.forgot }}</td>
        </tr>
      </tbody>
    </table>
  </template>
</template>
