<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { ref } from 'vue'
import { api, take } from '@/api/client'
import type { KeepingRule } from '@/api/schema'
import { useSession } from '@/api/session'
import ProblemNote from '@/shell/ProblemNote.vue'
import StatePanel from '@/shell/StatePanel.vue'
import { shortTime } from '@/shell/times'

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
async function set(rule: KeepingRule, text: string) {
  problem.value = null
  const days = text.trim() === '' ? null : Number(text)
  try {
    await take(
      api.PUT('/api/keeping/{what}', { params: { path: { what: rule.what } }, body: { days } }),
    )
  } catch (e) {
    problem.value = e as Error
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
      ever.
    </p>
    <ProblemNote class="mb-3" :problem="problem" />
    <table class="grid-lines max-w-4xl">
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
              type="number"
              min="1"
              max="36500"
              placeholder="for ever"
              :aria-label="`Days for ${words[rule.what]?.name ?? rule.what}`"
              :disabled="!session.isWarden"
              :value="rule.days ?? ''"
              @change="set(rule, ($event.target as HTMLInputElement).value)"
            />
          </td>
          <td class="value">{{ rule.ranAt ? shortTime(rule.ranAt) : 'not yet' }}</td>
          <td class="value text-right">{{ rule.forgot }}</td>
        </tr>
      </tbody>
    </table>
  </template>
</template>
