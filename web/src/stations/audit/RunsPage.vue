<script setup lang="ts">
import { t } from '@/wording'
import { counted } from '@/shell/counted'
import { useQuery, useQueryCache } from '@pinia/colada'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { useOrganisation } from '@/api/catalogue'
import { api, take } from '@/api/client'
import type { AuditRun, Schedule } from '@/api/schema'
import { useSession } from '@/api/session'
import { useAddress } from '@/shell/address'
import FilterBar from '@/shell/FilterBar.vue'
import FilterChoice from '@/shell/FilterChoice.vue'
import ListFoot from '@/shell/ListFoot.vue'
import type { RowAct } from '@/shell/rowActs'
import RowMenu from '@/shell/RowMenu.vue'
import { holds, isWithin, useRows } from '@/shell/rows'
import { useRowAct } from '@/shell/act'
import ProblemNote from '@/shell/ProblemNote.vue'
import StatePanel from '@/shell/StatePanel.vue'
import { fullTime, shortTime } from '@/shell/times'
import { dayNames } from '@/stations/register/recurrence'
import NewAuditDialog from './NewAuditDialog.vue'
import PartFrame from './PartFrame.vue'
import ScheduleDialog from './ScheduleDialog.vue'

/** Every audit on record, how those that run get on, and when the next ones begin by themselves. */
const router = useRouter()
const session = useSession()
const cache = useQueryCache()
const { unitName, kindName } = useOrganisation()
const {
  data: runs,
  error,
  refetch,
} = useQuery({
  key: ['audits', 'all'],
  query: () => take(api.GET('/api/audits', { params: { query: { most: 200 } } })),
})
const { data: schedules, refetch: refetchSchedules } = useQuery({
  key: ['audits', 'schedules'],
  query: () => take(api.GET('/api/audit-history/schedules')),
  enabled: () => !session.isUnitWarden,
})
const { problem, attempt } = useRowAct()
const done = (row: string | number, what: () => Promise<unknown>) =>
  attempt(row, async () => {
    await what()
    await cache.invalidateQueries({ key: ['audits'] })
  })
const path = (r: AuditRun) => ({ params: { path: { id: r.id } } })
const cancel = (r: AuditRun) => done(r.id, () => take(api.POST('/api/audits/{id}/cancel', path(r))))
const resume = (r: AuditRun) => done(r.id, () => take(api.POST('/api/audits/{id}/resume', path(r))))
const baseline = (r: AuditRun) =>
  done(r.id, () =>
    take(
      r.baseline
        ? api.DELETE('/api/audits/{id}/baseline', path(r))
        : api.PUT('/api/audits/{id}/baseline', path(r)),
    ),
  )
const states: Record<string, string> = {
  waiting: t('audit.waiting'),
  running: t('audit.running'),
  done: t('audit.done'),
  cancelled: t('audit.stoppedHalfWay'),
  failed: t('audit.failed'),
}
const causes: Record<string, string> = {
  'by-hand': t('audit.byHand'),
  schedule: t('audit.onSchedule'),
  publication: t('audit.afterAPublication'),
}
function scope(s: { unit?: string | null; kind?: string | null; host?: string | null }): string {
  const parts = [s.unit && unitName(s.unit), s.kind && kindName(s.kind), s.host].filter(Boolean)
  return parts.length ? parts.join(', ') : t('audit.everything')
}
const { query, clear, days, isNarrowedBy } = useAddress()
const isNarrowed = computed(() => isNarrowedBy('state'))
const rows = computed(() =>
  (runs.value ?? []).filter(
    (r) =>
      (!query('state') || r.state === query('state')) &&
      holds(query('text'), scope(r.scope), t('audit.auditId', { id: r.id }), causes[r.cause]) &&
      isWithin(r.startedAt, days.value),
  ),
)
const { cursor, look } = useRows({
  name: 'run',
  rows: () => rows.value,
  open: (r) => router.push(`/audit/${r.id}`),
})
const newest = computed(() => runs.value?.find((r) => r.state === 'done')?.id)
function acts(r: AuditRun): RowAct[] {
  const all: RowAct[] = [{ name: t('audit.itsFindings'), to: `/audit/${r.id}` }]
  if (r.state === 'done') {
    if (r.id !== newest.value)
      all.push({
        name: t('audit.compareItWithTheNewest'),
        to: { path: '/audit/compare', query: { earlier: String(r.id) } },
      })
    if (session.isWarden)
      all.push({
        name: r.baseline ? t('audit.noBaseline') : t('audit.makeItTheBaseline'),
        act: () => void baseline(r),
      })
  }
  return all
}
const starting = ref(false)
const editing = ref<Schedule | 'new' | null>(null)
/** What somebody else made of it takes the place of what was typed. */
async function editAnew(id: number) {
  await refetchSchedules()
  editing.value = schedules.value?.find((s) => s.id === id) ?? null
}
</script>

