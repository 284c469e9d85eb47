<script setup lang="ts">
import { useQuery, useQueryCache } from '@pinia/colada'
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useOrganisation } from '@/api/catalogue'
import { api, take } from '@/api/client'
import { useSession } from '@/api/session'
import { useKeys } from '@/shell/keys'
import StatePanel from '@/shell/StatePanel.vue'
import { browserZone, toLocal } from '@/stations/scheduling/zones'
import { allColumns, useColumns } from './columns'
import FeedsDialog from './FeedsDialog.vue'
import ImportDialog from './ImportDialog.vue'
import { useLines, type LineFilter } from './lines'
import ManyBar from './ManyBar.vue'
import RegisterTable from './RegisterTable.vue'
import { mondayOf } from './week'
import WeekView from './WeekView.vue'

/** All scheduled meetings: a table and a week of the same rows. What is shown is in the address. */
const route = useRoute()
const router = useRouter()
const cache = useQueryCache()
const session = useSession()
const { organisation } = useOrganisation()
const { columns, chosen, toggle } = useColumns()
const { data: services } = useQuery({
  key: ['services'],
  query: () => take(api.GET('/api/services')),
  enabled: () => session.isWarden || session.who?.role === 'auditor',
})

const query = (key: string) => String(route.query[key] ?? '')
function setQuery(part: Record<string, string | undefined>, push = false) {
  const to = { query: { ...route.query, row: undefined, ...part } }
  if (push) router.push(to)
  else router.replace(to)
}
const filter = computed<LineFilter>(() => ({
  text: query('text'),
  unit: query('unit'),
  kind: query('kind'),
  band: query('band'),
  host: query('host'),
  service: query('service'),
  open: query('open') === '1',
  sort: query('sort') || 'next',
}))
const { at, want, total, problem, reload, known } = useLines(filter)
const narrowed = computed(() =>
  ['text', 'unit', 'kind', 'band', 'host', 'service', 'open'].some((k) => query(k) !== ''),
)
const row = ref(Number(query('row') || 0))
watch(row, (r) => router.replace({ query: { ...route.query, row: r ? String(r) : undefined } }))
const selected = ref(new Set<string>())
watch(
  () => JSON.stringify(filter.value),
  () => (selected.value = new Set()),
)
const week = computed(() => query('view') === 'week')
const monday = computed(() =>
  mondayOf(query('week') || toLocal(new Date(), browserZone).slice(0, 10)),
)
const choosingColumns = ref(false)
const maySchedule = computed(() => session.maySchedule)

function open(id: string) {
  router.push(`/register/${encodeURIComponent(id)}`)
}
function select(id: string) {
  const next = new Set(selected.value)
  if (!next.delete(id)) next.add(id)
  selected.value = next
}
function selectAll() {
  const all = known.value.map((l) => l.id)
  selected.value = selected.value.size === all.length ? new Set() : new Set(all)
}
async function done() {
  selected.value = new Set()
  await cache.invalidateQueries({ key: ['meetings'] })
  reload()
}
useKeys([
  {
    key: 'j',
    does: 'next',
    act: () => (row.value = Math.min(row.value + 1, (total.value ?? 1) - 1)),
  },
  { key: 'k', does: 'previous', act: () => (row.value = Math.max(row.value - 1, 0)) },
  {
    key: 'Enter',
    does: 'open',
    act: () => {
      const line = at(row.value)
      if (line) open(line.id)
    },
  },
  {
    key: 'x',
    does: 'choose for an act on several',
    act: () => {
      const line = at(row.value)
      if (line && session.isWarden) select(line.id)
    },
  },
  {
    key: 'n',
    does: 'schedule a meeting',
    act: () => maySchedule.value && router.push('/register/new'),
  },
  {
    key: 'w',
    does: 'table or week',
    act: () => setQuery({ view: week.value ? undefined : 'week' }, true),
  },
])
const exported = computed(() =>
  selected.value.size
    ? [...selected.value].map((id) => `&id=${encodeURIComponent(id)}`).join('')
    : '',
)
</script>

