<script setup lang="ts">
import { t } from '@/wording'
import { useQuery, useQueryCache } from '@pinia/colada'
import { computed } from 'vue'
import { useCatalogue, useOrganisation } from '@/api/catalogue'
import { api, take } from '@/api/client'
import type { GrantedWaiver } from '@/api/schema'
import { useSession } from '@/api/session'
import { useAddress } from '@/shell/address'
import { counted } from '@/shell/counted'
import FilterBar from '@/shell/FilterBar.vue'
import ListFoot from '@/shell/ListFoot.vue'
import type { RowAct } from '@/shell/rowActs'
import RowMenu from '@/shell/RowMenu.vue'
import { holds, isWithin, useRows } from '@/shell/rows'
import { useRowAct, useSetting } from '@/shell/act'
import ProblemNote from '@/shell/ProblemNote.vue'
import StatePanel from '@/shell/StatePanel.vue'
import { fullTime, shortTime } from '@/shell/times'
import GrantAsked from './GrantAsked.vue'
import PartFrame from './PartFrame.vue'

/** What may stand for a while: by whose word, why, until when; and what hosts ask for. */
const session = useSession()
const cache = useQueryCache()
const { unitName } = useOrganisation()
const { controls, checkTitle } = useCatalogue()
const {
  data: waivers,
  error,
  refetch,
} = useQuery({ key: ['waivers', 'all'], query: () => take(api.GET('/api/waivers')) })
const { data: asked } = useQuery({
  key: ['waivers', 'asked'],
  query: () => take(api.GET('/api/waivers/asked')),
})
const { data: settings } = useQuery({
  key: ['waivers', 'settings'],
  query: () => take(api.GET('/api/waivers/settings')),
})
const { query, set, clear, days, isNarrowedBy } = useAddress()
const isNarrowed = computed(() => isNarrowedBy())
const rows = computed(() =>
  (waivers.value ?? []).filter(
    (w) =>
      (query('over') || w.state === 'in-force' || w.state === 'waiting') &&
      holds(query('text'), what(w), w.reason, w.grantedBy) &&
      isWithin(w.until, days.value),
  ),
)
const { look } = useRows({ name: 'waiver', rows: () => rows.value })
function acts(w: GrantedWaiver): RowAct[] {
  const all: RowAct[] = []
  if (w.meeting) {
    all.push(
      {
        name: t('audit.itsFindings'),
        to: { path: '/audit', query: { meeting: w.meeting, show: 'all' } },
      },
      { name: t('audit.theMeeting'), to: `/register/${encodeURIComponent(w.meeting)}` },
    )
  }
  if (session.seesAll)
    all.push({
      name: t('audit.whatWasDoneWithIt'),
      to: { path: '/ledger', query: { object: 'waiver', objectId: String(w.id) } },
    })
  if (session.mayMend && w.state === 'in-force')
    all.push({ name: t('audit.endItNow'), act: () => void end(w.id) })
  return all
}
const states: Record<string, string> = {
  waiting: t('audit.waitsForASecondWarden'),
  'in-force': t('audit.inForce'),
  lapsed: t('audit.lapsed'),
  ended: t('audit.endedEarly'),
  refused: t('audit.refusedByTheSecond'),
}
const { problem, attempt } = useRowAct()
const done = (row: string | number, what: () => Promise<unknown>) =>
  attempt(row, async () => {
    await what()
    await cache.invalidateQueries({ key: ['waivers'] })
  })
const end = (id: number) =>
  done(id, () => take(api.POST('/api/waivers/{id}/end', { params: { path: { id } } })))
const second = (id: number, consent: boolean) =>
  done(id, () =>
    take(api.POST('/api/waivers/{id}/second', { params: { path: { id } }, body: { consent } })),
  )
const again = () => cache.invalidateQueries({ key: ['waivers'] })
// to need one alone waits for another warden’s word, and two are in force until then
const byTwo = useSetting(
  () => settings.value?.byTwo ?? true,
  (two) => take(api.PUT('/api/waivers/settings', { body: { byTwo: two } })).then(again),
  problem,
)
const unitsUpTo = useSetting(
  () => settings.value?.unitWaiverSeverity ?? 0,
  (severity) => take(api.PUT('/api/waivers/settings/units', { body: { severity } })).then(again),
  problem,
)
function what(w: GrantedWaiver): string {
  if (w.scope === 'rule') {
    return t('audit.everythingOnSubjectInUnit', {
      subject: about(w.subject),
      unit: unitName(w.unit) || w.unit,
    })
  }
  const of = t('audit.inTitle', { title: w.title ?? w.meeting })
  if (w.scope === 'meeting') return t('audit.everythingOf', { of })
  const found = checkTitle(w.check)
  return w.subject ? `${found}: ${about(w.subject)}, ${of}` : `${found}, ${of}`
}
/** A control by its title; people and rooms are called what they are. */
const about = (subject: string | null | undefined) =>
  subject ? (controls.value.get(subject)?.title ?? subject) : ''
