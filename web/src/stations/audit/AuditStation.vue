<script setup lang="ts">
import { useQuery, useQueryCache } from '@pinia/colada'
import { computed, nextTick, onBeforeUnmount, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useCatalogue, useOrganisation } from '@/api/catalogue'
import { api, take } from '@/api/client'
import { useSession } from '@/api/session'
import TallyMark from '@/marks/TallyMark.vue'
import WaterLine from '@/marks/WaterLine.vue'
import { useKeys } from '@/shell/keys'
import ProblemNote from '@/shell/ProblemNote.vue'
import StatePanel from '@/shell/StatePanel.vue'
import { fullTime, shortTime } from '@/shell/times'
import FindingDrawer from './FindingDrawer.vue'
import { columnsOf, moved } from './wall'

const props = defineProps<{ id?: string }>()
const route = useRoute()
const router = useRouter()
const session = useSession()
const cache = useQueryCache()
const { catalogue } = useCatalogue()
const { unitName } = useOrganisation()
const size = 200

const query = (key: string) => String(route.query[key] ?? '')
function setQuery(part: Record<string, string | undefined>) {
  router.replace({ path: route.path, query: { ...route.query, ...part } })
}
const {
  data: runs,
  error,
  refetch,
} = useQuery({
  key: ['audits'],
  query: () => take(api.GET('/api/audits', { params: { query: { most: 30 } } })),
})
const current = computed(() => Number(props.id) || runs.value?.[0]?.id || 0)
const { data: view, refetch: again } = useQuery({
  key: () => ['audit', current.value, 'run'],
  query: () => take(api.GET('/api/audits/{id}', { params: { path: { id: current.value } } })),
  enabled: () => current.value > 0,
})
const run = computed(() => view.value?.run)
const going = computed(() => run.value?.state === 'running' || run.value?.state === 'waiting')
const { data: wall } = useQuery({
  key: () => ['audit', current.value, 'wall', query('all'), query('page')],
  query: () =>
    take(
      api.GET('/api/audits/{id}/wall', {
        params: {
          path: { id: current.value },
          query: { open: query('all') !== '1', page: Number(query('page') || 0), size },
        },
      }),
    ),
  enabled: () => run.value?.state === 'done',
})

// true progress, asked for while it runs; the page can be left, the audit goes on
let timer: ReturnType<typeof setInterval> | undefined
watch(
  going,
  (now) => {
    clearInterval(timer)
    if (now) timer = setInterval(() => again(), 500)
    else cache.invalidateQueries({ key: ['audits'] })
  },
  { immediate: true },
)
onBeforeUnmount(() => clearInterval(timer))

const starting = ref(false)
const problem = ref<Error | null>(null)
async function auditNow() {
  if (starting.value) return
  starting.value = true
  problem.value = null
  try {
    const started = await take(api.POST('/api/audits', { body: {} }))
    await cache.invalidateQueries({ key: ['audits'] })
    await router.push(`/audit/${started.id}`)
  } catch (e) {
    problem.value = e as Error
  } finally {
    starting.value = false
  }
}
watch(
  () => query('run'),
  (asked) => {
    if (asked === '1' && session.isWarden) {
      router.replace('/audit')
      auditNow()
    }
  },
  { immediate: true },
)

