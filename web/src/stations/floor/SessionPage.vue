<script setup lang="ts">
import { useQuery, useQueryCache } from '@pinia/colada'
import { refDebounced } from '@vueuse/core'
import { computed, nextTick, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useCatalogue } from '@/api/catalogue'
import { api, take } from '@/api/client'
import type { FloorAlert, PersonLine } from '@/api/schema'
import { useKeys } from '@/shell/keys'
import ModalSheet from '@/shell/ModalSheet.vue'
import StatePanel from '@/shell/StatePanel.vue'
import AlertBand from './AlertBand.vue'
import { coHostNote, actLabel, byCause, came, strangers, type Cause } from './floor'
import HandleDialog from './HandleDialog.vue'
import PeopleColumn from './PeopleColumn.vue'
import SessionHead from './SessionHead.vue'
import { useNow } from './useNow'
import { useOrders } from './useOrders'

/** One session: who waits, who is in, who is out, what is wrong, and what can be done. */
const props = defineProps<{ id: string }>()
const route = useRoute()
const router = useRouter()
const cache = useQueryCache()
const text = ref(String(route.query.text ?? ''))
const wanted = refDebounced(text, 200)
watch(wanted, (now) => router.replace({ query: now ? { text: now } : {} }))
const most = ref(60)
const { data, error, refetch } = useQuery({
  key: () => ['floor', 'session', props.id, wanted.value, most.value],
  query: () =>
    take(
      api.GET('/api/floor/sessions/{id}', {
        params: { path: { id: props.id }, query: { text: wanted.value, most: most.value } },
      }),
    ),
})
// what was shown stays until the next answer is there
const page = ref<typeof data.value>()
watch(data, (now) => now && (page.value = now), { immediate: true })
const { shown, pending, trouble, beyond, order, settle } = useOrders(() => props.id, page, refetch)
watch(page, (now) => now && settle(now.orders))
const { now } = useNow()
const clock = computed(() => (page.value ? now(page.value.line) : 0))
const { controls } = useCatalogue()
const over = computed(() => ['ended', 'lost'].includes(shown.value?.line.state ?? ''))
const mayAct = computed(() => !!shown.value?.line.mayAct)
const alerts = computed(
  () => shown.value?.alerts.filter((a) => a.state !== 'closed' && a.state !== 'ended') ?? [],
)
const moving = computed(() => pending.value.flatMap((p) => p.asked.people))

const places = ['door', 'inside', 'out'] as const
type Place = (typeof places)[number]
const column = ref<Place>('door')
const at = ref<Record<Place, string>>({ door: '', inside: '', out: '' })
const people = (place: Place): PersonLine[] => shown.value?.[place] ?? []
const found = (place: Place) =>
  place === 'door'
    ? (page.value?.doorFound ?? 0)
    : place === 'inside'
      ? (page.value?.insideFound ?? 0)
      : (page.value?.outFound ?? 0)
