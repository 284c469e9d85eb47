<script setup lang="ts">
import { t } from '@/wording'
import { useQuery } from '@pinia/colada'
import { useMediaQuery } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, take } from '@/api/client'
import { useSession } from '@/api/session'
import TallyMark from '@/marks/TallyMark.vue'
import { useAddress } from '@/shell/address'
import { counted } from '@/shell/counted'
import FilterBar from '@/shell/FilterBar.vue'
import ListFoot from '@/shell/ListFoot.vue'
import type { RowAct } from '@/shell/rowActs'
import RowMenu from '@/shell/RowMenu.vue'
import { holds, isWithin, useRows } from '@/shell/rows'
import StatePanel from '@/shell/StatePanel.vue'
import { shortTime } from '@/shell/times'
import { fromStart } from './floor'
import LockdownPart from './LockdownPart.vue'
import PracticeDialog from './PracticeDialog.vue'
import { useNow } from './useNow'

/** Sessions in progress, those with alerts first, and those that are over. */
const route = useRoute()
const router = useRouter()
const session = useSession()
const { data, error, refetch } = useQuery({
  key: ['floor', 'sessions'],
  query: () => take(api.GET('/api/floor/sessions')),
})
const { now } = useNow()
/** There is no room for a column of alerts: they stand under the title. */
const phone = useMediaQuery('(width <= 600px)')
const running = computed(() =>
  [...(data.value?.running ?? [])].sort(
    (a, b) => b.worst - a.worst || b.door - a.door || a.starts.localeCompare(b.starts),
  ),
)
const { query, clear, days, isNarrowedBy } = useAddress()
const isNarrowed = computed(() => isNarrowedBy())
type Row = (typeof running.value)[number]
const isWanted = (s: Row) => holds(query('text'), s.title, s.host) && isWithin(s.starts, days.value)
const live = computed(() => running.value.filter(isWanted))
const rows = computed(() => [...live.value, ...(data.value?.over ?? []).filter(isWanted)])
// a meeting's own page leads here with it
const practising = ref(false)
const practised = ref('')
watch(
  () => route.query.practise,
  (wanted) => {
    if (wanted === undefined) return
    practised.value = String(wanted ?? '')
    practising.value = true
    router.replace({ query: { ...route.query, practise: undefined } })
  },
  { immediate: true },
)
const open = (id?: string) => id && router.push(`/floor/${id}`)
const { cursor, look } = useRows({
  name: 'session',
  rows: () => rows.value,
  open: (s) => open(s.id),
  keys: session.isAuditor
    ? []
    : [{ key: 'p', does: t('floor.practise'), act: () => (practising.value = true) }],
})
function acts(s: Row): RowAct[] {
  const meeting = encodeURIComponent(s.meeting)
  const all: RowAct[] = [
    { name: t('floor.openIt'), to: `/floor/${s.id}` },
    { name: t('floor.itsMeeting'), to: `/register/${meeting}` },
  ]
  if (!session.isAuditor)
    all.push({
      name: t('floor.practiseIt'),
      act: () => {
        practised.value = s.meeting
        practising.value = true
      },
    })
  if (session.seesAll)
    all.push({
      name: t('floor.whatWasDoneInIt'),
      to: { path: '/ledger', query: { object: 'session', objectId: s.id } },
    })
  return all
}
</script>