<template>
  <PartFrame :title="t('audit.runs')">
    <template v-if="session.mayAudit" #acts>
      <button class="button" @click="starting = true">{{ t('audit.audit2') }}</button>
    </template>
    <template #filter>
      <FilterBar :words="t('audit.ofWhatOrWhy')" :days="t('audit.begun')">
        <FilterChoice
          name="state"
          :label="t('audit.howItStands')"
          :all="t('audit.howeverItStands')"
          :choices="Object.entries(states).map(([id, name]) => ({ id, name }))"
        />
      </FilterBar>
    </template>
    <template #foot><ListFoot v-if="runs" :count="counted(rows.length, 'audit')" opens /></template>
    <ProblemNote class="m-4" :problem="problem" />
    <StatePanel v-if="error" state="failed" :problem="error" @retry="refetch()" />
    <StatePanel v-else-if="!runs" state="loading" />
    <template v-else>
      <section v-if="schedules" class="border-b border-line px-5 py-3">
        <h2 class="flex items-baseline gap-3">
          <span class="head">{{ t('audit.byThemselves') }}</span>
          <span class="text-soft">{{ t('audit.oneAfterEachPublicationAnd') }}</span>
          <button v-if="session.isWarden" class="link" @click="editing = 'new'">
            {{ t('audit.addASchedule') }}
          </button>
        </h2>
        <ul>
          <li v-for="s in schedules" :key="s.id" class="flex flex-wrap gap-x-3">
            <button v-if="session.isWarden" class="head link" @click="editing = s">
              {{ s.name }}
            </button>
            <strong v-else>{{ s.name }}</strong>
            <span class="value"
              >{{ s.days.map((d) => dayNames[d] ?? d).join(' ') }} {{ s.time }}</span
            >
            <span class="text-soft">{{
              t('audit.scopeDaysAheadXX2', {
                scope: scope(s.scope),
                days: counted(s.windowDays, 'day'),
                x: s.active
                  ? t('audit.nextNextAt', { nextAt: shortTime(s.nextAt) })
                  : t('audit.paused'),
                x2: s.recipients.length
                  ? t('audit.reportToJoin', { join: s.recipients.join(', ') })
                  : t('audit.noReportSent'),
              })
            }}</span>
          </li>
        </ul>
      </section>
      <StatePanel v-if="!runs.length" state="empty" :title="t('audit.noAuditIsOnRecord')">
        {{ t('audit.theWallShowsHowThingsStandNow') }}
      </StatePanel>
      <StatePanel
        v-else-if="!rows.length && isNarrowed"
        state="empty"
        :title="t('audit.noAuditIsLikeThat')"
      >
        <button class="link" @click="clear()">{{ t('shell.showAllAgain') }}</button>
      </StatePanel>
      <table v-else class="grid-lines stack">
        <thead>
          <tr>
            <th class="!pl-5">{{ t('audit.audit') }}</th>
            <th>{{ t('audit.begun') }}</th>
            <th>{{ t('audit.of') }}</th>
            <th>{{ t('audit.edition') }}</th>
            <th>{{ t('audit.howItStands') }}</th>
            <th class="!text-right">{{ t('audit.meetings') }}</th>
            <th class="!text-right">{{ t('audit.findings') }}</th>
            <th scope="col">
              <span class="hidden-label">{{ t('audit.acts') }}</span>
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(r, i) in rows" :id="`run-${i}`" :key="r.id" :class="look(i)">
            <td class="!pl-5">
              <RouterLink class="head link" :to="`/audit/${r.id}`" @focus="cursor = i">{{
                t('audit.auditId', { id: r.id })
              }}</RouterLink>
              <span v-if="r.baseline" class="ml-1.5 text-sea">{{ t('audit.baseline2') }}</span>
            </td>
            <td class="value whitespace-nowrap" :title="fullTime(r.startedAt)">
              {{ shortTime(r.startedAt) }}
              <span class="text-soft">{{ causes[r.cause] ?? r.cause }}</span>
            </td>
            <td>{{ scope(r.scope) }}</td>
            <td class="value">{{ r.edition }}</td>
            <td>
              {{ states[r.state] ?? r.state }}
              <progress
                v-if="r.state === 'running'"
                class="ml-1 w-28 align-middle"
                :max="Math.max(r.meetings, 1)"
                :value="r.scanned"
              />
            </td>
            <td class="value text-right">{{ r.judged }}</td>
            <td class="value text-right">{{ r.findings }}</td>
            <td class="!pr-5 text-right whitespace-nowrap">
              <template v-if="session.isWarden">
                <button
                  v-if="['running', 'waiting'].includes(r.state)"
                  class="link"
                  @click="cancel(r)"
                >
                  {{ t('audit.stopIt') }}
                </button>
                <button
                  v-else-if="['cancelled', 'failed'].includes(r.state)"
                  class="link"
                  @click="resume(r)"
                >
                  {{ t('audit.goOn') }}
                </button>
              </template>
              <RowMenu class="ml-2" :of="t('audit.auditId', { id: r.id })" :acts="acts(r)" />
            </td>
          </tr>
        </tbody>
      </table>
    </template>
    <NewAuditDialog :open="starting" @close="starting = false" />
    <ScheduleDialog
      v-if="editing"
      :key="editing === 'new' ? 'new' : editing.version"
      :schedule="editing === 'new' ? null : editing"
      @close="editing = null"
      @outdated="editAnew"
    />
  </PartFrame>
</template>