</script>

<template>
  <PartFrame :title="t('audit.waivers')">
    <template #filter>
      <FilterBar :words="t('audit.whatWhyOrByWhom')" :days="t('audit.until2')">
        <label class="flex items-center gap-1.5"
          ><input
            type="checkbox"
            :checked="query('over') === '1'"
            @change="set({ over: query('over') ? undefined : '1' })"
          />
          {{ t('audit.thoseThatAreOverToo') }}</label
        >
      </FilterBar>
    </template>
    <template #foot><ListFoot v-if="waivers" :count="counted(rows.length, 'waiver')" /></template>
    <template #acts>
      <label v-if="settings && !session.isUnitWarden" class="flex items-center gap-1.5 text-soft">
        {{ t('audit.aUnitsWardenWaives') }}
        <select
          class="field"
          :value="unitsUpTo.shown.value"
          :disabled="!session.isWarden"
          @change="unitsUpTo.set(Number(($event.target as HTMLSelectElement).value))"
        >
          <option :value="0">{{ t('audit.nothing') }}</option>
          <option :value="1">{{ t('audit.notes') }}</option>
          <option :value="2">{{ t('audit.upToMinor') }}</option>
          <option :value="3">{{ t('audit.upToModerate') }}</option>
          <option :value="4">{{ t('audit.upToSerious') }}</option>
          <option :value="5">{{ t('audit.everything') }}</option>
        </select>
      </label>
      <label v-if="settings" class="flex items-center gap-1.5 text-soft">
        <input
          type="checkbox"
          :checked="byTwo.shown.value"
          :disabled="!session.isWarden"
          @change="byTwo.set(($event.target as HTMLInputElement).checked)"
        />
        {{ t('audit.grantedByTwo') }}
        <span v-if="settings.oneAskedBy" class="text-rust">
          {{
            t('audit.splitAsksToGoBackToOne', { split: settings.oneAskedBy.split('@')[0] })
          }}</span
        >
      </label>
    </template>
    <ProblemNote class="m-4" :problem="problem" />
    <section v-if="asked?.length" class="border-b border-line px-5 py-3">
      <h2 class="head">{{ t('audit.askedForByHosts') }}</h2>
      <GrantAsked v-for="a in asked" :key="a.id" :asked="a" />
    </section>
    <StatePanel v-if="error" state="failed" :problem="error" @retry="refetch()" />
    <StatePanel v-else-if="!waivers" state="loading" />
    <StatePanel
      v-else-if="!rows.length && isNarrowed"
      state="empty"
      :title="t('audit.noWaiverIsLikeThat')"
    >
      <button class="link" @click="clear()">{{ t('shell.showAllAgain') }}</button>
    </StatePanel>
    <StatePanel v-else-if="!rows.length" state="empty" :title="t('audit.nothingIsWaived')">
      {{ t('audit.onTheWall') }} <strong>w</strong> {{ t('audit.waivesTheFindingInHandUntilA') }}
    </StatePanel>
    <table v-else class="grid-lines stack">
      <thead>
        <tr>
          <th class="!pl-5">{{ t('audit.whatMayStand') }}</th>
          <th>{{ t('audit.why') }}</th>
          <th>{{ t('audit.by') }}</th>
          <th>{{ t('audit.until2') }}</th>
          <th scope="col">
            <span class="hidden-label">{{ t('audit.acts') }}</span>
          </th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(w, i) in rows" :id="`waiver-${i}`" :key="w.id" :class="look(i)">
          <td class="!pl-5">
            <RouterLink
              v-if="w.meeting"
              class="head"
              :to="{ path: '/audit', query: { meeting: w.meeting, show: 'all' } }"
              >{{ what(w) }}</RouterLink
            >
            <span v-else class="head">{{ what(w) }}</span>
          </td>
          <td>“{{ w.reason }}”</td>
          <td class="value">
            {{ w.grantedBy.split('@')[0] }}{{ w.secondBy ? `, ${w.secondBy.split('@')[0]}` : '' }}
          </td>
          <td class="whitespace-nowrap" :title="fullTime(w.until)">
            <span class="value">{{ shortTime(w.until) }}</span>
            <span v-if="w.state !== 'in-force'" class="block text-soft">{{ states[w.state] }}</span>
          </td>
          <td class="!pr-5 text-right whitespace-nowrap">
            <template v-if="session.isWarden && w.state === 'waiting'">
              <button class="button" @click="second(w.id, true)">{{ t('audit.agree') }}</button>
              <button class="button ml-2" @click="second(w.id, false)">
                {{ t('audit.refuse') }}
              </button>
            </template>
            <button
              v-if="session.mayMend && w.state === 'in-force'"
              class="link"
              @click="end(w.id)"
            >
              {{ t('audit.endItNow') }}
            </button>
            <RowMenu class="ml-2" :of="what(w)" :acts="acts(w)" />
          </td>
        </tr>
      </tbody>
    </table>
  </PartFrame>
</template>
