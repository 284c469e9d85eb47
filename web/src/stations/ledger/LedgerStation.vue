<script setup lang="ts">
import { counted } from '@/shell/counted'
import { useQuery } from '@pinia/colada'
import { watchDebounced } from '@vueuse/core'
import { computed, nextTick, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, take } from '@/api/client'
import type { LedgerEntry, Verified } from '@/api/schema'
import { useKeys } from '@/shell/keys'
import ProblemNote from '@/shell/ProblemNote.vue'
import StatePanel from '@/shell/StatePanel.vue'
import { fullTime, shortTime } from '@/shell/times'
import EntryDrawer from './EntryDrawer.vue'
import { actWords } from './ledger'

/** Who did what, when and from where; every entry chained to the last. */
const route = useRoute()
const router = useRouter()
const size = 100
const query = (key: string) => String(route.query[key] ?? '')
function setQuery(part: Record<string, string | undefined>) {
  return router.replace({ path: route.path, query: { ...route.query, ...part } })
}
const words = ref(query('text'))
watchDebounced(words, () => narrow({ text: words.value.trim() || undefined }), { debounce: 300 })
function narrow(part: Record<string, string | undefined>) {
  return setQuery({ ...part, page: undefined, entry: undefined })
}
const page = computed(() => Math.max(0, Number(query('page')) || 0))
const filter = computed(() => {
  const given: Record<string, string> = {}
  for (const key of ['who', 'act', 'object', 'objectId', 'text']) {
    if (query(key)) given[key] = query(key)
  }
  if (query('from')) given.from = new Date(`${query('from')}T00:00`).toISOString()
  if (query('to')) {
    const end = new Date(`${query('to')}T00:00`)
    end.setDate(end.getDate() + 1) // the day itself is in it
    given.to = end.toISOString()
  }
  return given
})
const { data, error, refetch } = useQuery({
  key: () => ['ledger', JSON.stringify(filter.value), page.value],
  query: () =>
    take(
      api.GET('/api/ledger', { params: { query: { ...filter.value, page: page.value, size } } }),
    ),
})
const { data: known } = useQuery({
  key: ['ledger', 'known'],
  query: () => take(api.GET('/api/ledger/known')),
})
const entry = computed<LedgerEntry | undefined>(() =>
  data.value?.items.find((e) => String(e.seq) === query('entry')),
)
const cursor = ref(0)
const pages = computed(() => Math.ceil((data.value?.total ?? 0) / size))
async function move(by: number) {
  const items = data.value?.items ?? []
  cursor.value = Math.min(items.length - 1, Math.max(0, cursor.value + by))
  if (entry.value) open(items[cursor.value]?.seq)
  await nextTick()
  document.getElementById(`entry-${cursor.value}`)?.scrollIntoView({ block: 'nearest' })
}
function open(seq: number | undefined) {
  if (seq === undefined) return
  cursor.value = data.value?.items.findIndex((e) => e.seq === seq) ?? 0
  setQuery({ entry: String(seq) })
}
const close = () => setQuery({ entry: undefined })

const verified = ref<Verified | null>(null)
const verifying = ref(false)
const problem = ref<Error | null>(null)
async function verify() {
  if (verifying.value) return
  verifying.value = true
  problem.value = null
  try {
    verified.value = await take(api.POST('/api/ledger/verification'))
    await refetch()
  } catch (e) {
    problem.value = e as Error
  } finally {
    verifying.value = false
  }
}
const file = (as: string) => `/api/ledger/file?${new URLSearchParams({ as, ...filter.value })}`
const isNarrowed = computed(() => Object.keys(filter.value).length > 0)
useKeys([
  { key: 'j', does: 'next entry', act: () => move(1) },
  { key: 'k', does: 'entry before', act: () => move(-1) },
  { key: 'Enter', does: 'open', act: () => open(data.value?.items[cursor.value]?.seq) },
  { key: 'Escape', does: 'close', act: close },
  { key: 'v', does: 'verify the chain', act: verify },
])
</script>