const columns = computed(() => columnsOf(catalogue.value?.families ?? []))
const rows = computed(() => wall.value?.items ?? [])
const at = ref({ row: 0, column: -1 })
const open = computed(() => rows.value.find((r) => r.meeting === query('meeting')))
const openColumn = computed(() => columns.value.find((c) => c.id === query('family')))
watch([rows, () => query('meeting'), () => query('family')], () => {
  const row = rows.value.findIndex((r) => r.meeting === query('meeting'))
  if (row >= 0) {
    at.value = { row, column: columns.value.findIndex((c) => c.id === query('family')) }
  }
})
function select(row: number, column: number) {
  at.value = { row, column }
  const meeting = rows.value[row]?.meeting
  if (meeting) setQuery({ meeting, family: columns.value[column]?.id })
}
async function step(by: { row?: number; column?: number }) {
  const to = moved(
    { row: at.value.row, column: Math.max(at.value.column, by.column ? 0 : at.value.column) },
    by,
    rows.value.length,
    columns.value.length,
  )
  at.value = at.value.column < 0 && !by.column ? { ...to, column: -1 } : to
  if (open.value) select(at.value.row, at.value.column)
  await nextTick()
  const row = document.getElementById(`wall-${at.value.row}`)
  row?.scrollIntoView({ block: 'nearest' })
  // the focus goes along, so that Enter is the cell's and not some button's pressed before
  const cell = row?.querySelectorAll('td')[at.value.column + 1]
  const target = cell?.querySelector('button') ?? document.getElementById('work')
  target?.focus({ preventScroll: true })
}
const drawer = ref<InstanceType<typeof FindingDrawer> | null>(null)
useKeys([
  { key: 'j', does: 'next meeting', act: () => step({ row: 1 }) },
  { key: 'k', does: 'previous meeting', act: () => step({ row: -1 }) },
  { key: 'ArrowDown', does: 'next meeting', act: () => step({ row: 1 }) },
  { key: 'ArrowUp', does: 'previous meeting', act: () => step({ row: -1 }) },
  { key: 'l', does: 'next cell', act: () => step({ column: 1 }) },
  { key: 'h', does: 'previous cell', act: () => step({ column: -1 }) },
  { key: 'ArrowRight', does: 'next cell', act: () => step({ column: 1 }) },
  { key: 'ArrowLeft', does: 'previous cell', act: () => step({ column: -1 }) },
  { key: 'Enter', does: 'story', act: () => select(at.value.row, at.value.column) },
  { key: 'Escape', does: 'close', act: () => setQuery({ meeting: undefined, family: undefined }) },
  { key: 'a', does: 'apply', act: () => session.isWarden && drawer.value?.apply() },
])
</script>

