<script setup lang="ts">
import { t } from '@/wording'
import { useQuery, useQueryCache } from '@pinia/colada'
import { watchDebounced } from '@vueuse/core'
import { computed, nextTick, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useCatalogue } from '@/api/catalogue'
import { api, take } from '@/api/client'
import { useHeard } from '@/api/live'
import { useSession } from '@/api/session'
import { useKeys } from '@/shell/keys'
import { daysBetween, listKeys } from '@/shell/rows'
import { useAct } from '@/shell/act'
import ProblemNote from '@/shell/ProblemNote.vue'
import StatePanel from '@/shell/StatePanel.vue'
import { fullTime, shortTime } from '@/shell/times'
import AuditNav from './AuditNav.vue'
import FindingDrawer from './FindingDrawer.vue'
import JobLine from './JobLine.vue'
import { useLastApplied } from './lastApplied'
import ReportMenu from './ReportMenu.vue'
import { useWall, type WallFilter } from './rows'
import RunState from './RunState.vue'
import ServiceNotices from '@/stations/house/ServiceNotices.vue'
import SelectionBar from './SelectionBar.vue'
import SeverityCounts from './SeverityCounts.vue'
import { counted } from '@/shell/counted'
import { columnsOf, moved } from './wall'
import WallFilterBar from './WallFilterBar.vue'
import WallTable from './WallTable.vue'

/** The wall. Without a number in the address it is the audit that is always current. */
const props = defineProps<{ id?: string }>()
const route = useRoute()
const router = useRouter()
const session = useSession()
const cache = useQueryCache()
const { catalogue } = useCatalogue()

const query = (key: string) => String(route.query[key] ?? '')
// what is set while the address is on its way to another goes with the next, and is not lost
let waiting: Record<string, string | undefined> = {}
let going: Promise<unknown> | null = null
function setQuery(part: Record<string, string | undefined>) {
  const path = route.path
  waiting = { ...waiting, ...part }
  going ??= nextTick(async () => {
    const query = { ...route.query, ...waiting }
    waiting = {}
    // whoever has gone to another page meanwhile stays there
    if (route.path === path) await router.replace({ path, query })
  }).finally(() => {
    going = null
    if (Object.keys(waiting).length) setQuery({})
  })
}
const current = computed(() => Number(props.id) || 0)
const isNow = computed(() => current.value === 0)
const { data: runs } = useQuery({
  key: ['audits'],
  query: () => take(api.GET('/api/audits', { params: { query: { most: 40 } } })),
})
const {
  data: view,
  error,
  refetch,
} = useQuery({
  key: () => [isNow.value ? 'standing' : 'audits', current.value, 'run'],
  query: () => take(api.GET('/api/audits/{id}', { params: { path: { id: current.value } } })),
})
const run = computed(() => view.value?.run)
const readable = computed(() => isNow.value || run.value?.state === 'done')
const filter = computed<WallFilter | null>(() =>
  readable.value
    ? {
        audit: current.value,
        show: query('show'),
        group: query('group'),
        unit: query('unit'),
        kind: query('kind'),
        host: query('host'),
        check: query('check'),
        subject: query('subject'),
        baseline: query('baseline'),
        severity: query('severity'),
        text: query('text'),
        ...daysBetween(query('from'), query('to')),
      }
    : null,
)
const { at: rowAt, want, total, problem: wallProblem, refresh, restart, known } = useWall(filter)
useHeard(['standing'], () => isNow.value && refresh())
const narrowed = computed(() =>
  ['unit', 'kind', 'host', 'check', 'baseline', 'severity', 'text', 'show', 'from', 'to'].some(
    (k) => query(k),
  ),
)
const hasBaseline = computed(() => (runs.value ?? []).some((r) => r.baseline))

const { busy: starting, problem, attempt } = useAct()
const auditNow = () =>
  attempt(async () => {
    const started = await take(api.POST('/api/audits', { body: {} }))
    await cache.invalidateQueries({ key: ['audits'] })
    await router.push(`/audit/${started.id}`)
  })
