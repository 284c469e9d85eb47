<script setup lang="ts">
import { t } from '@/wording'
import { who } from '@/shell/who'
import { counted } from '@/shell/counted'
import { useQuery } from '@pinia/colada'
import { computed, ref, watch } from 'vue'
import { api, take } from '@/api/client'
import type { LedgerEntry, LedgerPage, Verified } from '@/api/schema'
import { useAddress } from '@/shell/address'
import FilterBar from '@/shell/FilterBar.vue'
import ListFoot from '@/shell/ListFoot.vue'
import { useAct } from '@/shell/act'
import ProblemNote from '@/shell/ProblemNote.vue'
import type { RowAct } from '@/shell/rowActs'
import RowMenu from '@/shell/RowMenu.vue'
import { useRows } from '@/shell/rows'
import StatePanel from '@/shell/StatePanel.vue'
import { fullTime, shortTime } from '@/shell/times'
import EntryDrawer from './EntryDrawer.vue'
import { actWords, objectWords, titleWords } from './ledger'

/** Who did what, when and from where; every entry chained to the last. */
const size = 100
const { query, set, clear, page, days } = useAddress()
function narrow(part: Record<string, string | undefined>) {
  return set({ ...part, entry: undefined })
}
const filter = computed(() => {
  const given: Record<string, string> = {}
  for (const key of ['who', 'act', 'object', 'objectId', 'text']) {
    if (query(key)) given[key] = query(key)
  }
  Object.assign(given, days.value)
  return given
})
const { data, error, refetch } = useQuery({
  key: () => ['ledger', JSON.stringify(filter.value), page.value],
  query: () =>
    take(
      api.GET('/api/ledger', { params: { query: { ...filter.value, page: page.value, size } } }),
    ),
  // the filter that somebody types in stays where it is
  placeholderData: (before: LedgerPage | undefined) => before,
})
const { data: known } = useQuery({
  key: ['ledger', 'known'],
  query: () => take(api.GET('/api/ledger/known')),
})
const entry = computed<LedgerEntry | undefined>(() =>
  data.value?.items.find((e) => String(e.seq) === query('entry')),
)
const pages = computed(() => Math.ceil((data.value?.total ?? 0) / size))
const show = (part: Record<string, string | undefined>) =>
  set({ page: query('page') || undefined, ...part })
const open = (seq: number) => void show({ entry: String(seq) })
const close = () => show({ entry: undefined })
const turn = (to: number) => set({ page: String(to), entry: undefined })

const verified = ref<Verified | null>(null)
const { busy: verifying, problem, attempt } = useAct()
const verify = () =>
  attempt(async () => {
    verified.value = null
    verified.value = await take(api.POST('/api/ledger/verification'))
    void refetch() // the verification is an entry too; whoever verifies again need not wait for it
  })
