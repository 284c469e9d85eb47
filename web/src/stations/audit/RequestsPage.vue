<script setup lang="ts">
import { t } from '@/wording'
import { useQuery, useQueryCache } from '@pinia/colada'
import { computed } from 'vue'
import { label, useCatalogue } from '@/api/catalogue'
import { api, take } from '@/api/client'
import { useSession } from '@/api/session'
import TallyMark from '@/marks/TallyMark.vue'
import { useAddress } from '@/shell/address'
import FilterBar from '@/shell/FilterBar.vue'
import FilterChoice from '@/shell/FilterChoice.vue'
import ListFoot from '@/shell/ListFoot.vue'
import type { RowAct } from '@/shell/rowActs'
import RowMenu from '@/shell/RowMenu.vue'
import { holds, isWithin, useRows } from '@/shell/rows'
import { useRowAct, useSetting } from '@/shell/act'
import ProblemNote from '@/shell/ProblemNote.vue'
import StatePanel from '@/shell/StatePanel.vue'
import { day } from '@/shell/times'
import PartFrame from './PartFrame.vue'
import { counted } from '@/shell/counted'
import { vShows } from '@/shell/shows'

/** What hosts have been asked and what they say, until it is mended or closed. */
const session = useSession()
const cache = useQueryCache()
const { controls } = useCatalogue()
const {
  data: requests,
  error,
  refetch,
} = useQuery({ key: ['requests', 'open'], query: () => take(api.GET('/api/host-requests')) })
const { data: settings } = useQuery({
  key: ['requests', 'settings'],
  query: () => take(api.GET('/api/host-requests/settings')),
})
const { query, clear, days, isNarrowedBy } = useAddress()
const isNarrowed = computed(() => isNarrowedBy('state'))
/** Requests of which something is asked for, each with that alone. */
const rows = computed(() =>
  (requests.value ?? [])
    .filter((r) => isWithin(r.askedAt, days.value))
    .map((r) => ({
      ...r,
      items: r.items.filter(
        (i) =>
          (!query('state') || (query('state') === 'open') === (i.state === 'open')) &&
          holds(query('text'), r.host, r.askedBy, i.title, i.sentence, i.answer),
      ),
    }))
    .filter((r) => r.items.length > 0),
)
const { look } = useRows({ name: 'request', rows: () => rows.value })
function acts(host: string): RowAct[] {
  const all: RowAct[] = [
    { name: t('audit.meetingsOfTheHost'), to: { path: '/register', query: { host } } },
  ]
  if (session.seesAll)
    all.unshift({ name: t('audit.theHost'), to: `/people/${encodeURIComponent(host)}` })
  return all
}
const { problem, attempt } = useRowAct()
const done = (row: string | number, what: () => Promise<unknown>) =>
  attempt(row, async () => {
    await what()
    await cache.invalidateQueries({ key: ['requests'] })
  })
const accept = (id: number) =>
  done(id, () =>
    take(api.POST('/api/host-requests/items/{id}/accept', { params: { path: { id } } })),
  )
const close = (id: number) =>
  done(id, () =>
    take(api.POST('/api/host-requests/items/{id}/close', { params: { path: { id } } })),
  )
const save = async (body: { remindDays?: number; applyAfterDays?: number }) => {
  await take(api.PUT('/api/host-requests/settings', { body }))
  await cache.invalidateQueries({ key: ['requests'] })
}
const remindDays = useSetting(
  () => settings.value?.remindDays ?? 0,
  (days) => save({ remindDays: days }),
  problem,
)
const applyAfterDays = useSetting(
  () => settings.value?.applyAfterDays ?? 0,
  (days) => save({ applyAfterDays: days }),
  problem,
)
const number = (event: Event) => Number((event.target as HTMLInputElement).value)
</script>

