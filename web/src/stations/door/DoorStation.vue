<script setup lang="ts">
import { t } from '@/wording'
import { useQuery, useQueryCache } from '@pinia/colada'
import { computed, nextTick, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useCatalogue, useOrganisation, type Plain } from '@/api/catalogue'
import { api, take } from '@/api/client'
import type { DoorView, RehearsalAsked } from '@/api/schema'
import { useKeys } from '@/shell/keys'
import { useAct } from '@/shell/act'
import ProblemNote from '@/shell/ProblemNote.vue'
import StatePanel from '@/shell/StatePanel.vue'
import AdmissionPart from './AdmissionPart.vue'
import { earliest, latest, pencilOf, pencilText } from './door'
import MeetingPicker from './MeetingPicker.vue'
import MomentBar from './MomentBar.vue'
import PencilPart from './PencilPart.vue'
import SideBySide from './SideBySide.vue'
import WaysTable from './WaysTable.vue'

/** Rehearses a meeting's door. Everything is in the address, so that a rehearsal can be sent on. */
const route = useRoute()
const router = useRouter()
const cache = useQueryCache()
const { catalogue, controls } = useCatalogue()
const { organisation } = useOrganisation()

// what is set counts at once, before the address has followed: keys come faster than that
const ahead = ref<Record<string, string | undefined>>({})
const query = (key: string) =>
  String((key in ahead.value ? ahead.value[key] : route.query[key]) ?? '')
let going = false
async function setQuery(part: Record<string, string | undefined>) {
  ahead.value = { ...ahead.value, ...part }
  if (going) return
  going = true
  while (Object.keys(ahead.value).length && route.path === '/door') {
    const taken = ahead.value
    await router.replace({ path: '/door', query: { ...route.query, ...taken } })
    if (ahead.value === taken) ahead.value = {}
  }
  going = false
}

const minutes = computed(() =>
  Math.min(latest, Math.max(earliest, Math.round(Number(query('at') || 1)) || 0)),
)
const hostIn = computed(() => query('host') !== 'out')
const locked = computed(() => query('locked') === '1')
const pencil = computed(() => pencilOf(query('set'), controls.value))
const people = computed(() => query('people').split(',').filter(Boolean).slice(0, 19))
const unsaved = computed(() => query('meeting') === 'new')

// without a meeting in the address: the next one coming
const { data: coming } = useQuery({
  key: ['meetings', 'first'],
  query: () => take(api.GET('/api/meetings', { params: { query: { sort: 'next', size: 1 } } })),
  enabled: () => !query('meeting'),
})
const meeting = computed(() =>
  unsaved.value ? null : query('meeting') || coming.value?.items[0]?.id || null,
)
const asked = computed<RehearsalAsked>(() => ({
  meeting: meeting.value,
  ...(unsaved.value && query('kind') ? { kind: query('kind') } : {}),
  ...(unsaved.value && query('by') ? { host: query('by') } : {}),
  ...(query('occurrence') ? { occurrence: query('occurrence') } : {}),
  moment: { minutesFromStart: minutes.value, hostIn: hostIn.value, locked: locked.value },
  pencil: pencil.value,
  people: people.value,
}))
const ready = computed(
  () => !!catalogue.value && (unsaved.value || !!meeting.value || coming.value?.total === 0),
)
const { data, error, refetch } = useQuery({
  key: () => ['meeting', 'rehearsal', JSON.stringify(asked.value)],
  query: () => take(api.POST('/api/door/rehearsal', { body: asked.value })),
  enabled: () => ready.value,
})
// what was shown stays until the next answer is there: nothing jumps while one slides
const view = ref<DoorView | null>(null)
watch(data, (now) => now && (view.value = now), { immediate: true })
const comers = computed(() => view.value?.comers.filter((c) => c.key !== view.value?.host) ?? [])
const host = computed(() => ({
  key: view.value?.host ?? '',
  phrase: t('door.theHost'),
  persona: false,
  invited: true,
  standing: 'member',
  tie: 'host',
  route: 'app',
  holdsPasscode: true,
  now: { outcome: 'in', role: 'host', rights: [], trail: [] },
  then: { outcome: 'in', role: 'host', rights: [], trail: [] },
}))
const sides = computed(() => [host.value, ...comers.value])
const known = (key: string) => sides.value.some((c) => c.key === key)
const chosen = computed(() => (known(query('who')) ? query('who') : 'link-finder'))
const left = computed(() => (known(query('beside')) ? query('beside') : host.value.key))
const comer = computed(() => comers.value.find((c) => c.key === chosen.value))