const atNow = computed(() => people(column.value).find((p) => p.who === at.value[column.value]))
const chosen = ref<string[]>([])
/** Those chosen in a column, else the one the keys are at. */
function concerned(place: Place): string[] {
  const here = people(place).map((p) => p.who)
  const some = chosen.value.filter((who) => here.includes(who))
  if (some.length) return some
  return here.includes(at.value[place]) && column.value === place ? [at.value[place]] : []
}
function choose(who: string) {
  chosen.value = chosen.value.includes(who)
    ? chosen.value.filter((w) => w !== who)
    : [...chosen.value, who]
}
async function move(by: number) {
  const list = people(column.value)
  const i = list.findIndex((p) => p.who === at.value[column.value])
  const next = list[Math.min(list.length - 1, Math.max(0, i + by))]
  if (next) at.value[column.value] = next.who
  await nextTick()
  document.getElementById(`who-${next?.who}`)?.scrollIntoView({ block: 'nearest' })
}
function across(by: number) {
  column.value = places[Math.min(2, Math.max(0, places.indexOf(column.value) + by))] ?? 'door'
  if (!atNow.value) void move(1)
}
/** What whoever made a co-host has to know, there and then. */
const told = ref('')
const recorder = computed(() => shown.value?.inside.find((p) => p.recording))
function act(what: string, place: Place, value?: string) {
  const who = concerned(place)
  if (!mayAct.value || !who.length) return
  // the keys stay where they are in the list, on whoever comes next
  const list = people(place)
  const next = list.find((p) => !who.includes(p.who) && p.who !== at.value[place])
  if (what !== 'silence' && what !== 'role' && who.includes(at.value[place])) {
    at.value[place] = next?.who ?? ''
  }
  chosen.value = chosen.value.filter((w) => !who.includes(w))
  if (what === 'role' && value === 'co-host') {
    const names = list.filter((p) => who.includes(p.who)).map((p) => p.name)
    told.value = coHostNote(names, String(shown.value?.controls['record-sharing'] ?? 'co-hosts'))
  }
  void order(what, who, undefined, value)
}
/** Turns away at the door, removes inside. */
function putOut(bar: boolean) {
  if (column.value === 'door') act('turn-away', 'door')
  else if (column.value === 'inside') act(bar ? 'remove-and-bar' : 'remove', 'inside')
}
function whole(what: string, control?: string, value?: string) {
  if (mayAct.value) void order(what, [], control, value)
}
const ending = ref(false)
function end() {
  ending.value = false
  whole('end')
}
const causes = computed(() => byCause(alerts.value))
async function acknowledge(of: Cause) {
  try {
    await take(
      api.POST('/api/floor/sessions/{id}/alerts', {
        params: { path: { id: props.id } },
        body: { cause: of.cause, state: 'acknowledged' },
      }),
    )
    await cache.invalidateQueries({ key: ['floor'] })
  } catch (e) {
    trouble.value = (e as Error).message
  }
}
async function endAlert(alert: FloorAlert | undefined) {
  if (!alert || !mayAct.value) return
  if (alert.end.act === 'end') {
    ending.value = true
    return
  }
  await order(
    alert.end.act,
    alert.end.people,
    alert.end.control ?? undefined,
    alert.end.value ?? undefined,
  )
  // what it was about is gone then, and the alert ends by itself
}
const word = ref<Cause | null>(null)
/** Letting all in asks where somebody among them was not invited. */
const asksAll = ref(false)
const uninvited = computed(() => strangers(people('door')))
function letAllIn() {
  if (!mayAct.value || !shown.value?.line.door) return
  if (uninvited.value.length) asksAll.value = true
  else whole('let-in-all')
}
function letInvitedIn() {
  asksAll.value = false
  const invited = people('door').filter((p) => p.expected)
  if (invited.length)
    void order(
      'let-in',
      invited.map((p) => p.who),
    )
}
function letEverybodyIn() {
  asksAll.value = false
  whole('let-in-all')
}
const reason = ref('')
function allow() {
  const of = beyond.value?.asked
  beyond.value = null
  if (of) void order(of.act, of.people, of.control, of.value, reason.value)
  reason.value = ''
}
useKeys([
  { key: 'j', does: 'next person', act: () => move(1) },
  { key: 'k', does: 'person before', act: () => move(-1) },
  { key: 'l', does: 'next column', act: () => across(1) },
  { key: 'h', does: 'column before', act: () => across(-1) },
  { key: ' ', does: 'choose', act: () => atNow.value && choose(atNow.value.who) },
  { key: 'a', does: 'let in', act: () => act('let-in', 'door') },
  { key: 'A', does: 'let all in', act: letAllIn },
  { key: 'x', does: 'turn away, or remove', act: () => putOut(false) },
  { key: 'b', does: 'remove and bar', act: () => putOut(true) },
  { key: 'm', does: 'silence', act: () => act('silence', 'inside') },
  { key: 'M', does: 'silence all', act: () => whole('silence-all') },
  { key: 's', does: 'stop the share', act: () => whole('stop-share') },
  {
    key: 'L',
    does: 'lock, or unlock',
    act: () => whole(shown.value?.line.locked ? 'unlock' : 'lock'),
  },
  { key: 't', does: 'do what ends the first alert', act: () => endAlert(causes.value[0]?.first) },
  { key: 'c', does: 'say of the first alert', act: () => (word.value = causes.value[0] ?? null) },
  { key: 'E', does: 'end for all', act: () => mayAct.value && (ending.value = true) },
  { key: 'v', does: 'what comes after', act: () => router.push(`/floor/${props.id}/after`) },
  { key: 'Escape', does: 'all sessions', act: () => router.push('/floor') },
])
</script>