<template>
  <PartFrame :title="t('audit.askedOfHosts')">
    <template #head>
      <span v-if="settings" class="flex items-center gap-1.5 text-soft">
        {{ t('audit.remindedAfter') }}
        <input
          v-shows="remindDays.shown.value"
          class="field w-14 text-ink"
          type="number"
          min="1"
          max="60"
          :aria-label="t('audit.daysUntilAHostIsReminded')"
          :disabled="!session.isWarden"
          @change="remindDays.set(number($event))"
        />
        {{ t('audit.daysAppliedWithoutThemAfter') }}
        <input
          v-shows="applyAfterDays.shown.value"
          class="field w-14 text-ink"
          type="number"
          min="0"
          max="90"
          :aria-label="t('audit.daysUntilTheChangeMayBeApplied')"
          :disabled="!session.isWarden"
          @change="applyAfterDays.set(number($event))"
        />
        {{ t('audit.days') }}
      </span>
    </template>
    <template #filter>
      <FilterBar :words="t('audit.hostMeetingOrWords')" :days="t('audit.askedOn')">
        <FilterChoice
          name="state"
          :label="t('audit.howItStands')"
          :all="t('audit.answeredOrNot')"
          :choices="[
            { id: 'open', name: t('audit.noAnswerYet') },
            { id: 'answered', name: t('audit.answered') },
          ]"
        />
      </FilterBar>
    </template>
    <template #foot><ListFoot v-if="requests" :count="counted(rows.length, 'request')" /></template>
    <ProblemNote class="m-4" :problem="problem" />
    <StatePanel v-if="error" state="failed" :problem="error" @retry="refetch()" />
    <StatePanel v-else-if="!requests" state="loading" />
    <StatePanel
      v-else-if="!requests.length"
      state="empty"
      :title="t('audit.noHostIsAskedAnything')"
    >
      {{ t('audit.onTheWall') }} <strong>q</strong> {{ t('audit.asksTheHostOfTheFindingIn') }}
    </StatePanel>
    <StatePanel
      v-else-if="!rows.length && isNarrowed"
      state="empty"
      :title="t('audit.nothingAskedIsLikeThat')"
    >
      <button class="link" @click="clear()">{{ t('shell.showAllAgain') }}</button>
    </StatePanel>
    <section
      v-for="(r, index) in rows"
      v-else
      :id="`request-${index}`"
      :key="r.id"
      class="border-b border-line px-5 py-3"
      :class="look(index)"
    >
      <h2 class="flex items-baseline gap-3">
        <span class="head">{{ r.host }}</span>
        <span class="text-soft">{{
          t('audit.askedAskedAtBySplitXMayBe', {
            askedAt: day(r.askedAt),
            split: r.askedBy.split('@')[0],
            x: r.reminded ? t('audit.remindedTimes', { times: counted(r.reminded, 'time') }) : '',
            applyAfter: day(r.applyAfter),
          })
        }}</span>
        <RowMenu class="ml-auto" :of="r.host" :acts="acts(r.host)" />
      </h2>
      <ul class="mt-1">
        <li
          v-for="i in r.items"
          :key="i.id"
          class="grid grid-cols-[28px_minmax(0,16rem)_minmax(0,1fr)_auto] items-start gap-3 border-t border-hair py-1.5"
        >
          <TallyMark class="mt-1" :severity="i.severity" />
          <RouterLink
            class="head truncate"
            dir="auto"
            :to="{ path: '/audit', query: { meeting: i.meeting } }"
            >{{ i.title }}</RouterLink
          >
          <div>
            <p>{{ i.sentence }}</p>
            <p v-for="w in i.words" :key="w" class="text-soft">{{ w }}</p>
            <p v-if="i.state === 'reasoned'" class="border-l-4 border-sea bg-sea-wash px-2">
              {{ t('audit.itHasToBeSoAnswer', { answer: i.answer }) }}
            </p>
            <p v-if="i.state === 'proposed'" class="border-l-4 border-sea bg-sea-wash px-2">
              {{ t('audit.instead') }}
              <span v-for="(v, c) in i.proposed ?? {}" :key="c" class="value"
                >{{ c }} {{ label(controls.get(String(c)), v) }}
              </span>
              {{ i.answer ? `“${i.answer}”` : '' }}
            </p>
          </div>
          <span class="flex gap-2 whitespace-nowrap">
            <template v-if="i.state === 'open'"
              ><span class="text-soft">{{ t('audit.noAnswerYet') }}</span></template
            >
            <template v-else-if="session.mayMend">
              <button v-if="i.state === 'proposed'" class="button" @click="accept(i.id)">
                {{ t('audit.applyThat') }}
              </button>
              <button class="button" @click="close(i.id)">{{ t('audit.close2') }}</button>
            </template>
          </span>
        </li>
      </ul>
    </section>
  </PartFrame>
</template>
