<script setup lang="ts">
import { t } from '@/wording'
import { useQueryCache } from '@pinia/colada'
import { computed, ref, watch } from 'vue'
import { useOrganisation } from '@/api/catalogue'
import { api, take } from '@/api/client'
import { useSession } from '@/api/session'
import { useAct } from '@/shell/act'
import { useAddress } from '@/shell/address'
import { counted } from '@/shell/counted'
import FilterBar from '@/shell/FilterBar.vue'
import ListFoot from '@/shell/ListFoot.vue'
import ModalSheet from '@/shell/ModalSheet.vue'
import OutdatedNote from '@/shell/OutdatedNote.vue'
import ProblemNote from '@/shell/ProblemNote.vue'
import type { RowAct } from '@/shell/rowActs'
import RowMenu from '@/shell/RowMenu.vue'
import { holds, useRows } from '@/shell/rows'
import { mayLeave, useUnsaved } from '@/shell/unsaved'
import StatePanel from '@/shell/StatePanel.vue'
import PeoplePicker from '@/stations/scheduling/PeoplePicker.vue'
import HousePart from './HousePart.vue'
import PeopleNav from './PeopleNav.vue'

/** Lists, spaces and rooms; units, kinds and partners are a part of their own. */
const props = defineProps<{ sort?: string }>()
const session = useSession()
const cache = useQueryCache()
const { organisation } = useOrganisation()
const sort = computed(() => props.sort || 'lists')
const one: Record<string, string> = {
  lists: t('people.list'),
  spaces: t('people.space'),
  rooms: t('people.room'),
}
const says: Record<string, string> = {
  lists: t('people.whoIsReachedThroughAListIs'),
  spaces: t('people.aSpaceReachesItsMembersForEvery'),
  rooms: t('people.roomsAreBookedWithAMeetingCalendars'),
}
interface Entry {
  id: string
  name: string
  /** How many. */
  members?: number
  email?: string
  seats?: number
}
interface Draft extends Omit<Entry, 'members'> {
  /** Null until they are known. */
  members: string[] | null
}
const SHOWN = 100
const entries = computed<Entry[]>(() => {
  const all = organisation.value
  if (!all) return []
  return sort.value === 'rooms' ? all.rooms : sort.value === 'spaces' ? all.spaces : all.lists
})
const { query, clear } = useAddress()
const rows = computed(() =>
  entries.value.filter((e) => holds(query('text'), e.name, e.id, e.email)),
)
const count = computed(() =>
  sort.value === 'rooms'
    ? counted(rows.value.length, 'room')
    : counted(rows.value.length, sort.value === 'spaces' ? 'space' : 'list'),
)
const chosen = ref('')
const draft = ref<Draft | null>(null)
const filter = ref('')
const shown = computed(() => (draft.value?.members ?? []).filter((m) => holds(filter.value, m)))
const fresh = ref(false)
const { busy, problem, attempt } = useAct()
/** As it was when it was opened; null for a new one. */
const opened = ref<Draft | null>(null)
const touched = computed(() => JSON.stringify(draft.value) !== JSON.stringify(opened.value))
watch(
  [sort, entries],
  ([now], before) => {
    // the list is read anew now and then: what somebody is about to change stays
    if (now === before?.[0] && touched.value) return
    choose(entries.value.find((e) => e.id === chosen.value) ?? entries.value[0])
  },
  { immediate: true },
)
useUnsaved(() => touched.value)
const { look } = useRows({
  name: 'group',
  rows: () => rows.value,
  open: (entry) => void open(entry),
  opened: () => rows.value.findIndex((e) => e.id === chosen.value),
  menu: !session.isHost,
})
const acts = (e: Entry): RowAct[] => [
  {
    name: t('people.whatWasDoneWithIt'),
    to: {
      path: '/ledger',
      query: { object: sort.value === 'rooms' ? 'room' : 'group', objectId: e.id },
    },
  },
]
async function open(entry: Entry) {
  if (await mayLeave()) choose(entry)
}
function choose(entry: Entry | undefined) {
  fresh.value = false
  problem.value = null
  chosen.value = entry?.id ?? ''
  filter.value = ''
  const hasMembers = sort.value !== 'rooms'
  draft.value = entry ? { ...entry, members: hasMembers ? null : [] } : null
  opened.value = draft.value && { ...draft.value }
  if (entry && hasMembers) void load(entry.id)
}
/** Who is in it is asked for when it is opened: there may be thousands. */
async function load(id: string) {
  const of = sort.value
  try {
    const all = await take(
      api.GET('/api/people/groups/{sort}/{id}', { params: { path: { sort: of, id } } }),
    )
    if (chosen.value !== id || sort.value !== of || !draft.value || !opened.value) return
    draft.value.members = all.members
    opened.value.members = all.members
  } catch (e) {
    if (chosen.value === id && sort.value === of) problem.value = e as Error
  }
}
async function begin() {
  if (!(await mayLeave())) return
  fresh.value = true
  problem.value = null
  chosen.value = ''
  draft.value = { id: '', name: '', members: [], email: '', seats: 8 }
  opened.value = { ...draft.value }
}
/** As it is sent: what is typed after that is not saved yet. */
const copy = (d: Draft): Draft => ({ ...d, members: d.members && [...d.members] })
const roomOf = (d: Draft) => ({ name: d.name, email: d.email ?? '', seats: Number(d.seats) })
async function save() {
  const inHand = draft.value
  if (!inHand) return
  const d = copy(inHand)
  const seen = opened.value
  const members = seen?.members ?? []
  const of = sort.value
  await attempt(async () => {
    const header = fresh.value ? { 'If-None-Match': '*' } : {}
    if (sort.value === 'rooms') {
      await take(
        api.PUT('/api/people/groups/rooms/{id}', {
          params: { path: { id: d.id }, header },
          body: { ...roomOf(d), seen: fresh.value || !seen ? undefined : roomOf(seen) },
        }),
      )
    } else if (fresh.value) {
      await take(
        api.PUT('/api/people/groups/{sort}/{id}', {
          params: { path: { sort: of, id: d.id }, header },
          body: { name: d.name, members: d.members ?? [] },
        }),
      )
    } else {
      const before = new Set(members)
      const after = new Set(d.members ?? [])
      await take(
        api.PATCH('/api/people/groups/{sort}/{id}', {
          params: { path: { sort: of, id: d.id } },
          body: {
            // a name that nobody changed here is left as others may have changed it
            name: d.name === seen?.name ? undefined : d.name,
            add: [...after].filter((each) => !before.has(each)),
            remove: [...before].filter((each) => !after.has(each)),
          },
        }),
      )
    }
    // where somebody has gone on to another meanwhile, that one is in hand
    if (draft.value === inHand) {
      fresh.value = false
      opened.value = d
      chosen.value = d.id
    }
    await cache.invalidateQueries()
  })
}
/** What somebody else made of it takes the place of what was typed here. */
async function takeTheirs() {
  await cache.invalidateQueries({ key: ['organisation'] })
  choose(entries.value.find((e) => e.id === chosen.value) ?? entries.value[0])
}
/** Whether it is asked if the one in hand is to go: nothing brings back who was in it. */
const asking = ref(false)
const whatGoes = computed(() => {
  const d = opened.value
  if (!d) return ''
  return sort.value === 'rooms'
    ? t('people.aRoomGoes', { name: d.name })
    : t('people.aGroupGoes', { name: d.name, members: counted(d.members?.length ?? 0, 'member') })
})
async function remove() {
  const gone = draft.value
  const id = gone?.id
  if (!id) return
  await attempt(async () => {
    await take(
      api.DELETE('/api/people/groups/{sort}/{id}', {
        params: { path: { sort: sort.value, id } },
      }),
    )
    if (draft.value === gone) {
      chosen.value = ''
      opened.value = gone
    }
    await cache.invalidateQueries()
  })
  asking.value = false
}
</script>