watch(
  () => query('run'),
  (asked) => {
    if (asked === '1' && session.mayAudit) {
      router.replace('/audit')
      auditNow()
    }
  },
  { immediate: true },
)

const columns = computed(() => columnsOf(catalogue.value?.families ?? []))
const cursor = ref({ row: Math.max(0, Math.floor(Number(query('row')) || 0)), column: -1 })
const table = ref<InstanceType<typeof WallTable> | null>(null)
// the place is in the address, so that a page loaded again, or sent to a colleague, stands there
watchDebounced(
  () => cursor.value.row,
  (row) => setQuery({ row: row ? String(row) : undefined }),
  { debounce: 300 },
)
// once there is a wall to stand on
const arrive = watch(table, async (wall) => {
  if (!wall) return
  arrive()
  const last = (total.value ?? 1) - 1
  if (cursor.value.row > last) cursor.value = { ...cursor.value, row: Math.max(0, last) }
  await nextTick()
  if (cursor.value.row) await wall.show(cursor.value.row, cursor.value.column)
})
const openId = computed(() => query('meeting'))
// what is mended leaves the wall; its story stays until one moves on
const kept = ref<{ meeting: string; title: string } | null>(null)
const openRow = computed(() => known.value.find((r) => r.meeting === openId.value))
// of the row's title alone: what is kept must not be what is watched
watch(
  () => openRow.value?.title,
  (title) => {
    if (title) kept.value = { meeting: openId.value, title }
  },
  { immediate: true },
)
const opened = computed(() => {
  if (openRow.value || !openId.value) return openRow.value ?? null
  const title = kept.value?.meeting === openId.value ? kept.value.title : ''
  return { meeting: openId.value, title }
})
const openColumn = computed(() => columns.value.find((c) => c.id === query('family')))
watch(
  [() => known.value.length, openId, () => query('family'), columns],
  () => {
    const row = known.value.findIndex((r) => r.meeting === openId.value)
    if (row >= 0) {
      const column = columns.value.findIndex((c) => c.id === query('family'))
      cursor.value = { row, column }
    }
  },
  { immediate: true },
)
/** Another list: one stands at its top. */
function narrow(to: Record<string, string | undefined>) {
  cursor.value = { row: 0, column: -1 }
  setQuery({ ...to, meeting: undefined, family: undefined, row: undefined })
}
function select(row: number, column: number) {
  cursor.value = { row, column }
  const meeting = rowAt(row)?.meeting
  if (meeting) setQuery({ meeting, family: columns.value[column]?.id, finding: undefined })
}
async function step(by: { row?: number; column?: number }) {
  const at = cursor.value
  const to = moved(
    { row: at.row, column: Math.max(at.column, by.column ? 0 : at.column) },
    by,
    total.value ?? 0,
    columns.value.length,
  )
  cursor.value = at.column < 0 && !by.column ? { ...to, column: -1 } : to
  if (opened.value) select(cursor.value.row, cursor.value.column)
  await nextTick()
  await table.value?.show(cursor.value.row, cursor.value.column)
}
const selected = ref(new Set<string>())
watch(
  () => JSON.stringify(filter.value),
  () => (selected.value = new Set()),
)
function toggle(meeting: string) {
  const next = new Set(selected.value)
  if (!next.delete(meeting)) next.add(meeting)
  selected.value = next
}
function toggleAll() {
  const all = known.value.map((r) => r.meeting)
  selected.value = selected.value.size === all.length ? new Set() : new Set(all)
}
const drawer = ref<InstanceType<typeof FindingDrawer> | null>(null)
const many = ref<InstanceType<typeof SelectionBar> | null>(null)
// what was applied last can be undone wherever one has moved on to
const { last, putAway } = useLastApplied()
const lastLine = ref<InstanceType<typeof JobLine> | null>(null)
const isElsewhere = computed(
  () => !!last.value && last.value.meeting !== (opened.value?.meeting ?? ''),
)
function undoLast() {
  if (!session.mayMend) return
  if (isElsewhere.value) void lastLine.value?.undo()
  else drawer.value?.undo()
}
const act = (what: 'apply' | 'ask' | 'waive') => {
  if (!session.mayMend) return
  if (selected.value.size && what !== 'waive') many.value?.[what]()
  else drawer.value?.[what]()
}
useKeys([
  { key: 'j', does: t('audit.nextMeeting'), act: () => step({ row: 1 }) },
  { key: 'k', does: t('audit.previousMeeting'), act: () => step({ row: -1 }) },
  { key: 'ArrowDown', does: t('audit.nextMeeting'), act: () => step({ row: 1 }) },
  { key: 'ArrowUp', does: t('audit.previousMeeting'), act: () => step({ row: -1 }) },
  { key: 'l', does: t('audit.nextCell'), act: () => step({ column: 1 }) },
  { key: 'h', does: t('audit.previousCell'), act: () => step({ column: -1 }) },
  { key: 'ArrowRight', does: t('audit.nextCell'), act: () => step({ column: 1 }) },
  { key: 'ArrowLeft', does: t('audit.previousCell'), act: () => step({ column: -1 }) },
  {
    key: 'Enter',
    does: t('audit.story'),
    act: () => select(cursor.value.row, cursor.value.column),
  },
  {
    key: 'Escape',
    does: t('audit.close'),
    act: () => setQuery({ meeting: undefined, family: undefined, finding: undefined }),
  },
  ...listKeys(null),
  { key: 'n', does: t('audit.nextFindingOfTheMeeting'), act: () => drawer.value?.next() },
  { key: 'a', does: t('audit.applyTheLeastChange'), act: () => act('apply') },
  { key: 'q', does: t('audit.askTheHost2'), act: () => act('ask') },
  { key: 'w', does: t('audit.waive2'), act: () => act('waive') },
  { key: 'u', does: t('audit.undoWhatWasAppliedLast'), act: undoLast },
  {
    key: 'x',
    does: t('audit.chooseForAnActOnSeveral'),
    act: () => {
      const row = rowAt(cursor.value.row)
      if (row && session.mayMend && isNow.value) toggle(row.meeting)
    },
  },
])
/** How many rows there are; of a unit's warden's own alone, others are none of theirs. */
const howMany = computed(() => {
  const shown = counted(total.value ?? 0, 'meeting')
  const all = Math.max(run.value?.judged ?? 0, total.value ?? 0)
  return session.isUnitWarden ? shown : t('audit.shownOfAll', { shown, all })
})
</script>

