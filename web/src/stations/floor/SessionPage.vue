<script setup lang="ts">
import { term } from '@/shell/terms'
import { locale, t } from '@/wording'
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
/** How many there are, also of those further down the list or not looked for. */
const strangersThere = computed(() => page.value?.uninvited ?? 0)
function letIn(whom: 'invited' | 'everybody', strangers: number) {
  asksAll.value = false
  if (!mayAct.value) return
  // who came since then was not said yes to
  void order('let-in-all', [], undefined, undefined, undefined, { whom, uninvited: strangers })
}
function letAllIn() {
  if (!mayAct.value || !shown.value?.line.door) return
  if (strangersThere.value) asksAll.value = true
  else letIn('everybody', 0)
}
const reason = ref('')
function allow() {
  const of = beyond.value?.asked
  beyond.value = null
  if (of) void order(of.act, of.people, of.control, of.value, reason.value)
  reason.value = ''
}
useKeys([
  { key: 'j', does: t('floor.nextPerson'), act: () => move(1) },
  { key: 'k', does: t('floor.personBefore'), act: () => move(-1) },
  { key: 'l', does: t('floor.nextColumn'), act: () => across(1) },
  { key: 'h', does: t('floor.columnBefore'), act: () => across(-1) },
  { key: ' ', does: t('floor.choose'), act: () => atNow.value && choose(atNow.value.who) },
  { key: 'a', does: t('floor.letIn2'), act: () => act('let-in', 'door') },
  { key: 'A', does: t('floor.letAllIn3'), act: letAllIn },
  { key: 'x', does: t('floor.turnAwayOrRemove'), act: () => putOut(false) },
  { key: 'b', does: t('floor.removeAndBar2'), act: () => putOut(true) },
  { key: 'm', does: t('floor.silence2'), act: () => act('silence', 'inside') },
  { key: 'M', does: t('floor.silenceAll2'), act: () => whole('silence-all') },
  { key: 's', does: t('floor.stopTheShare2'), act: () => whole('stop-share') },
  {
    key: 'L',
    does: t('floor.lockOrUnlock'),
    act: () => whole(shown.value?.line.locked ? 'unlock' : 'lock'),
  },
  {
    key: 't',
    does: t('floor.doWhatEndsTheFirstAlert'),
    act: () => endAlert(causes.value[0]?.first),
  },
  {
    key: 'c',
    does: t('floor.sayOfTheFirstAlert'),
    act: () => (word.value = causes.value[0] ?? null),
  },
  { key: 'E', does: t('floor.endForAll2'), act: () => mayAct.value && (ending.value = true) },
  { key: 'v', does: t('floor.whatComesAfter'), act: () => router.push(`/floor/${props.id}/after`) },
  { key: 'Escape', does: t('floor.allSessions'), act: () => router.push('/floor') },
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
        {{ t('floor.actWaitsForTheConferenceServiceAnd', { act: actLabel(p.asked.act) }) }}
      </span>
      <button v-if="trouble" class="link ml-auto" @click="trouble = ''">{{ t('floor.oK') }}</button>
    </p>
    <p
      v-if="told"
      role="status"
      class="flex shrink-0 gap-3 border-b border-line bg-sand-wash px-5 py-1.5"
    >
      <span>{{ told }}</span>
      <button class="link ml-auto" @click="told = ''">{{ t('floor.oK') }}</button>
    </p>
    <p v-if="recorder && !over" class="shrink-0 border-b border-line px-5 py-1 text-soft">
      {{ t('floor.nameRecordsWhoeverBeginsAnotherRecording', { name: recorder.name }) }}
    </p>
    <p
      v-if="shown.behind.length && !over"
      class="flex shrink-0 flex-wrap gap-x-4 border-b border-line bg-sand-wash px-5 py-1.5"
    >
      <span>{{
        t('floor.theMeetingIsStricterThanThisSession', {
          join: shown.behind.map((c) => controls.get(c)?.title ?? c).join(', '),
        })
      }}</span>
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
        :title="
          place === 'door'
            ? t('floor.atTheDoor')
            : place === 'inside'
              ? t('floor.inside')
              : t('floor.out')
        "
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
            {{ t('floor.letIn') }}
          </button>
          <button class="link" :disabled="!shown.line.door" @click="letAllIn">
            {{ t('floor.all') }}
          </button>
          <button
            class="link"
            :disabled="!concerned('door').length"
            @click="act('turn-away', 'door')"
          >
            {{ t('floor.turnAway') }}
          </button>
        </template>
        <template v-else-if="mayAct && place === 'inside'">
          <select
            class="field"
            :aria-label="t('floor.role')"
            :disabled="!concerned('inside').length"
            value=""
            @change="
              (event) => {
                act('role', 'inside', (event.target as HTMLSelectElement).value)
                ;(event.target as HTMLSelectElement).value = ''
              }
            "
          >
            <option value="">{{ t('floor.role2') }}</option>
            <option
              v-for="r in ['co-host', 'presenter', 'attendee', 'onlooker']"
              :key="r"
              :value="r"
            >
              {{ term(r) }}
            </option>
          </select>
          <button
            class="link"
            :disabled="!concerned('inside').length"
            @click="act('silence', 'inside')"
          >
            {{ t('floor.silence') }}
          </button>
          <button
            class="link"
            :disabled="!concerned('inside').length"
            @click="act('remove', 'inside')"
          >
            {{ t('floor.remove') }}
          </button>
          <button
            class="button"
            :disabled="!concerned('inside').length"
            @click="act('remove-and-bar', 'inside')"
          >
            {{ t('floor.removeAndBar') }}
          </button>
        </template>
        <input
          v-else-if="place === 'out'"
          v-model="text"
          type="search"
          class="field w-36"
          :placeholder="t('floor.aName')"
          :aria-label="t('floor.findSomebody')"
        />
      </PeopleColumn>
    </div>
    <section
      :aria-label="t('floor.whatHappened')"
      class="h-32 shrink-0 overflow-auto border-t border-line"
    >
      <ol class="px-5 py-1.5 text-[12.5px]">
        <li v-for="m in shown.moments" :key="m.seq" class="flex gap-3">
          <span class="value shrink-0 text-soft">{{
            new Date(m.at).toLocaleTimeString(locale)
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
    <ModalSheet :open="asksAll" :title="t('floor.letAllIn2')" @close="asksAll = false">
      <p>
        {{
          t('floor.uninvitedOfTheDoorAtTheDoor', {
            uninvited: strangersThere,
            door: shown.line.door,
            x: strangersThere === 1 ? t('floor.was') : t('floor.were'),
          })
        }}
      </p>
      <ul class="mt-1 max-h-40 overflow-auto">
        <li v-for="p in uninvited" :key="p.who">
          <strong>{{ p.name }}</strong>
          <span class="text-soft">{{ p.address }} · {{ came(p) }}</span>
        </li>
        <li v-if="strangersThere > uninvited.length" class="text-soft">
          {{ t('floor.andUninvitedMore', { uninvited: strangersThere - uninvited.length }) }}
        </li>
      </ul>
      <div class="mt-4 flex flex-wrap gap-3">
        <button
          v-if="shown.line.door > strangersThere"
          class="button button-main"
          @click="letIn('invited', 0)"
        >
          {{ t('floor.letInThoseInvited') }}
        </button>
        <button class="button" @click="letIn('everybody', strangersThere)">
          {{ t('floor.letInEverybody') }}
        </button>
        <button class="button" @click="asksAll = false">{{ t('floor.nobody2') }}</button>
      </div>
    </ModalSheet>
    <ModalSheet :open="!!beyond" :title="t('floor.beyondTheRule')" @close="beyond = null">
      <form v-if="beyond" @submit.prevent="allow">
        <p>{{ beyond.said }}</p>
        <label class="mt-2 block">
          {{ t('floor.whyItIsAllowedForThisSession') }}
          <textarea
            v-model.trim="reason"
            class="field mt-1 w-full"
            rows="2"
            maxlength="2000"
            required
          />
        </label>
        <button class="button button-main mt-3">{{ t('floor.allowIt') }}</button>
      </form>
    </ModalSheet>
    <ModalSheet :open="ending" :title="t('floor.endForAll')" @close="ending = false">
      <p>
        {{
          t('floor.insideXInTheSessionEndsFor', {
            inside: shown.line.inside,
            x: shown.line.inside === 1 ? t('floor.personIs') : t('floor.peopleAre'),
          })
        }}
      </p>
      <button class="button button-main mt-3" @click="end">{{ t('floor.endForAll') }}</button>
    </ModalSheet>
  </div>
</template>