const file = (as: string) => `/api/ledger/file?${new URLSearchParams({ as, ...filter.value })}`
/** Whose history it is: by the title that its newest entry knows. */
const whose = computed(
  () =>
    data.value?.items.find((e) => e.title && e.objectId === query('objectId'))?.title ??
    query('objectId'),
)
const isNarrowed = computed(() => Object.keys(filter.value).length > 0)
const { cursor, look } = useRows({
  name: 'entry',
  rows: () => data.value?.items ?? [],
  open: (e) => open(e.seq),
  opened: () => data.value?.items.findIndex((e) => String(e.seq) === query('entry')) ?? -1,
  pages: { at: () => page.value, count: () => pages.value, turn },
  keys: [
    { key: 'Escape', does: t('ledger.close'), act: close },
    { key: 'v', does: t('ledger.verifyTheChain'), act: verify },
  ],
})
// an entry that is open follows the row that one is at
watch(cursor, (row) => {
  const at = data.value?.items[row]
  if (entry.value && at && at.seq !== entry.value.seq) void show({ entry: String(at.seq) })
})
function acts(e: LedgerEntry): RowAct[] {
  const all: RowAct[] = [{ name: t('ledger.openIt'), act: () => open(e.seq) }]
  if (e.objectId) {
    all.push({
      name: t('ledger.allThatWasDoneWithIt'),
      act: () => void narrow({ object: e.object, objectId: e.objectId }),
    })
  }
  all.push(
    { name: t('ledger.allByThem'), act: () => void narrow({ who: e.who }) },
    { name: t('ledger.allActsLikeThis'), act: () => void narrow({ act: e.act }) },
  )
  return all
}
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
      <FilterBar :words="t('ledger.titleOrValue')" :days="t('ledger.when')" :change="narrow">
        <select
          class="field max-w-52"
          :aria-label="t('ledger.who')"
          :value="query('who')"
          @change="narrow({ who: ($event.target as HTMLSelectElement).value || undefined })"
        >
          <option value="">{{ t('ledger.everybody') }}</option>
          <option v-for="p in known?.people ?? []" :key="p" :value="p">{{ who(p) }}</option>
        </select>
        <select
          class="field max-w-48"
          :aria-label="t('ledger.act')"
          :value="query('act')"
          @change="narrow({ act: ($event.target as HTMLSelectElement).value || undefined })"
        >
          <option value="">{{ t('ledger.everyAct') }}</option>
          <option v-for="a in known?.acts ?? []" :key="a" :value="a">{{ actWords(a) }}</option>
        </select>
        <template #acts>
          <a class="link" :href="file('jsonl')" download>{{ t('ledger.jSONLines') }}</a>
          <a class="link" :href="file('csv')" download>{{ t('ledger.cSV') }}</a>
          <button type="button" class="button" :disabled="verifying" @click="verify">
            {{ verifying ? t('ledger.verifying') : t('ledger.verify') }}
          </button>
        </template>
      </FilterBar>
      <p
        v-if="query('object')"
        class="flex shrink-0 gap-2 border-b border-hair px-5 py-1.5 text-soft"
      >
        {{ t('ledger.theHistoryOfQuery', { query: objectWords(query('object')) }) }}
        <strong class="text-ink" :title="query('objectId')">{{ whose }}</strong>
        <button class="link" @click="narrow({ object: undefined, objectId: undefined })">
          {{ t('shell.showAllAgain') }}
        </button>
      </p>
      <p
        v-if="verified"
        role="status"
        class="shrink-0 border-b border-line px-5 py-2"
        :class="verified.whole ? 'text-kelp' : 'bg-rust-wash text-rust'"
      >
        <strong>{{
          verified.whole
            ? t('ledger.theChainHolds')
            : t('ledger.theChainBreaksAtEntryBrokenAt', { brokenAt: verified.brokenAt })
        }}</strong>
        {{
          t('ledger.wordsEntrysRead', {
            words: verified.words,
            entrys: counted(verified.entries, 'entryWas'),
          })
        }}
      </p>
      <ul
        v-if="verified && verified.count > 1"
        class="max-h-40 shrink-0 overflow-auto border-b border-line bg-rust-wash px-5 py-2 text-rust"
        tabindex="0"
        :aria-label="t('ledger.everyPlaceWhereTheChainDoesNot')"
      >
        <li v-for="b in verified.breaks.slice(1)" :key="`${b.seq} ${b.how}`">
          <button class="link" @click="open(b.seq)">
            {{ t('ledger.entrySeq', { seq: b.seq }) }}</button>: {{ b.words }}
        </li>
        <li v-if="verified.count > verified.breaks.length">
          {{ t('ledger.andCountMore', { count: verified.count - verified.breaks.length }) }}
        </li>
      </ul>
      <ProblemNote class="m-3" :problem="problem" />
      <StatePanel
        v-if="!data.items.length"
        state="empty"
        :title="isNarrowed ? t('ledger.noEntryIsLikeThat') : t('ledger.nothingHasBeenDoneYet')"
      >
        <button v-if="isNarrowed" class="link" @click="clear()">
          {{ t('shell.showAllAgain') }}
        </button>
      </StatePanel>
      <div v-else class="min-h-0 flex-1 overflow-auto">
        <table class="grid-lines stack w-full table-fixed">
          <colgroup>
            <col class="w-20" />
            <col class="w-36" />
            <col :class="entry ? 'w-40' : 'w-64'" />
            <col class="w-64" />
            <col />
            <col v-if="!entry" class="w-32" />
            <col class="w-12" />
          </colgroup>
          <thead>
            <tr>
              <th scope="col" class="pl-5 text-right">{{ t('ledger.entry') }}</th>
              <th scope="col">{{ t('ledger.when') }}</th>
              <th scope="col">{{ t('ledger.who') }}</th>
              <th scope="col">{{ t('ledger.act') }}</th>
              <th scope="col">{{ t('ledger.ofWhat') }}</th>
              <th v-if="!entry" scope="col">{{ t('ledger.from') }}</th>
              <th scope="col">
                <span class="hidden-label">{{ t('shell.acts') }}</span>
              </th>
            </tr>
          </thead>
          <tbody>
            <tr
              v-for="(e, i) in data.items"
              :id="`entry-${i}`"
              :key="e.seq"
              class="cursor-pointer"
              :class="look(i)"
              @click="open(e.seq)"
            >
              <td class="value pr-2 text-right">
                <button
                  :aria-label="t('ledger.openEntrySeq', { seq: e.seq })"
                  @click.stop="open(e.seq)"
                >
                  {{ e.seq }}
                </button>
              </td>
              <td class="value" :title="fullTime(e.at)">{{ shortTime(e.at) }}</td>
              <td class="truncate" :title="who(e.who)">{{ who(e.who) }}</td>
              <td class="truncate">{{ actWords(e.act) }}</td>
              <td class="truncate" :title="`${objectWords(e.object)} ${e.objectId}`">
                {{ titleWords(e) }}
              </td>
              <td v-if="!entry" class="value truncate text-soft">
                {{ e.via === 'background' ? t('ledger.itself') : e.address }}
              </td>
              <td class="!pr-4 text-right">
                <RowMenu :of="t('ledger.entrySeq', { seq: e.seq })" :acts="acts(e)" />
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <ListFoot
        :count="counted(data.total, 'entry')"
        :page="page"
        :pages="pages"
        opens
        @turn="turn"
      >
        <span class="phone:hidden"><strong>v</strong> {{ t('ledger.verify2') }}</span>
      </ListFoot>
    </div>
    <EntryDrawer
      v-if="entry"
      :entry="entry"
      @close="close"
      @history="(object, id) => narrow({ object, objectId: id })"
    />
  </div>
</template>