const cursor = ref(0)
const table = ref<InstanceType<typeof WaysTable> | null>(null)
const pencilPart = ref<InstanceType<typeof PencilPart> | null>(null)
const setPencil = (to: Record<string, Plain>) => setQuery({ set: pencilText(to) })
const slide = (to: number) => setQuery({ at: String(Math.min(latest, Math.max(earliest, to))) })
function choose(key: string) {
  cursor.value = Math.max(0, table.value?.order.indexOf(key) ?? 0)
  setQuery({ who: key })
}
function move(by: number) {
  const order = table.value?.order ?? []
  cursor.value = Math.min(order.length - 1, Math.max(0, cursor.value + by))
  const key = order[cursor.value]
  if (key) setQuery({ who: key })
}
const address = ref('')
function send() {
  const email = address.value.trim()
  if (!email) return
  setQuery({ people: [...new Set([...people.value, email])].join(','), who: email })
  address.value = ''
}
function drop(key: string) {
  setQuery({ people: people.value.filter((p) => p !== key).join(',') || undefined })
}
const { busy, problem, attempt } = useAct()
const said = ref('')
async function save() {
  const now = view.value
  // where another was picked and is not here yet, the pencil is not of what is shown
  if (!now?.meeting || now.version == null || now.meeting !== meeting.value) return
  const { meeting: id, version } = now
  await attempt(async () => {
    try {
      await take(
        api.PATCH('/api/meetings/{id}/controls', {
          params: { path: { id } },
          body: { version, controls: pencil.value },
        }),
      )
    } catch (e) {
      await refetch()
      throw e
    }
    if (meeting.value === id) {
      said.value = t('door.theMeetingIsChanged')
      await setQuery({ set: undefined })
    }
    for (const key of ['meeting', 'meetings']) await cache.invalidateQueries({ key: [key] })
  })
}
function pick(id: string | null) {
  said.value = ''
  setQuery({ meeting: id ?? 'new', occurrence: undefined, set: undefined })
}
useKeys([
  { key: 'ArrowLeft', does: t('door.aMinuteEarlier'), act: () => slide(minutes.value - 1) },
  { key: 'ArrowRight', does: t('door.aMinuteLater'), act: () => slide(minutes.value + 1) },
  { key: 'PageUp', does: t('door.tenMinutesEarlier'), act: () => slide(minutes.value - 10) },
  { key: 'PageDown', does: t('door.tenMinutesLater'), act: () => slide(minutes.value + 10) },
  {
    key: 'o',
    does: t('door.theHostComesOrGoes'),
    act: () => setQuery({ host: hostIn.value ? 'out' : undefined }),
  },
  {
    key: 'l',
    does: t('door.lockOrUnlock'),
    act: () => setQuery({ locked: locked.value ? undefined : '1' }),
  },
  { key: 'j', does: t('door.nextOfThoseWhoCome'), act: () => move(1) },
  { key: 'k', does: t('door.theOneBefore'), act: () => move(-1) },
  {
    key: 'c',
    does: t('door.whatIfAControlWereChanged'),
    act: () => nextTick(() => pencilPart.value?.focus()),
  },
  { key: 'r', does: t('door.rubOutThePencil'), act: () => setPencil({}) },
])
</script>

