<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { computed, nextTick, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useOrganisation } from '@/api/catalogue'
import { api, take } from '@/api/client'
import type { Page } from '@/api/schema'
import { useSession } from '@/api/session'
import TallyMark from '@/marks/TallyMark.vue'
import WaterLine from '@/marks/WaterLine.vue'
import { useKeys } from '@/shell/keys'
import StatePanel from '@/shell/StatePanel.vue'
import { shortTime } from '@/shell/times'
import ImportDialog from './ImportDialog.vue'
import { recurrenceWords } from './recurrence'

const route = useRoute()
const router = useRouter()
const session = useSession()
const { organisation, unitName, kindName } = useOrganisation()
const size = 100

const query = (key: string) => String(route.query[key] ?? '')
function setQuery(part: Record<string, string | undefined>) {
  router.replace({ query: { ...route.query, page: undefined, row: undefined, ...part } })
}
const page = computed(() => Number(query('page') || 0))
const { data, error, refetch } = useQuery({
  key: () => [
    'meetings',
    'list',
    query('text'),
    query('unit'),
    query('kind'),
    query('band'),
    query('open'),
    query('sort'),
    page.value,
  ],
  query: () =>
    take(
      api.GET('/api/meetings', {
        params: {
          query: {
            text: query('text'),
            unit: query('unit'),
            kind: query('kind'),
            band: query('band'),
            open: query('open') === '1',
            sort: query('sort') || 'next',
            page: page.value,
            size,
          },
        },
      }),
    ),
  placeholderData: (before: Page | undefined) => before,
})
const rows = computed(() => data.value?.items ?? [])
const row = ref(Number(query('row') || 0))
const importing = computed(() => query('import') === '1')

watch(row, async (r) => {
  router.replace({ query: { ...route.query, row: r ? String(r) : undefined } })
  await nextTick()
  const line = document.getElementById(`row-${r}`)
  line?.scrollIntoView({ block: 'nearest' })
  line?.querySelector('a')?.focus({ preventScroll: true })
})
function open(id: string) {
  router.push(`/register/${encodeURIComponent(id)}`)
}
const heads = [
  { id: 'title', name: 'Meeting' },
  { id: '', name: 'Kind' },
  { id: 'host', name: 'Host' },
  { id: 'next', name: 'Next' },
  { id: '', name: 'Recurs' },
  { id: '', name: 'Invited' },
  { id: 'findings', name: 'Findings' },
  { id: 'exposure', name: 'Exposure' },
]
useKeys([
  {
    key: 'j',
    does: 'next',
    act: () => (row.value = Math.min(row.value + 1, rows.value.length - 1)),
  },
  { key: 'k', does: 'previous', act: () => (row.value = Math.max(row.value - 1, 0)) },
  {
    key: 'Enter',
    does: 'open',
    act: () => {
      const at = rows.value[row.value]
      if (at) open(at.id)
    },
  },
])
</script>

<template>
  <div class="flex h-full flex-col">
    <form
      class="flex shrink-0 flex-wrap items-center gap-3 border-b border-line px-5 py-2"
      @submit.prevent
    >
      <input
        class="field w-56"
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
      <label class="flex items-center gap-1.5">
        <input
          type="checkbox"
          :checked="query('open') === '1'"
          @change="setQuery({ open: query('open') === '1' ? undefined : '1' })"
        />
        with findings
      </label>
      <span class="ml-auto text-soft" role="status">{{
        data ? `${data.total} meetings` : ''
      }}</span>
      <template v-if="session.isWarden">
        <a class="link" href="/api/exchange/bundle" download="bundle.json">Give out a bundle</a>
        <button type="button" class="button" @click="setQuery({ import: '1' })">
          Bring in a bundle…
        </button>
      </template>
    </form>
    <StatePanel v-if="error" state="failed" :problem="error" @retry="refetch()" />
    <StatePanel v-else-if="!data" state="loading" />
    <StatePanel
      v-else-if="
        !rows.length &&
        !query('text') &&
        !query('unit') &&
        !query('kind') &&
        !query('band') &&
        query('open') !== '1'
      "
      state="empty"
      title="Nothing is scheduled yet"
    >
      <p v-if="session.isWarden">Bring in a bundle with your organisation’s meetings to begin.</p>
      <p v-else>None of the meetings is yours.</p>
    </StatePanel>
    <StatePanel v-else-if="!rows.length" state="empty" title="No meeting is like that">
      <button class="link" @click="router.replace({ query: {} })">Show all again</button>
    </StatePanel>
    <div v-else class="min-h-0 flex-1 overflow-auto">
      <table class="grid-lines">
        <thead>
          <tr>
            <th
              v-for="(head, i) in heads"
              :key="head.name"
              :class="i === 0 ? '!pl-5' : head.name === 'Invited' ? '!text-right' : ''"
              :aria-sort="
                head.id && (query('sort') || 'next') === head.id ? 'ascending' : undefined
              "
            >
              <button
                v-if="head.id"
                class="hover:text-ink"
                :class="(query('sort') || 'next') === head.id ? 'font-bold text-ink' : ''"
                @click="setQuery({ sort: head.id === 'next' ? undefined : head.id })"
              >
                {{ head.name }}
              </button>
              <template v-else>{{ head.name }}</template>
            </th>
          </tr>
        </thead>
        <tbody>
          <tr
            v-for="(m, i) in rows"
            :id="`row-${i}`"
            :key="m.id"
            class="cursor-pointer"
            :class="
              i === row
                ? 'bg-sheet outline outline-1 -outline-offset-1 outline-ink'
                : 'hover:bg-sheet'
            "
            @click="open(m.id)"
          >
            <td class="max-w-72 truncate !pl-5">
              <RouterLink
                :to="`/register/${encodeURIComponent(m.id)}`"
                class="head"
                @click.stop
                @focus="row = i"
                >{{ m.title }}</RouterLink
              >
              <span class="ml-1.5 text-[12.5px] text-soft">{{ unitName(m.unit) }}</span>
            </td>
            <td class="whitespace-nowrap text-soft">{{ kindName(m.kind) }}</td>
            <td class="max-w-44 truncate" :title="m.host">{{ m.hostName }}</td>
            <td class="value whitespace-nowrap">{{ shortTime(m.next) }}</td>
            <td class="whitespace-nowrap text-[12.5px] text-soft">
              {{ recurrenceWords(m.recurrence) }}
            </td>
            <td class="value text-right">{{ m.invited }}</td>
            <td class="whitespace-nowrap">
              <template v-if="m.findings">
                <TallyMark :severity="m.worst" :count="m.findings" />
                <span class="value ml-1">{{ m.findings }}</span>
              </template>
              <span v-else class="text-soft">·<span class="hidden-label">none</span></span>
            </td>
            <td><WaterLine :score="m.exposure" :band="m.band" word /></td>
          </tr>
        </tbody>
      </table>
      <div v-if="data.total > size" class="flex items-center gap-3 px-5 py-3">
        <button class="button" :disabled="page === 0" @click="setQuery({ page: String(page - 1) })">
          Earlier
        </button>
        <span class="value"
          >{{ page * size + 1 }}–{{ Math.min((page + 1) * size, data.total) }}</span
        >
        <button
          class="button"
          :disabled="(page + 1) * size >= data.total"
          @click="setQuery({ page: String(page + 1) })"
        >
          Later
        </button>
      </div>
    </div>
    <ImportDialog :open="importing" @close="setQuery({ import: undefined })" />
  </div>
</template>
