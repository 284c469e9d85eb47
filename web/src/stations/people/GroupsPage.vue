<script setup lang="ts">
import { useQueryCache } from '@pinia/colada'
import { computed, ref, watch } from 'vue'
import { useOrganisation } from '@/api/catalogue'
import { api, Problem, take } from '@/api/client'
import { useSession } from '@/api/session'
import { useAct } from '@/shell/act'
import ProblemNote from '@/shell/ProblemNote.vue'
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
const one: Record<string, string> = { lists: 'list', spaces: 'space', rooms: 'room' }
const says: Record<string, string> = {
  lists:
    'Who is reached through a list is not invited by name: a door that goes by name holds them.',
  spaces: 'A space reaches its members for every meeting posted in it.',
  rooms: 'Rooms are booked with a meeting; calendars invite them by their address.',
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
const chosen = ref('')
const draft = ref<Draft | null>(null)
const filter = ref('')
const shown = computed(() =>
  (draft.value?.members ?? []).filter((m) => m.toLowerCase().includes(filter.value.toLowerCase())),
)
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
async function save() {
  const d = draft.value
  if (!d) return
  await attempt(async () => {
    if (fresh.value && entries.value.some((e) => e.id === d.id)) {
      throw new Problem(409, 'there', `There is a ${one[sort.value]} with this id already.`, [])
    }
    if (sort.value === 'rooms') {
      await take(
        api.PUT('/api/people/groups/rooms/{id}', {
          params: { path: { id: d.id } },
          body: { name: d.name, email: d.email ?? '', seats: Number(d.seats) },
        }),
      )
    } else if (fresh.value) {
      await take(
        api.PUT('/api/people/groups/{sort}/{id}', {
          params: { path: { sort: sort.value, id: d.id } },
          body: { name: d.name, members: d.members ?? [] },
        }),
      )
    } else {
      const before = new Set(opened.value?.members ?? [])
      const after = new Set(d.members ?? [])
      await take(
        api.PATCH('/api/people/groups/{sort}/{id}', {
          params: { path: { sort: sort.value, id: d.id } },
          body: {
            name: d.name,
            add: [...after].filter((each) => !before.has(each)),
            remove: [...before].filter((each) => !after.has(each)),
          },
        }),
      )
    }
    fresh.value = false
    opened.value = { ...d }
    chosen.value = d.id
    await cache.invalidateQueries()
  })
}
async function remove() {
  const id = draft.value?.id
  if (!id) return
  await attempt(async () => {
    await take(
      api.DELETE('/api/people/groups/{sort}/{id}', {
        params: { path: { sort: sort.value, id } },
      }),
    )
    chosen.value = ''
    opened.value = draft.value
    await cache.invalidateQueries()
  })
}
</script>

<template>
  <div class="flex h-full flex-col">
    <PeopleNav />
    <HousePart v-if="sort === 'house'" />
    <StatePanel v-else-if="!organisation" state="loading" />
    <div v-else class="grid min-h-0 flex-1 grid-cols-[20rem_1fr] narrow:block narrow:overflow-auto">
      <div class="overflow-auto border-r border-line">
        <ul>
          <li v-for="e in entries" :key="e.id" class="border-b border-hair">
            <button
              type="button"
              class="flex w-full justify-between gap-2 px-5 py-1.5 text-left"
              :class="chosen === e.id ? 'bg-sheet font-bold' : 'hover:bg-sheet'"
              :aria-pressed="chosen === e.id"
              @click="open(e)"
            >
              {{ e.name }}
              <span class="value font-normal text-soft">{{
                sort === 'rooms' ? e.seats : (e.members ?? 0)
              }}</span>
            </button>
          </li>
        </ul>
        <p v-if="!entries.length" class="px-5 py-3 text-soft">There are none.</p>
        <p v-if="session.isWarden" class="px-5 py-3">
          <button type="button" class="button" @click="begin">Add a {{ one[sort] }}</button>
        </p>
      </div>
      <div class="overflow-auto px-6 py-4">
        <p class="text-soft">{{ says[sort] }}</p>
        <form v-if="draft" class="mt-3 max-w-2xl" @submit.prevent="save">
          <fieldset
            class="grid grid-cols-[5rem_1fr] items-center gap-x-3 gap-y-2"
            :disabled="!session.isWarden"
          >
            <label for="g-id" class="text-soft">id</label>
            <input
              id="g-id"
              v-model="draft.id"
              class="field value w-56"
              required
              pattern="[A-Za-z0-9][A-Za-z0-9._:\-]{0,63}"
              :readonly="!fresh"
            />
            <label for="g-name" class="text-soft">name</label>
            <input id="g-name" v-model="draft.name" class="field" required maxlength="200" />
            <template v-if="sort === 'rooms'">
              <label for="g-email" class="text-soft">address</label>
              <input id="g-email" v-model="draft.email" class="field value" type="email" required />
              <label for="g-seats" class="text-soft">seats</label>
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
              <span class="self-start pt-1 text-soft">members</span>
              <div>
                <p v-if="!draft.members && !problem" class="text-soft">Looking who is in it…</p>
                <PeoplePicker
                  v-if="session.isWarden && draft.members"
                  class="max-w-md"
                  label="Add a member"
                  many
                  :taken="draft.members ?? []"
                  @choose="draft.members = [...(draft.members ?? []), $event]"
                  @several="draft.members = [...(draft.members ?? []), ...$event]"
                />
                <input
                  v-if="(draft.members?.length ?? 0) > SHOWN"
                  v-model.trim="filter"
                  class="field mt-2 w-full max-w-md"
                  aria-label="Find a member"
                  placeholder="Find a member…"
                />
                <ul class="mt-1">
                  <li
                    v-for="m in shown.slice(0, SHOWN)"
                    :key="m"
                    class="flex max-w-md justify-between border-b border-hair py-0.5"
                  >
                    <RouterLink class="value" :to="`/people/${encodeURIComponent(m)}`">{{
                      m
                    }}</RouterLink>
                    <button
                      v-if="session.isWarden"
                      type="button"
                      class="link"
                      @click="draft.members = draft.members?.filter((x) => x !== m) ?? null"
                    >
                      take out<span class="hidden-label">{{ ` ${m}` }}</span>
                    </button>
                  </li>
                </ul>
                <p v-if="shown.length > SHOWN" class="mt-1 text-soft">
                  and {{ shown.length - SHOWN }} more
                </p>
              </div>
            </template>
          </fieldset>
          <ProblemNote class="mt-3" :problem="problem" />
          <div v-if="session.isWarden" class="mt-3 flex gap-3">
            <button class="button button-main" :disabled="busy || !draft.members">Save</button>
            <button v-if="!fresh" type="button" class="button" :disabled="busy" @click="remove">
              Remove the {{ one[sort] }}
            </button>
          </div>
        </form>
      </div>
    </div>
  </div>
</template>