<template>
  <StatePanel
    v-if="!query('meeting') && coming?.total === 0"
    state="empty"
    :title="t('door.noMeetingIsScheduled')"
  >
    <button class="link" @click="setQuery({ meeting: 'new' })">
      {{ t('door.rehearseOneThatIsNotSavedYet') }}
    </button>
  </StatePanel>
  <StatePanel v-else-if="error && !view" state="failed" :problem="error" @retry="refetch()" />
  <StatePanel v-else-if="!view || !catalogue" state="loading" />
  <div v-else class="grid h-full grid-cols-[minmax(0,1fr)_424px] narrow:block narrow:h-auto">
    <div class="flex min-h-0 flex-col">
      <div
        class="flex min-h-11 shrink-0 flex-wrap items-center gap-x-3 gap-y-1 border-b border-line px-5 py-1.5 phone:px-3"
      >
        <MeetingPicker :title="view.title" @pick="pick" />
        <template v-if="unsaved">
          <select
            class="field"
            :aria-label="t('door.kind')"
            :value="query('kind')"
            @change="setQuery({ kind: ($event.target as HTMLSelectElement).value || undefined })"
          >
            <option value="">{{ t('door.noKind') }}</option>
            <option v-for="k in organisation?.kinds ?? []" :key="k.id" :value="k.id">
              {{ k.name }}
            </option>
          </select>
        </template>
        <select
          v-else-if="view.occurrences.length"
          class="field"
          :aria-label="t('door.occurrence')"
          :value="query('occurrence')"
          @change="
            setQuery({ occurrence: ($event.target as HTMLSelectElement).value || undefined })
          "
        >
          <option value="">{{ t('door.theSeries') }}</option>
          <option v-for="o in view.occurrences" :key="o" :value="o">
            {{ o.replace('T', ' ') }}
          </option>
        </select>
        <span class="min-w-0 truncate text-soft">
          {{ view.host }}
          <template v-if="view.start">
            · {{ view.start.replace('T', ' ') }} {{ view.zone }}</template
          >
        </span>
        <RouterLink
          v-if="view.meeting"
          class="link ml-auto shrink-0"
          :to="`/register/${encodeURIComponent(view.meeting)}`"
          >{{ t('door.theMeeting') }}</RouterLink
        >
      </div>
      <MomentBar
        :minutes="minutes"
        :host-in="hostIn"
        :locked="locked"
        @minutes="slide"
        @host="(isIn) => setQuery({ host: isIn ? undefined : 'out' })"
        @lock="(isLocked) => setQuery({ locked: isLocked ? '1' : undefined })"
      />
      <ProblemNote class="m-3" :problem="problem ?? (error as Error | null)" />
      <div class="min-h-0 flex-1 overflow-auto">
        <WaysTable
          ref="table"
          :comers="comers"
          :pencilled="Object.keys(pencil).length > 0"
          :chosen="chosen"
          :cursor="cursor"
          @choose="choose"
          @weigh="(control) => pencilPart?.add(control)"
          @drop="drop"
        />
        <form class="flex items-center gap-2 px-5 py-3" @submit.prevent="send">
          <label class="text-soft" for="door-person">{{ t('door.sendARealPerson') }}</label>
          <input
            id="door-person"
            v-model="address"
            class="field w-72"
            type="email"
            :placeholder="t('door.address')"
            maxlength="254"
          />
          <button class="button" :disabled="!address.trim()">{{ t('door.toTheDoor') }}</button>
        </form>
      </div>
      <p class="flex shrink-0 gap-x-3 border-t border-line px-5 py-2 text-[12.5px] text-soft">
        <span
          ><strong>← →</strong> {{ t('door.moment') }} <strong>o</strong> {{ t('door.host2') }}
          <strong>l</strong> {{ t('door.lock') }} <strong>j k</strong> {{ t('door.who') }}
          <strong>c</strong> {{ t('door.whatIf2') }}</span
        >
        <span class="ml-auto"
          >{{ t('door.theBarClosesAWayTheNotched')
          }}<template v-if="Object.keys(pencil).length">
            {{ t('door.dashedWhatIf') }}</template
          ></span
        >
      </p>
    </div>
    <aside
      class="min-h-0 overflow-auto border-l border-line px-4 py-3"
      :aria-label="t('door.sideBySide')"
    >
      <p v-if="said" role="status" class="mb-2 text-kelp">{{ said }}</p>
      <SideBySide
        :comers="sides"
        :host="host.key"
        :left="left"
        :right="chosen"
        @pick="(side, key) => setQuery(side === 'left' ? { beside: key } : { who: key })"
      />
      <AdmissionPart
        v-if="comer"
        :rehearsal="asked"
        :comer="comer"
        @pencil="(changes) => setPencil({ ...pencil, ...changes })"
      />
      <PencilPart
        ref="pencilPart"
        :view="view"
        :pencil="pencil"
        :busy="busy"
        @set="setPencil"
        @save="save"
      />
    </aside>
  </div>
</template>