<template>
  <StatePanel v-if="error && !data" state="failed" :problem="error" @retry="refetch()" />
  <StatePanel v-else-if="!data" state="loading" />
  <div
    v-else
    class="grid h-full"
    :class="entry ? 'grid-cols-[minmax(0,1fr)_420px] narrow:grid-cols-1' : 'grid-cols-1'"
  >
    <div class="flex min-h-0 flex-col">
      <div
        class="flex min-h-11 shrink-0 flex-wrap items-center gap-2 border-b border-line px-5 py-1.5"
      >
        <select
          class="field max-w-52"
          aria-label="Who"
          :value="query('who')"
          @change="narrow({ who: ($event.target as HTMLSelectElement).value || undefined })"
        >
          <option value="">everybody</option>
          <option v-for="p in known?.people ?? []" :key="p" :value="p">{{ p }}</option>
        </select>
        <select
          class="field max-w-48"
          aria-label="Act"
          :value="query('act')"
          @change="narrow({ act: ($event.target as HTMLSelectElement).value || undefined })"
        >
          <option value="">every act</option>
          <option v-for="a in known?.acts ?? []" :key="a" :value="a">{{ actWords(a) }}</option>
        </select>
        <input
          class="field"
          type="date"
          aria-label="From"
          :value="query('from')"
          @change="narrow({ from: ($event.target as HTMLInputElement).value || undefined })"
        />
        <span class="text-soft">to</span>
        <input
          class="field"
          type="date"
          aria-label="To"
          :value="query('to')"
          @change="narrow({ to: ($event.target as HTMLInputElement).value || undefined })"
        />
        <input
          v-model="words"
          class="field w-44"
          type="search"
          placeholder="title or value"
          aria-label="Title or value"
        />
        <span class="ml-auto flex items-center gap-3">
          <a class="link" :href="file('jsonl')" download>JSON Lines</a>
          <a class="link" :href="file('csv')" download>CSV</a>
          <button class="button" :disabled="verifying" @click="verify">
            {{ verifying ? 'Verifying…' : 'Verify' }}
          </button>
        </span>
      </div>
      <p
        v-if="query('object')"
        class="flex shrink-0 gap-2 border-b border-hair px-5 py-1.5 text-soft"
      >
        The history of {{ query('object') }}
        <strong class="value text-ink">{{ query('objectId') }}</strong>
        <button class="link" @click="narrow({ object: undefined, objectId: undefined })">
          show everything
        </button>
      </p>
      <p
        v-if="verified"
        role="status"
        class="shrink-0 border-b border-line px-5 py-2"
        :class="verified.whole ? 'text-kelp' : 'bg-rust-wash text-rust'"
      >
        <strong>{{
          verified.whole ? 'The chain holds.' : `The chain breaks at entry ${verified.brokenAt}.`
        }}</strong>
        {{ verified.words }} {{ counted(verified.entries, 'entry was', 'entries were') }} read.
      </p>
      <ul
        v-if="verified && verified.count > 1"
        class="max-h-40 shrink-0 overflow-auto border-b border-line bg-rust-wash px-5 py-2 text-rust"
        tabindex="0"
        aria-label="Every place where the chain does not hold"
      >
        <li v-for="b in verified.breaks.slice(1)" :key="`${b.seq} ${b.how}`">
          <button class="link" @click="open(b.seq)">Entry {{ b.seq }}</button>: {{ b.words }}
        </li>
        <li v-if="verified.count > verified.breaks.length">
          and {{ verified.count - verified.breaks.length }} more
        </li>
      </ul>
      <ProblemNote class="m-3" :problem="problem" />
      <StatePanel
        v-if="!data.items.length"
        state="empty"
        :title="isNarrowed ? 'No entry is like that' : 'Nothing has been done yet'"
      />
      <div v-else class="min-h-0 flex-1 overflow-auto">
        <table class="grid-lines stack w-full table-fixed">
          <colgroup>
            <col class="w-20" />
            <col class="w-36" />
            <col :class="entry ? 'w-40' : 'w-64'" />
            <col class="w-48" />
            <col />
            <col v-if="!entry" class="w-32" />
          </colgroup>
          <thead>
            <tr>
              <th scope="col" class="pl-5 text-right">Entry</th>
              <th scope="col">When</th>
              <th scope="col">Who</th>
              <th scope="col">Act</th>
              <th scope="col">Of what</th>
              <th v-if="!entry" scope="col">From</th>
            </tr>
          </thead>
          <tbody>
            <tr
              v-for="(e, i) in data.items"
              :id="`entry-${i}`"
              :key="e.seq"
              class="cursor-pointer"
              :class="i === cursor ? 'bg-sea-wash' : ''"
              @click="open(e.seq)"
            >
              <td class="value pr-2 text-right">
                <button :aria-label="`Open entry ${e.seq}`" @click.stop="open(e.seq)">
                  {{ e.seq }}
                </button>
              </td>
              <td class="value" :title="fullTime(e.at)">{{ shortTime(e.at) }}</td>
              <td class="truncate" :title="e.who">{{ e.who }}</td>
              <td class="truncate">{{ actWords(e.act) }}</td>
              <td class="truncate" :title="`${e.object} ${e.objectId}`">
                {{ e.title || e.objectId || e.object }}
              </td>
              <td v-if="!entry" class="value truncate text-soft">
                {{ e.via === 'background' ? 'itself' : e.address }}
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <p class="flex shrink-0 items-center gap-3 border-t border-line px-5 py-2 text-soft">
        <span>{{ counted(data.total, 'entry', 'entries') }}</span>
        <template v-if="pages > 1">
          <button
            class="link"
            :disabled="page === 0"
            @click="setQuery({ page: String(page - 1), entry: undefined })"
          >
            newer
          </button>
          <span>page {{ page + 1 }} of {{ pages }}</span>
          <button
            class="link"
            :disabled="page + 1 >= pages"
            @click="setQuery({ page: String(page + 1), entry: undefined })"
          >
            older
          </button>
        </template>
        <span class="ml-auto text-[12.5px]"
          ><strong>j k</strong> move · <strong>↵</strong> open · <strong>v</strong> verify</span
        >
      </p>
    </div>
    <EntryDrawer
      v-if="entry"
      :entry="entry"
      @close="close"
      @history="(object, id) => narrow({ object, objectId: id })"
    />
  </div>
</template>