<template>
  <StatePanel v-if="error && !data" state="failed" :problem="error" @retry="refetch()" />
  <StatePanel v-else-if="!data" state="loading" />
  <div v-else class="flex h-full flex-col">
    <div
      class="flex min-h-11 shrink-0 flex-wrap items-center gap-x-4 gap-y-1 border-b border-line px-5 py-1.5"
    >
      <h1 class="head">{{ t('floor.sessions') }}</h1>
      <span class="text-soft">{{ t('floor.runningInProgress', { running: running.length }) }}</span>
      <LockdownPart class="ml-auto" :running="running" />
      <button v-if="!session.isAuditor" class="button button-main" @click="practising = true">
        {{ t('floor.practiseASession') }}
      </button>
    </div>
    <FilterBar :words="t('floor.titleOrHost')" :days="t('floor.began')" />
    <StatePanel
      v-if="!rows.length && isNarrowed"
      state="empty"
      :title="t('floor.noSessionIsLikeThat')"
    >
      <button class="link" @click="clear()">{{ t('shell.showAllAgain') }}</button>
    </StatePanel>
    <StatePanel v-else-if="!rows.length" state="empty" :title="t('floor.noSessionIsInProgress')">
      {{ t('floor.sessionsAppearAsTheirMeetingsBeginPractise') }}
    </StatePanel>
    <div v-else class="min-h-0 flex-1 overflow-auto">
      <table class="grid-lines w-full table-fixed narrow:table-auto">
        <colgroup>
          <col />
          <col class="w-36 narrow:!w-auto" />
          <col class="w-36 narrow:!w-auto" />
          <col class="w-24 narrow:!w-auto" />
          <col class="w-24 narrow:!w-auto" />
          <col class="w-24 narrow:!w-auto" />
          <col class="w-44 narrow:!w-auto" />
          <col v-if="!phone" class="w-40 narrow:!w-auto" />
          <col class="w-12 narrow:!w-auto" />
        </colgroup>
        <thead>
          <tr>
            <th scope="col" class="!pl-5">{{ t('floor.meeting') }}</th>
            <th scope="col" class="narrow:hidden">{{ t('floor.host') }}</th>
            <th scope="col">{{ t('floor.clock') }}</th>
            <th scope="col" class="text-right">{{ t('floor.atTheDoor') }}</th>
            <th scope="col" class="text-right">{{ t('floor.inside') }}</th>
            <th scope="col" class="!pr-5 text-right narrow:hidden">{{ t('floor.out') }}</th>
            <th scope="col" class="narrow:hidden">{{ t('floor.door') }}</th>
            <th v-if="!phone" scope="col">{{ t('floor.alerts') }}</th>
            <th scope="col">
              <span class="hidden-label">{{ t('shell.acts') }}</span>
            </th>
          </tr>
        </thead>
        <tbody>
          <template v-for="(s, i) in rows" :key="s.id">
            <tr v-if="i === live.length">
              <th colspan="9" class="!pl-5 pt-4">{{ t('floor.over2') }}</th>
            </tr>
            <tr :id="`session-${i}`" class="cursor-pointer" :class="look(i)" @click="open(s.id)">
              <td class="truncate !pl-5 narrow:!pl-3 narrow:whitespace-normal">
                <RouterLink class="head" dir="auto" :to="`/floor/${s.id}`" @focus="cursor = i">{{
                  s.title
                }}</RouterLink>
                <span v-if="s.practice" class="ml-2 text-soft">{{ t('floor.practice') }}</span>
                <span v-if="s.pending && phone" class="flex items-center gap-2">
                  <TallyMark :severity="s.worst" /> {{ counted(s.pending, 'alert') }}
                </span>
              </td>
              <td class="value truncate narrow:hidden">{{ s.host.split('@')[0] }}</td>
              <td class="value">
                <template v-if="i < live.length">{{
                  s.state === 'asked' ? t('floor.notOpenYet') : fromStart(s, now(s))
                }}</template>
                <template v-else>{{
                  s.state === 'lost'
                    ? t('floor.brokenOff')
                    : s.practice
                      ? t('floor.over')
                      : shortTime(s.clock)
                }}</template>
              </td>
              <td class="value text-right" :class="s.door ? 'font-bold' : ''">{{ s.door }}</td>
              <td class="value text-right">{{ s.inside }}</td>
              <td class="value !pr-5 text-right narrow:hidden">{{ s.out }}</td>
              <td class="narrow:hidden">
                <template v-if="i < live.length">
                  {{
                    s.locked
                      ? t('floor.locked')
                      : s.waitingRoom
                        ? t('floor.waitingRoom')
                        : t('floor.open')
                  }}
                  <span v-if="!s.hostsIn" class="text-rust">{{ t('floor.noHost') }}</span>
                </template>
              </td>
              <td v-if="!phone">
                <span v-if="s.pending" class="inline-flex items-center gap-2">
                  <TallyMark :severity="s.worst" /> {{ counted(s.pending, 'alert') }}
                </span>
              </td>
              <td class="!pr-4 text-right"><RowMenu :of="s.title" :acts="acts(s)" /></td>
            </tr>
          </template>
        </tbody>
      </table>
    </div>
    <ListFoot :count="counted(rows.length, 'session')" opens>
      <span v-if="!session.isAuditor" class="phone:hidden"
        ><strong>p</strong> {{ t('floor.practiseASession2') }}</span
      >
    </ListFoot>
    <PracticeDialog
      :open="practising"
      :begin-with="practised"
      @close="practising = false"
      @opened="open"
    />
  </div>
</template>
