<script setup lang="ts">
import { useQuery, useQueryCache } from '@pinia/colada'
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, take } from '@/api/client'
import { useSession } from '@/api/session'
import ProblemNote from '@/shell/ProblemNote.vue'
import StatePanel from '@/shell/StatePanel.vue'
import { shortTime } from '@/shell/times'
import JobLine from './JobLine.vue'
import { jobWords } from './jobs'
import PartFrame from './PartFrame.vue'

/** What was applied, how each stands, and how the stand-in for the conference service behaves. */
const route = useRoute()
const router = useRouter()
const session = useSession()
const cache = useQueryCache()
const {
  data: jobs,
  error,
  refetch,
} = useQuery({
  key: ['remedies', 'all'],
  query: () => take(api.GET('/api/remedies', { params: { query: { most: 100 } } })),
})
const opened = computed(() => Number(route.query.job ?? 0))
const { data: job } = useQuery({
  key: () => ['remedies', opened.value, 'items'],
  query: () =>
    take(
      api.GET('/api/remedies/{id}', {
        params: { path: { id: opened.value }, query: { most: 500 } },
      }),
    ),
  enabled: () => opened.value > 0,
})
const { data: mood } = useQuery({
  key: ['remedies', 'bridge'],
  query: () => take(api.GET('/api/bridge')),
})
const isAway = computed(
  () => !!mood.value?.awayUntil && new Date(mood.value.awayUntil) > new Date(),
)
const refuses = ref<string | null>(null)
const problem = ref<Error | null>(null)
async function behave(awaySeconds: number, refused: string) {
  problem.value = null
  try {
    await take(api.PUT('/api/bridge', { body: { awaySeconds, refuses: refused } }))
    await cache.invalidateQueries({ key: ['remedies'] })
  } catch (e) {
    problem.value = e as Error
  }
}
const states: Record<string, string> = {
  waiting: 'waiting',
  sending: 'under way',
  confirming: 'not confirmed yet',
  done: 'done',
  refused: 'refused',
  overtaken: 'left alone',
  gone: 'meeting gone',
  'given-up': 'given up',
}
</script>

<template>
  <PartFrame title="Remedies">
    <StatePanel v-if="error" state="failed" :problem="error" @retry="refetch()" />
    <StatePanel v-else-if="!jobs" state="loading" />
    <div v-else class="grid min-h-full" :class="opened ? 'grid-cols-[minmax(0,1fr)_420px]' : ''">
      <div>
        <StatePanel v-if="!jobs.length" state="empty" title="Nothing has been applied yet">
          Remedies are applied on the wall; here is what becomes of them.
        </StatePanel>
        <table v-else class="grid-lines">
          <thead>
            <tr>
              <th class="!pl-5">What</th>
              <th>By</th>
              <th>When</th>
              <th>How it stands</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="j in jobs" :key="j.id" :class="j.id === opened ? 'bg-sheet' : ''">
              <td class="max-w-72 truncate !pl-5">
                <button
                  class="head text-left"
                  @click="router.replace({ query: { job: String(j.id) } })"
                >
                  {{ j.what }}
                </button>
              </td>
              <td class="value">{{ j.by.split('@')[0] }}</td>
              <td class="value whitespace-nowrap">{{ shortTime(j.at) }}</td>
              <td>{{ j.undoneBy ? 'Undone. ' : '' }}{{ jobWords(j).words }}</td>
            </tr>
          </tbody>
        </table>
        <section v-if="mood" class="mx-5 my-5 max-w-2xl border-t border-line pt-3">
          <h2 class="head">The conference service</h2>
          <p class="text-soft">
            What stands in for it here
            {{
              isAway
                ? `does not answer until ${shortTime(mood.awayUntil)}`
                : mood.refuses
                  ? `refuses to change “${mood.refuses}”`
                  : 'answers and does as it is told'
            }}.
          </p>
          <form
            v-if="session.mayMend"
            class="mt-2 flex flex-wrap items-center gap-2"
            @submit.prevent="behave(0, refuses ?? mood.refuses)"
          >
            <button type="button" class="button" @click="behave(isAway ? 0 : 60, mood.refuses)">
              {{ isAway ? 'Let it come back' : 'Let it be away for a minute' }}
            </button>
            <label class="flex items-center gap-1.5"
              >refuses
              <input
                class="field w-40"
                placeholder="a control’s name"
                :value="refuses ?? mood.refuses"
                @input="refuses = ($event.target as HTMLInputElement).value"
              />
            </label>
            <button class="button">Set</button>
          </form>
          <ProblemNote class="mt-2" :problem="problem" />
        </section>
      </div>
      <aside v-if="opened && job" class="border-l border-ink bg-sheet px-5 py-4">
        <div class="flex justify-between">
          <h2 class="head">{{ job.job.what }}</h2>
          <button class="link" @click="router.replace({ query: {} })">Close</button>
        </div>
        <JobLine class="mt-2" :job="opened" />
        <ul class="mt-3">
          <li v-for="i in job.items" :key="i.id" class="border-b border-hair py-1.5">
            <RouterLink class="head" :to="`/register/${encodeURIComponent(i.meeting)}`">{{
              i.title
            }}</RouterLink>
            <span class="float-right" :class="i.state === 'done' ? 'text-kelp' : 'text-rust'">{{
              states[i.state]
            }}</span>
            <span class="value block text-soft">{{
              Object.keys(i.plan.changes).join(', ') ||
              (i.plan.newPasscode ? 'a new passcode' : i.plan.newNumber ? 'a new number' : '')
            }}</span>
            <span v-if="i.trouble" class="block text-[12.5px]">
              {{ i.trouble }}{{ i.nextTry ? `; tried again ${shortTime(i.nextTry)}` : '' }}
            </span>
          </li>
        </ul>
      </aside>
    </div>
  </PartFrame>
</template>