<template>
  <StatePanel v-if="error" state="failed" :problem="error" @retry="refetch()" />
  <StatePanel v-else-if="!runs || !catalogue" state="loading" />
  <div v-else class="grid h-full" :class="open ? 'grid-cols-[minmax(0,1fr)_372px]' : 'grid-cols-1'">
    <div class="flex min-h-0 flex-col">
      <div class="flex min-h-11 shrink-0 items-center gap-4 border-b border-line px-5 py-1.5">
        <label v-if="runs.length" class="flex items-center gap-2">
          <span class="hidden-label">Audit</span>
          <select
            class="field font-bold"
            :value="current"
            @change="router.push(`/audit/${($event.target as HTMLSelectElement).value}`)"
          >
            <option v-for="r in runs" :key="r.id" :value="r.id">
              Audit {{ r.id }}, {{ shortTime(r.startedAt) }}
            </option>
          </select>
        </label>
        <span
          v-if="run"
          class="min-w-0 truncate text-soft"
          :title="`by ${run.startedBy}, ${fullTime(run.startedAt)}`"
        >
          edition {{ run.edition }} · {{ run.judged }} series<template v-if="!open"
            >, {{ run.occurrences }} occurrences</template
          >
        </span>
        <span v-if="view && run?.state === 'done'" class="flex items-center gap-3">
          <span v-for="s in [5, 4, 3, 2, 1]" :key="s" class="flex items-center gap-1">
            <TallyMark :severity="s" /><span class="value">{{ view.bySeverity[String(s)] }}</span>
          </span>
        </span>
        <label class="ml-auto flex shrink-0 items-center gap-1.5 text-soft">
          <input
            type="checkbox"
            :checked="query('all') === '1'"
            @change="setQuery({ all: query('all') === '1' ? undefined : '1' })"
          />
          clean ones too
        </label>
        <button
          v-if="session.isWarden"
          class="button"
          :class="runs.length ? '' : 'button-main'"
          :disabled="starting || going"
          @click="auditNow"
        >
          {{ going ? 'Auditing…' : 'Audit now' }}
        </button>
      </div>
      <ProblemNote class="m-3" :problem="problem" />
      <StatePanel v-if="!runs.length" state="empty" title="Nothing has been audited yet">
        <p v-if="session.isWarden">Audit the register against the edition in force.</p>
        <p v-else>A warden runs audits.</p>
      </StatePanel>
      <div v-else-if="going && run" class="px-5 py-10" role="status">
        <p>
          {{
            run.state === 'waiting'
              ? 'Waiting for the audit before it…'
              : `Judged ${run.judged} of ${run.meetings} series.`
          }}
          You may leave; it goes on.
        </p>
        <progress class="mt-2 w-96" :max="Math.max(run.meetings, 1)" :value="run.judged" />
      </div>
      <StatePanel
        v-else-if="run?.state === 'failed'"
        state="empty"
        title="This audit did not come to an end"
      >
        {{ run.message }}
      </StatePanel>
      <StatePanel v-else-if="!wall" state="loading" />
      <StatePanel v-else-if="!rows.length" state="empty" title="Nothing is wrong">
        Every meeting keeps the rulebook.
      </StatePanel>
      <div v-else class="min-h-0 flex-1 overflow-auto">
        <table class="grid-lines wall">
          <thead>
            <tr>
              <th class="!pl-5">Meeting</th>
              <th v-for="c in columns" :key="c.id" class="cell" :title="c.title">{{ c.short }}</th>
              <th>Exposure</th>
              <th>Next</th>
            </tr>
          </thead>
          <tbody>
            <tr
              v-for="(r, i) in rows"
              :id="`wall-${i}`"
              :key="r.meeting"
              :class="i === at.row ? 'bg-sheet' : ''"
            >
              <td
                class="max-w-64 truncate !pl-5"
                :class="i === at.row && at.column < 0 ? 'cursor' : ''"
              >
                <button class="head" :tabindex="i === at.row ? 0 : -1" @click="select(i, -1)">
                  {{ r.title }}
                </button>
                <span class="ml-1.5 text-[12.5px] text-soft">{{ unitName(r.unit) }}</span>
              </td>
              <td
                v-for="(c, j) in columns"
                :key="c.id"
                class="cell"
                :class="i === at.row && j === at.column ? 'cursor' : ''"
              >
                <button
                  v-if="r.families[c.id]"
                  class="block w-full py-1"
                  :tabindex="i === at.row && j === at.column ? 0 : -1"
                  :aria-label="`${r.title}, ${c.title}`"
                  @click="select(i, j)"
                >
                  <TallyMark
                    :severity="r.families[c.id]?.worst ?? 0"
                    :count="r.families[c.id]?.count"
                  />
                </button>
                <span v-else class="text-line" aria-hidden="true">·</span>
              </td>
              <td><WaterLine :score="r.exposure" :width="open ? 60 : 92" /></td>
              <td class="value whitespace-nowrap">{{ shortTime(r.next) }}</td>
            </tr>
          </tbody>
        </table>
        <p v-if="wall.total > size" class="px-5 py-3">
          <button class="link" @click="setQuery({ page: String(Number(query('page') || 0) + 1) })">
            Next {{ size }} of {{ wall.total }}
          </button>
        </p>
      </div>
      <p v-if="rows.length" class="shrink-0 border-t border-line px-5 py-2 text-[12.5px] text-soft">
        {{
          wall
            ? `${wall.total} of ${run?.meetings ?? 0} ${query('all') === '1' ? 'shown' : 'with open findings'} · `
            : ''
        }}
        <strong>j k h l</strong> move · <strong>↵</strong> story<template v-if="session.isWarden">
          · <strong>a</strong> apply the least change</template
        >
      </p>
    </div>
    <FindingDrawer
      v-if="open"
      ref="drawer"
      :audit="current"
      :edition="run?.edition ?? 0"
      :meeting="open.meeting"
      :title="open.title"
      :family="openColumn?.id ?? null"
      :family-title="openColumn?.title ?? ''"
      @close="setQuery({ meeting: undefined, family: undefined })"
    />
  </div>
</template>

<style scoped>
table.wall th.cell,
table.wall td.cell {
  width: 46px;
  padding: 2px 0;
  text-align: center;
  border-left: 1px solid var(--hair);
}
table.wall td {
  height: 34px;
  padding-top: 2px;
  padding-bottom: 2px;
}
table.wall td.cursor {
  outline: 2px solid var(--ink);
  outline-offset: -2px;
  background: var(--rust-wash);
}
</style>