<template>
  <div class="flex h-full flex-col">
    <form
      class="flex shrink-0 flex-wrap items-center gap-x-3 gap-y-2 border-b border-line px-5 py-2"
      @submit.prevent
    >
      <input
        class="field w-44"
        type="search"
        placeholder="Title or host"
        aria-label="Title or host"
        :value="query('text')"
        @input="setQuery({ text: ($event.target as HTMLInputElement).value || undefined })"
      />
      <select
        class="field"
        aria-label="Unit"
        :value="query('unit')"
        @change="setQuery({ unit: ($event.target as HTMLSelectElement).value || undefined })"
      >
        <option value="">every unit</option>
        <option v-for="u in organisation?.units ?? []" :key="u.id" :value="u.id">
          {{ u.name }}
        </option>
      </select>
      <select
        class="field"
        aria-label="Kind"
        :value="query('kind')"
        @change="setQuery({ kind: ($event.target as HTMLSelectElement).value || undefined })"
      >
        <option value="">every kind</option>
        <option v-for="k in organisation?.kinds ?? []" :key="k.id" :value="k.id">
          {{ k.name }}
        </option>
      </select>
      <select
        class="field"
        aria-label="Band"
        :value="query('band')"
        @change="setQuery({ band: ($event.target as HTMLSelectElement).value || undefined })"
      >
        <option value="">every band</option>
        <option v-for="b in ['shut', 'guarded', 'ajar', 'open']" :key="b">{{ b }}</option>
      </select>
      <select
        v-if="services?.length"
        class="field"
        aria-label="Held by"
        :value="query('service')"
        @change="setQuery({ service: ($event.target as HTMLSelectElement).value || undefined })"
      >
        <option value="">every service</option>
        <option v-for="s in services" :key="s.id" :value="String(s.id)">{{ s.name }}</option>
        <option value="0">no service</option>
      </select>
      <label class="flex items-center gap-1.5">
        <input
          type="checkbox"
          :checked="query('open') === '1'"
          @change="setQuery({ open: query('open') === '1' ? undefined : '1' })"
        />
        with findings
      </label>
      <span v-if="query('host')" class="flex items-center gap-1.5">
        <span class="text-soft">host</span> {{ query('host') }}
        <button type="button" class="link" @click="setQuery({ host: undefined })">any</button>
      </span>
      <span class="ml-auto text-soft" role="status">{{
        total === null ? '' : `${total} meetings`
      }}</span>
      <button
        type="button"
        class="link"
        @click="setQuery({ view: week ? undefined : 'week' }, true)"
      >
        {{ week ? 'Table' : 'Week' }}
      </button>
      <span class="relative">
        <button
          type="button"
          class="link"
          :aria-expanded="choosingColumns"
          @click="choosingColumns = !choosingColumns"
        >
          Columns
        </button>
        <span
          v-if="choosingColumns"
          class="absolute right-0 z-20 mt-1 block w-40 border border-ink bg-sheet px-3 py-2"
          @keydown.esc="choosingColumns = false"
        >
          <label
            v-for="c in allColumns.filter((c) => c.id !== 'title')"
            :key="c.id"
            class="flex items-center gap-2"
          >
            <input type="checkbox" :checked="chosen.includes(c.id)" @change="toggle(c.id)" />
            {{ c.name }}
          </label>
        </span>
      </span>
      <button type="button" class="link" @click="setQuery({ feeds: '1' })">Subscribe</button>
      <button v-if="session.seesAll" type="button" class="link" @click="setQuery({ import: '1' })">
        Import and export
      </button>
      <RouterLink v-if="maySchedule" class="button button-main" to="/register/new"
        >Schedule</RouterLink
      >
    </form>
    <ManyBar v-if="selected.size" :ids="[...selected]" @done="done" @none="selected = new Set()" />
    <WeekView
      v-if="week"
      :filter="filter"
      :monday="monday"
      :mayschedule="maySchedule"
      @monday="setQuery({ week: $event || undefined })"
      @schedule="router.push({ path: '/register/new', query: { start: $event } })"
    />
    <StatePanel v-else-if="problem" state="failed" :problem="problem" @retry="reload()" />
    <StatePanel v-else-if="total === null" state="loading" />
    <StatePanel v-else-if="!total && !narrowed" state="empty" title="Nothing is scheduled yet">
      <p v-if="session.isWarden">
        Schedule a meeting, or bring in what is scheduled elsewhere: a calendar, a table, a bundle.
      </p>
      <p v-else>None of the meetings is yours.</p>
    </StatePanel>
    <StatePanel v-else-if="!total" state="empty" title="No meeting is like that">
      <button class="link" @click="router.replace({ query: {} })">Show all again</button>
    </StatePanel>
    <RegisterTable
      v-else
      :columns="columns"
      :total="total"
      :at="at"
      :row="row"
      :sort="filter.sort"
      :selected="selected"
      :selectable="session.isWarden"
      @want="want"
      @row="row = $event"
      @open="open"
      @sort="setQuery({ sort: $event === 'next' ? undefined : $event })"
      @toggle="select"
    />
    <div
      v-if="session.isWarden && total && !week"
      class="flex shrink-0 items-center gap-4 border-t border-line px-5 py-1 text-[12.5px] text-soft"
    >
      <button type="button" class="link" @click="selectAll">
        {{ selected.size ? 'Choose none' : `Choose the ${known.length} that are read` }}
      </button>
      <span>n schedules, x chooses a row, w turns to the week, ? shows all keys</span>
    </div>
    <ImportDialog
      :open="query('import') === '1'"
      :chosen="exported"
      @close="setQuery({ import: undefined })"
      @changed="done"
    />
    <FeedsDialog :open="query('feeds') === '1'" @close="setQuery({ feeds: undefined })" />
  </div>
</template>
