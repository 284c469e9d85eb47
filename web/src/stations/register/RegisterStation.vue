<script setup lang="ts">
import { bandName } from '@/marks/bands'
import { t } from '@/wording'
import { useQuery, useQueryCache } from '@pinia/colada'
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useOrganisation } from '@/api/catalogue'
import { api, take } from '@/api/client'
import { useSession } from '@/api/session'
import type { Line } from '@/api/schema'
import { useAddress } from '@/shell/address'
import { counted } from '@/shell/counted'
import FilterBar from '@/shell/FilterBar.vue'
import FilterChoice from '@/shell/FilterChoice.vue'
import { useKeys } from '@/shell/keys'
import ListFoot from '@/shell/ListFoot.vue'
import type { RowAct } from '@/shell/rowActs'
import { listKeys } from '@/shell/rows'
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

const { query, clear, days, isNarrowedBy } = useAddress()
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
  ...days.value,
}))
const { at, want, total, problem, reload, known } = useLines(filter)
const narrowed = computed(() => isNarrowedBy('unit', 'kind', 'band', 'host', 'service', 'open'))
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
/** What a row's menu offers; a host has neither the audit nor the ledger. */
function acts(line: Line): RowAct[] {
  const id = encodeURIComponent(line.id)
  const all: RowAct[] = [{ name: t('register.openIt'), to: `/register/${id}` }]
  if (maySchedule.value) all.push({ name: t('register.changeIt'), to: `/register/${id}/edit` })
  all.push({
    name: t('register.whoGetsIn'),
    to: { path: '/door', query: { meeting: line.id } },
  })
  if (session.seesAll || session.isUnitWarden)
    all.push({
      name: t('register.itsFindings'),
      to: { path: '/audit', query: { meeting: line.id, show: 'all' } },
    })
  if (session.seesAll)
    all.push(
      { name: t('register.allOfItsHost'), to: { path: '/register', query: { host: line.host } } },
      {
        name: t('register.whatWasDoneWithIt'),
        to: { path: '/ledger', query: { object: 'meeting', objectId: line.id } },
      },
    )
  return all
}
useKeys([
  {
    key: 'j',
    does: t('shell.nextRow'),
    act: () => (row.value = Math.min(row.value + 1, (total.value ?? 1) - 1)),
  },
  { key: 'k', does: t('shell.rowBefore'), act: () => (row.value = Math.max(row.value - 1, 0)) },
  ...listKeys(() => document.getElementById(`row-${row.value}`)),
  {
    key: 'Enter',
    does: t('shell.openTheRow'),
    act: () => {
      const line = at(row.value)
      if (line) open(line.id)
    },
  },
  {
    key: 'x',
    does: t('register.chooseForAnActOnSeveral'),
    act: () => {
      const line = at(row.value)
      if (line && session.isWarden) select(line.id)
    },
  },
  {
    key: 'n',
    does: t('register.scheduleAMeeting'),
    act: () => maySchedule.value && router.push('/register/new'),
  },
  {
    key: 'w',
    does: t('register.tableOrWeek'),
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
    <FilterBar :words="t('register.titleOrHost')" :days="week ? undefined : t('register.nextTime')">
      <FilterChoice
        name="unit"
        :label="t('register.unit')"
        :all="t('register.everyUnit')"
        :choices="organisation?.units ?? []"
        :change="setQuery"
      />
      <FilterChoice
        name="kind"
        :label="t('register.kind')"
        :all="t('register.everyKind')"
        :choices="organisation?.kinds ?? []"
        :change="setQuery"
      />
      <FilterChoice
        name="band"
        :label="t('register.band')"
        :all="t('register.everyBand')"
        :choices="['shut', 'guarded', 'ajar', 'open'].map((id) => ({ id, name: bandName(id) }))"
        :change="setQuery"
      />
      <select
        v-if="services?.length"
        class="field max-w-32"
        :aria-label="t('register.heldBy')"
        :value="query('service')"
        @change="setQuery({ service: ($event.target as HTMLSelectElement).value || undefined })"
      >
        <option value="">{{ t('register.everyService') }}</option>
        <option v-for="s in services" :key="s.id" :value="String(s.id)">{{ s.name }}</option>
        <option value="0">{{ t('register.noService') }}</option>
      </select>
      <label class="flex items-center gap-1.5">
        <input
          type="checkbox"
          :checked="query('open') === '1'"
          @change="setQuery({ open: query('open') === '1' ? undefined : '1' })"
        />
        {{ t('register.withFindings') }}
      </label>
      <span v-if="query('host')" class="flex items-center gap-1.5">
        <span class="text-soft">{{ t('register.host2') }}</span> {{ query('host') }}
        <button type="button" class="link" @click="setQuery({ host: undefined })">
          {{ t('register.any') }}
        </button>
      </span>
      <template #acts>
        <button
          type="button"
          class="link"
          @click="setQuery({ view: week ? undefined : 'week' }, true)"
        >
          {{ week ? t('register.table') : t('register.week') }}
        </button>
        <span class="relative">
          <button
            type="button"
            class="link"
            :aria-expanded="choosingColumns"
            @click="choosingColumns = !choosingColumns"
          >
            {{ t('register.columns') }}
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
        <button type="button" class="link" @click="setQuery({ feeds: '1' })">
          {{ t('register.subscribe') }}
        </button>
        <button
          v-if="session.seesAll"
          type="button"
          class="link"
          @click="setQuery({ import: '1' })"
        >
          {{ t('register.importAndExport') }}
        </button>
        <RouterLink v-if="maySchedule" class="button button-main" to="/register/new">{{
          t('register.schedule')
        }}</RouterLink>
      </template>
    </FilterBar>
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
    <StatePanel
      v-else-if="!total && !narrowed"
      state="empty"
      :title="t('register.nothingIsScheduledYet')"
    >
      <p v-if="session.isWarden">
        {{ t('register.scheduleAMeetingOrBringInWhat') }}
      </p>
      <p v-else>{{ t('register.noneOfTheMeetingsIsYours') }}</p>
    </StatePanel>
    <StatePanel v-else-if="!total" state="empty" :title="t('register.noMeetingIsLikeThat')">
      <button class="link" @click="clear()">
        {{ t('shell.showAllAgain') }}
      </button>
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
      :acts="acts"
      @want="want"
      @row="row = $event"
      @open="open"
      @sort="setQuery({ sort: $event === 'next' ? undefined : $event })"
      @toggle="select"
    />
    <ListFoot v-if="!week && total" :count="counted(total, 'meeting')" opens>
      <button v-if="session.isWarden" type="button" class="link" @click="selectAll">
        {{
          selected.size
            ? t('register.chooseNone')
            : t('register.chooseTheKnownThatAreRead', { known: known.length })
        }}
      </button>
    </ListFoot>
    <ImportDialog
      :open="query('import') === '1'"
      :chosen="exported"
      @close="setQuery({ import: undefined })"
      @changed="done"
    />
    <FeedsDialog :open="query('feeds') === '1'" @close="setQuery({ feeds: undefined })" />
  </div>
</template>
