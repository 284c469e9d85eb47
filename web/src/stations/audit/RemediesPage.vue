<script setup lang="ts">
import { t } from '@/wording'
import { useQuery, useQueryCache } from '@pinia/colada'
import { computed, ref } from 'vue'
import { api, take } from '@/api/client'
import { useSession } from '@/api/session'
import { useAddress } from '@/shell/address'
import { counted } from '@/shell/counted'
import FilterBar from '@/shell/FilterBar.vue'
import ListFoot from '@/shell/ListFoot.vue'
import { holds, isWithin, useRows } from '@/shell/rows'
import { useAct } from '@/shell/act'
import ProblemNote from '@/shell/ProblemNote.vue'
import StatePanel from '@/shell/StatePanel.vue'
import { shortTime } from '@/shell/times'
import JobLine from './JobLine.vue'
import { jobWords } from './jobs'
import PartFrame from './PartFrame.vue'

/** What was applied, how each stands, and how the stand-in for the conference service behaves. */
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
const { query, set, clear, days, isNarrowedBy } = useAddress()
const isNarrowed = computed(() => isNarrowedBy())
const rows = computed(() =>
  (jobs.value ?? []).filter(
    (j) => holds(query('text'), j.what, j.by) && isWithin(j.at, days.value),
  ),
)
const open = (id: number) => set({ job: String(id) })
const { cursor, look } = useRows({
  name: 'remedy',
  rows: () => rows.value,
  open: (j) => void open(j.id),
  opened: () => rows.value.findIndex((j) => String(j.id) === query('job')),
  menu: false,
  keys: [
    { key: 'Escape', does: t('shell.closeWhatIsOpen'), act: () => void set({ job: undefined }) },
  ],
})
const opened = computed(() => Number(query('job') || 0))
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
const { problem, attempt } = useAct()
const behave = (awaySeconds: number, refused: string) =>
  attempt(async () => {
    await take(api.PUT('/api/bridge', { body: { awaySeconds, refuses: refused } }))
    await cache.invalidateQueries({ key: ['remedies'] })
  })
const states: Record<string, string> = {
  waiting: t('audit.waiting'),
  sending: t('audit.underWay'),
  confirming: t('audit.notConfirmedYet'),
  done: t('audit.done'),
  refused: t('audit.refused'),
  overtaken: t('audit.leftAlone'),
  gone: t('audit.meetingGone'),
  'given-up': t('audit.givenUp'),
}
</script>

<template>
  <PartFrame :title="t('audit.remedies')">
    <template #filter
      ><FilterBar :words="t('audit.whatOrByWhom')" :days="t('audit.when')"
    /></template>
    <template #foot
      ><ListFoot v-if="jobs" :count="counted(rows.length, 'remedy')" opens
    /></template>
    <StatePanel v-if="error" state="failed" :problem="error" @retry="refetch()" />
    <StatePanel v-else-if="!jobs" state="loading" />
    <div v-else class="grid min-h-full" :class="opened ? 'grid-cols-[minmax(0,1fr)_420px]' : ''">
      <div>
        <StatePanel v-if="!jobs.length" state="empty" :title="t('audit.nothingHasBeenAppliedYet')">
          {{ t('audit.remediesAreAppliedOnTheWallHere') }}
        </StatePanel>
        <StatePanel
          v-else-if="!rows.length && isNarrowed"
          state="empty"
          :title="t('audit.noRemedyIsLikeThat')"
        >
          <button class="link" @click="clear()">{{ t('shell.showAllAgain') }}</button>
        </StatePanel>
        <table v-else class="grid-lines">
          <thead>
            <tr>
              <th class="!pl-5">{{ t('audit.what') }}</th>
              <th>{{ t('audit.by') }}</th>
              <th>{{ t('audit.when') }}</th>
              <th>{{ t('audit.howItStands') }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(j, i) in rows" :id="`remedy-${i}`" :key="j.id" :class="look(i)">
              <td class="max-w-72 truncate !pl-5">
                <button
                  class="head text-left"
                  :aria-expanded="j.id === opened"
                  @focus="cursor = i"
                  @click="open(j.id)"
                >
                  {{ j.what }}
                </button>
              </td>
              <td class="value">{{ j.by.split('@')[0] }}</td>
              <td class="value whitespace-nowrap">{{ shortTime(j.at) }}</td>
              <td>{{ j.undoneBy ? t('audit.undone2') : '' }}{{ jobWords(j).words }}</td>
            </tr>
          </tbody>
        </table>
        <section v-if="mood" class="mx-5 my-5 max-w-2xl border-t border-line pt-3">
          <h2 class="head">{{ t('audit.theConferenceService') }}</h2>
          <p class="text-soft">
            {{
              t('audit.whatStandsInForItHereX', {
                x: isAway
                  ? t('audit.doesNotAnswerUntilAwayUntil', { awayUntil: shortTime(mood.awayUntil) })
                  : mood.refuses
                    ? t('audit.refusesToChangeRefuses', { refuses: mood.refuses })
                    : t('audit.answersAndDoesAsItIsTold'),
              })
            }}
          </p>
          <form
            v-if="session.mayMend"
            class="mt-2 flex flex-wrap items-center gap-2"
            @submit.prevent="behave(0, refuses ?? mood.refuses)"
          >
            <button type="button" class="button" @click="behave(isAway ? 0 : 60, mood.refuses)">
              {{ isAway ? t('audit.letItComeBack') : t('audit.letItBeAwayForAMinute') }}
            </button>
            <label class="flex items-center gap-1.5"
              >{{ t('audit.refuses') }}
              <input
                class="field w-40"
                :placeholder="t('audit.aControlsName')"
                :value="refuses ?? mood.refuses"
                @input="refuses = ($event.target as HTMLInputElement).value"
              />
            </label>
            <button class="button">{{ t('audit.set') }}</button>
          </form>
          <ProblemNote class="mt-2" :problem="problem" />
        </section>
      </div>
      <aside v-if="opened && job" class="border-l border-ink bg-sheet px-5 py-4">
        <div class="flex justify-between">
          <h2 class="head">{{ job.job.what }}</h2>
          <button class="link" @click="set({ job: undefined })">
            {{ t('audit.close2') }}
          </button>
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
              (i.plan.newPasscode
                ? t('audit.aNewPasscode')
                : i.plan.newNumber
                  ? t('audit.aNewNumber')
                  : '')
            }}</span>
            <span v-if="i.trouble" class="block text-[12.5px]">
              {{ i.trouble
              }}{{
                i.nextTry ? t('audit.triedAgainNextTry', { nextTry: shortTime(i.nextTry) }) : ''
              }}
            </span>
          </li>
        </ul>
      </aside>
    </div>
  </PartFrame>
</template>