<template>
  <StatePanel v-if="error" state="failed" :problem="error" @retry="refetch()" />
  <StatePanel v-else-if="!view || !runs || !catalogue" state="loading" />
  <div
    v-else
    class="grid h-full"
    :class="opened ? 'grid-cols-[minmax(0,1fr)_376px] narrow:grid-cols-1' : 'grid-cols-1'"
  >
    <div class="flex min-h-0 flex-col" :class="opened ? 'narrow:hidden' : ''">
      <div
        class="flex min-h-11 shrink-0 flex-wrap items-center gap-x-4 gap-y-1 border-b border-line px-5 py-1.5 phone:px-3"
      >
        <label class="flex items-center gap-2">
          <span class="hidden-label">{{ t('audit.audit') }}</span>
          <select
            class="field max-w-56 font-bold"
            :value="current"
            @change="
              router.push(
                ($event.target as HTMLSelectElement).value === '0'
                  ? '/audit'
                  : `/audit/${($event.target as HTMLSelectElement).value}`,
              )
            "
          >
            <option :value="0">{{ t('audit.asItStandsNow') }}</option>
            <option v-for="r in runs" :key="r.id" :value="r.id">
              {{
                t('audit.auditIdStartedAtX', {
                  id: r.id,
                  startedAt: shortTime(r.startedAt),
                  x: r.baseline ? t('audit.baseline') : '',
                })
              }}
            </option>
          </select>
        </label>
        <SeverityCounts :counts="view.bySeverity" />
        <span
          v-if="run && !opened"
          class="min-w-0 truncate text-soft"
          :title="
            t('audit.byStartedByStartedAt', {
              startedBy: run.startedBy,
              startedAt: fullTime(run.startedAt),
            })
          "
        >
          {{
            t('audit.xEditionEdition', {
              x: view.waived ? t('audit.waivedWaived', { waived: view.waived }) : '',
              edition: run.edition,
            })
          }}
        </span>
        <AuditNav class="ml-auto" />
        <ReportMenu v-if="readable" :audit="current" />
        <button v-if="session.mayAudit" class="button" :disabled="starting" @click="auditNow">
          {{ t('audit.auditNow') }}
        </button>
      </div>
      <ProblemNote class="m-3" :problem="problem ?? wallProblem" />
      <RunState v-if="!readable && run" :run="run" />
      <template v-else>
        <ServiceNotices v-if="!id" />
        <WallFilterBar :audit="current" :query="query" :has-baseline="hasBaseline" @set="narrow" />
        <StatePanel v-if="total === null" state="loading" />
        <StatePanel
          v-else-if="!total && narrowed"
          state="empty"
          :title="t('audit.noMeetingIsLikeThat')"
        >
          <RouterLink class="link" :to="route.path">{{
            t('audit.showEverythingWithOpenFindings')
          }}</RouterLink>
        </StatePanel>
        <StatePanel v-else-if="!total" state="empty" :title="t('audit.nothingIsWrong')">
          {{ t('audit.everyMeetingKeepsTheRulebookOrIs') }}
        </StatePanel>
        <WallTable
          v-else
          ref="table"
          :columns="columns"
          :total="total"
          :at="rowAt"
          :cursor="cursor"
          :group="query('group')"
          :selected="selected"
          :selectable="session.mayMend && isNow"
          :narrow="!!opened"
          @want="want"
          @select="select"
          @toggle="toggle"
        />
        <div
          v-if="last && isElsewhere && isNow && session.mayMend"
          class="flex shrink-0 items-center gap-3 border-t border-line px-5 py-1.5"
        >
          <JobLine ref="lastLine" class="min-w-0 flex-1" :job="last.job" />
          <button type="button" class="link" @click="putAway">{{ t('audit.putAway') }}</button>
        </div>
        <SelectionBar
          v-if="session.mayMend && isNow"
          ref="many"
          :selected="selected"
          :check="query('check')"
          :subject="query('subject')"
          @all="toggleAll"
          @done="selected = new Set()"
        />
        <p
          v-if="!selected.size"
          class="flex shrink-0 gap-x-3 border-t border-line px-5 py-2 text-[12.5px] text-soft"
        >
          <span>{{ howMany }}</span>
          <span
            ><strong>j k h l</strong> {{ t('audit.move') }} <strong>↵</strong> {{ t('audit.story')
            }}<template v-if="session.mayMend && isNow">
              · <strong>a</strong> {{ t('audit.apply') }} <strong>q</strong>
              {{ t('audit.askTheHost') }} <strong>w</strong> {{ t('audit.waive') }}
              <strong>x</strong> {{ t('audit.choose') }}</template
            ></span
          >
          <button v-if="!isNow" class="link" @click="restart">{{ t('audit.readAgain') }}</button>
        </p>
      </template>
    </div>
    <FindingDrawer
      v-if="opened"
      ref="drawer"
      :audit="current"
      :edition="run?.edition ?? 0"
      :meeting="opened.meeting"
      :title="opened.title"
      :family="openColumn?.id ?? null"
      :family-title="openColumn?.title ?? ''"
      @close="setQuery({ meeting: undefined, family: undefined, finding: undefined })"
    />
  </div>
</template>