<template>
  <StatePanel v-if="error && !page" state="failed" :problem="error" @retry="refetch()" />
  <StatePanel v-else-if="!shown" state="loading" />
  <div v-else class="flex h-full flex-col">
    <SessionHead :page="shown" :now="clock" :may-act="mayAct" @whole="whole" @end="ending = true" />
    <p
      v-if="trouble || pending.some((p) => p.waits)"
      role="status"
      class="flex shrink-0 gap-3 border-b border-line bg-sand-wash px-5 py-1.5"
    >
      <span v-if="trouble">{{ trouble }}</span>
      <span v-for="p in pending.filter((each) => each.waits)" :key="p.asked.key">
        {{ actLabel(p.asked.act) }} waits for the conference service and is sent again.
      </span>
      <button v-if="trouble" class="link ml-auto" @click="trouble = ''">OK</button>
    </p>
    <p
      v-if="told"
      role="status"
      class="flex shrink-0 gap-3 border-b border-line bg-sand-wash px-5 py-1.5"
    >
      <span>{{ told }}</span>
      <button class="link ml-auto" @click="told = ''">OK</button>
    </p>
    <p v-if="recorder && !over" class="shrink-0 border-b border-line px-5 py-1 text-soft">
      {{ recorder.name }} records. Whoever begins another recording ends this one.
    </p>
    <p
      v-if="shown.behind.length && !over"
      class="flex shrink-0 flex-wrap gap-x-4 border-b border-line bg-sand-wash px-5 py-1.5"
    >
      <span
        >The meeting is stricter than this session:
        {{ shown.behind.map((c) => controls.get(c)?.title ?? c).join(', ') }}.</span
      >
    </p>
    <AlertBand
      :alerts="alerts"
      :may-act="mayAct"
      @end="endAlert"
      @acknowledge="acknowledge"
      @word="(c) => (word = c)"
    />
    <div
      class="grid min-h-0 flex-1 grid-cols-[minmax(0,5fr)_minmax(0,6fr)_minmax(0,4fr)] narrow:block narrow:overflow-auto"
    >
      <PeopleColumn
        v-for="place in places"
        :key="place"
        :title="place === 'door' ? 'At the door' : place === 'inside' ? 'Inside' : 'Out'"
        :place="place"
        :people="people(place)"
        :total="found(place)"
        :now="clock"
        :at="column === place ? at[place] : ''"
        :chosen="chosen"
        :may-choose="mayAct && place !== 'out'"
        :moving="moving"
        @at="
          (who) => {
            column = place
            at[place] = who
          }
        "
        @choose="choose"
        @more="most = Math.min(1000, most + 200)"
      >
        <template v-if="mayAct && place === 'door'">
          <button
            class="button"
            :disabled="!concerned('door').length"
            @click="act('let-in', 'door')"
          >
            Let in
          </button>
          <button class="link" :disabled="!shown.line.door" @click="letAllIn">all</button>
          <button
            class="link"
            :disabled="!concerned('door').length"
            @click="act('turn-away', 'door')"
          >
            Turn away
          </button>
        </template>
        <template v-else-if="mayAct && place === 'inside'">
          <select
            class="field"
            aria-label="Role"
            :disabled="!concerned('inside').length"
            value=""
            @change="
              (event) => {
                act('role', 'inside', (event.target as HTMLSelectElement).value)
                ;(event.target as HTMLSelectElement).value = ''
              }
            "
          >
            <option value="">role…</option>
            <option v-for="r in ['co-host', 'presenter', 'attendee', 'onlooker']" :key="r">
              {{ r }}
            </option>
          </select>
          <button
            class="link"
            :disabled="!concerned('inside').length"
            @click="act('silence', 'inside')"
          >
            Silence
          </button>
          <button
            class="link"
            :disabled="!concerned('inside').length"
            @click="act('remove', 'inside')"
          >
            Remove
          </button>
          <button
            class="button"
            :disabled="!concerned('inside').length"
            @click="act('remove-and-bar', 'inside')"
          >
            Remove and bar
          </button>
        </template>
        <input
          v-else-if="place === 'out'"
          v-model="text"
          type="search"
          class="field w-36"
          placeholder="a name"
          aria-label="Find somebody"
        />
      </PeopleColumn>
    </div>
    <section aria-label="What happened" class="h-32 shrink-0 overflow-auto border-t border-line">
      <ol class="px-5 py-1.5 text-[12.5px]">
        <li v-for="m in shown.moments" :key="m.seq" class="flex gap-3">
          <span class="value shrink-0 text-soft">{{
            new Date(m.at).toLocaleTimeString('en-GB')
          }}</span>
          <span class="truncate">{{ m.words }}</span>
        </li>
      </ol>
    </section>
    <HandleDialog
      :session="id"
      :cause="word"
      @close="word = null"
      @done="cache.invalidateQueries({ key: ['floor'] })"
    />
    <ModalSheet :open="asksAll" title="Let all in?" @close="asksAll = false">
      <p>
        {{ uninvited.length }} of the {{ shown.line.door }} at the door
        {{ uninvited.length === 1 ? 'was' : 'were' }} not invited:
      </p>
      <ul class="mt-1 max-h-40 overflow-auto">
        <li v-for="p in uninvited" :key="p.who">
          <strong>{{ p.name }}</strong>
          <span class="text-soft">{{ p.address }} · {{ came(p) }}</span>
        </li>
      </ul>
      <div class="mt-4 flex flex-wrap gap-3">
        <button class="button button-main" @click="letInvitedIn">Let in those invited</button>
        <button class="button" @click="letEverybodyIn">Let in everybody</button>
        <button class="button" @click="asksAll = false">Nobody</button>
      </div>
    </ModalSheet>
    <ModalSheet :open="!!beyond" title="Beyond the rule" @close="beyond = null">
      <form v-if="beyond" @submit.prevent="allow">
        <p>{{ beyond.said }}</p>
        <label class="mt-2 block">
          Why it is allowed, for this session only
          <textarea
            v-model.trim="reason"
            class="field mt-1 w-full"
            rows="2"
            maxlength="2000"
            required
          />
        </label>
        <button class="button button-main mt-3">Allow it</button>
      </form>
    </ModalSheet>
    <ModalSheet :open="ending" title="End for all" @close="ending = false">
      <p>
        {{ shown.line.inside }} {{ shown.line.inside === 1 ? 'person is' : 'people are' }} in. The
        session ends for everybody and cannot be taken up again.
      </p>
      <button class="button button-main mt-3" @click="end">End for all</button>
    </ModalSheet>
  </div>
</template>