<template>
  <div class="flex h-full flex-col">
    <PeopleNav />
    <HousePart v-if="sort === 'house'" />
    <StatePanel v-else-if="!organisation" state="loading" />
    <div v-else class="grid min-h-0 flex-1 grid-cols-[22rem_1fr] narrow:block narrow:overflow-auto">
      <div class="flex min-h-0 flex-col border-r border-line">
        <FilterBar :words="sort === 'rooms' ? t('people.nameOrAddress') : t('people.nameOrId')">
          <template #acts>
            <button v-if="session.isWarden" type="button" class="button" @click="begin">
              {{ t('people.addAOne', { one: one[sort] }) }}
            </button>
          </template>
        </FilterBar>
        <div class="min-h-0 flex-1 overflow-auto">
          <ul>
            <li
              v-for="(e, i) in rows"
              :id="`group-${i}`"
              :key="e.id"
              class="flex items-center border-b border-hair pr-3"
              :class="look(i)"
            >
              <button
                type="button"
                class="flex min-w-0 flex-1 justify-between gap-2 py-1.5 pr-2 pl-5 text-left"
                :class="chosen === e.id ? 'font-bold' : ''"
                :aria-pressed="chosen === e.id"
                @click="open(e)"
              >
                {{ e.name }}
                <span class="value font-normal text-soft">{{
                  sort === 'rooms' ? e.seats : (e.members ?? 0)
                }}</span>
              </button>
              <RowMenu v-if="!session.isHost" :of="e.name" :acts="acts(e)" />
            </li>
          </ul>
          <p v-if="!entries.length" class="px-5 py-3 text-soft">{{ t('people.thereAreNone') }}</p>
          <StatePanel v-else-if="!rows.length" state="empty" :title="t('people.noneIsLikeThat')">
            <button class="link" @click="clear()">{{ t('shell.showAllAgain') }}</button>
          </StatePanel>
        </div>
        <ListFoot :count="count" opens />
      </div>
      <div class="overflow-auto px-6 py-4">
        <p class="text-soft">{{ says[sort] }}</p>
        <form v-if="draft" class="mt-3 max-w-2xl" @submit.prevent="save">
          <fieldset
            class="grid grid-cols-[5rem_minmax(0,1fr)] items-center gap-x-3 gap-y-2"
            :disabled="!session.isWarden"
          >
            <label for="g-id" class="text-soft">{{ t('people.id') }}</label>
            <input
              id="g-id"
              v-model="draft.id"
              class="field value w-56 max-w-full"
              required
              pattern="[A-Za-z0-9][A-Za-z0-9._:\-]{0,63}"
              :readonly="!fresh"
            />
            <label for="g-name" class="text-soft">{{ t('people.name') }}</label>
            <input
              id="g-name"
              v-model="draft.name"
              class="field min-w-0"
              required
              maxlength="200"
            />
            <template v-if="sort === 'rooms'">
              <label for="g-email" class="text-soft">{{ t('people.address') }}</label>
              <input id="g-email" v-model="draft.email" class="field value" type="email" required />
              <label for="g-seats" class="text-soft">{{ t('people.seats') }}</label>
              <input
                id="g-seats"
                v-model="draft.seats"
                class="field value w-24"
                type="number"
                min="1"
                required
              />
            </template>
            <template v-else>
              <span class="self-start pt-1 text-soft">{{ t('people.members') }}</span>
              <div>
                <p v-if="!draft.members && !problem" class="text-soft">
                  {{ t('people.lookingWhoIsInIt') }}
                </p>
                <PeoplePicker
                  v-if="session.isWarden && draft.members"
                  class="max-w-md"
                  :label="t('people.addAMember')"
                  many
                  :taken="draft.members ?? []"
                  @choose="draft.members = [...(draft.members ?? []), $event]"
                  @several="draft.members = [...(draft.members ?? []), ...$event]"
                />
                <input
                  v-if="(draft.members?.length ?? 0) > SHOWN"
                  v-model.trim="filter"
                  class="field mt-2 w-full max-w-md"
                  :aria-label="t('people.findAMember')"
                  :placeholder="t('people.findAMember2')"
                />
                <ul class="mt-1">
                  <li
                    v-for="m in shown.slice(0, SHOWN)"
                    :key="m"
                    class="flex max-w-md flex-wrap justify-between gap-x-2 border-b border-hair py-0.5"
                  >
                    <RouterLink
                      class="value min-w-0 break-words"
                      :to="`/people/${encodeURIComponent(m)}`"
                      >{{ m }}</RouterLink
                    >
                    <button
                      v-if="session.isWarden"
                      type="button"
                      class="link"
                      @click="draft.members = draft.members?.filter((x) => x !== m) ?? null"
                    >
                      {{ t('people.takeOut') }}<span class="hidden-label">{{ ` ${m}` }}</span>
                    </button>
                  </li>
                </ul>
                <p v-if="shown.length > SHOWN" class="mt-1 text-soft">
                  {{ t('people.andShownMore', { shown: shown.length - SHOWN }) }}
                </p>
              </div>
            </template>
          </fieldset>
          <ProblemNote class="mt-3" :problem="problem" />
          <OutdatedNote class="mt-2" :problem="problem" @look="takeTheirs" />
          <div v-if="session.isWarden" class="mt-3 flex gap-3">
            <button class="button button-main" :disabled="busy || !draft.members">
              {{ t('people.save') }}
            </button>
            <button
              v-if="!fresh"
              type="button"
              class="button"
              :disabled="busy || !draft.members"
              @click="asking = true"
            >
              {{ t('people.removeTheOne', { one: one[sort] }) }}
            </button>
          </div>
        </form>
      </div>
    </div>
    <ModalSheet
      :open="asking"
      :title="t('people.removeTheOne', { one: one[sort] })"
      @close="asking = false"
    >
      <p>{{ whatGoes }}</p>
      <div class="mt-4 flex gap-3">
        <button type="button" class="button button-main" :disabled="busy" @click="remove">
          {{ t('people.removeIt') }}
        </button>
        <button type="button" class="button" @click="asking = false">
          {{ t('people.keepIt') }}
        </button>
      </div>
    </ModalSheet>
  </div>
</template>
