<script setup lang="ts">
import { t } from '@/wording'
import { useQueryCache } from '@pinia/colada'
import { useEventListener } from '@vueuse/core'
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useCatalogue, useOrganisation, type Plain } from '@/api/catalogue'
import { api, Problem, take } from '@/api/client'
import { useSession } from '@/api/session'
import { freshKey, useAct } from '@/shell/act'
import ProblemNote from '@/shell/ProblemNote.vue'
import { settle } from '@/shell/shows'
import StatePanel from '@/shell/StatePanel.vue'
import { fullTime } from '@/shell/times'
import { useUnsaved } from '@/shell/unsaved'
import { savedQuery, savedWords } from '@/stations/register/saved'
import { same } from '@/stations/rulebook/book'
import AvailabilityPart from './AvailabilityPart.vue'
import ControlsPart from './ControlsPart.vue'
import ExtrasPart from './ExtrasPart.vue'
import { asCopy, emptyForm, fromDocument, toDocument, type MeetingForm } from './form'
import { useSchedulingPreview } from './preview'
import { forget, keep, kept, type Kept } from './kept'
import LetterDialog from './LetterDialog.vue'
import PasscodePart from './PasscodePart.vue'
import WhatItDoes from './WhatItDoes.vue'
import WhenPart from './WhenPart.vue'
import WhoPart from './WhoPart.vue'

/** Scheduling, on one page: what, when, who, and how it is secured, answered as one types. */
const props = defineProps<{ id?: string }>()
const route = useRoute()
const router = useRouter()
const cache = useQueryCache()
const session = useSession()
const { catalogue } = useCatalogue()
const { organisation } = useOrganisation()

const form = ref<MeetingForm | null>(null)
const version = ref(0)
const hasStored = ref(false)
const failure = ref<Error | null>(null)
const { busy, problem, attempt } = useAct()
const saving = ref(false)
const inHand = ref<string | null>(null)
const reading = ref(false)
const word = ref('')
const reason = ref('')
const found = ref<Kept | null>(null)
const touched = ref(false)
useUnsaved(() => touched.value, true)
const base = () => props.id ?? null
const which = computed(() => props.id ?? 'new')
/** Whose form it is: somebody else may sign in while the page closes. */
const who = session.who?.email ?? ''
/** The conference service that somebody has chosen; null for the usual one, 0 for none. */
const chosen = ref<number | null>(null)
const { preview, problem: unanswered } = useSchedulingPreview(form, base, inHand, chosen)
const home = computed(() => {
  const some = preview.value?.services ?? []
  return chosen.value === null
    ? (some.find((s) => s.usual) ?? null)
    : (some.find((s) => s.id === chosen.value) ?? null)
})

let loads = 0
async function load() {
  const mine = ++loads
  failure.value = null
  touched.value = false
  try {
    const copied = String(route.query.copy ?? '')
    if (props.id || copied) {
      const stored = await take(
        api.GET('/api/meetings/{id}/form', {
          params: { path: { id: props.id ?? copied } },
        }),
      )
      if (mine !== loads) return // it is another meeting's page by now
      const read = fromDocument(stored.meeting as Record<string, unknown>)
      form.value = props.id ? read : asCopy(read)
      version.value = stored.version
      hasStored.value = !!props.id && stored.hasPasscode
    } else {
      form.value = emptyForm(session.who?.email ?? '')
      const start = String(route.query.start ?? '')
      if (/^\d{4}-\d\d-\d\dT\d\d:\d\d$/.test(start)) form.value.start = start
    }
    found.value = copied ? null : kept(who, which.value)
  } catch (e) {
    if (mine === loads) failure.value = e as Error
  }
}
onMounted(load)
watch(() => [props.id, route.query.copy], load)
watch(
  form,
  (now) => {
    if (now && touched.value) keep(who, which.value, now, version.value)
  },
  { deep: true },
)

function change(next: MeetingForm) {
  form.value = next
  touched.value = true
}
function patch(part: Partial<MeetingForm>) {
  if (form.value) change({ ...form.value, ...part })
}
function setControl(control: string, value: Plain) {
  if (!form.value) return
  inHand.value = control
  patch({ controls: { ...form.value.controls, [control]: value } })
}
/** Back to what the rule allows: its start. */
function within(control: string) {
  const start = preview.value?.starts[control] as Plain | undefined
  if (start !== undefined) setControl(control, start)
}
function takeKept() {
  if (found.value) form.value = { ...found.value.form, passcode: null }
  found.value = null
  touched.value = true
}
/** Somebody has changed the meeting since that was typed. */
const isOvertaken = computed(
  () => found.value?.version !== undefined && found.value.version !== version.value,
)
function leaveKept() {
  forget(who, which.value)
  found.value = null
}

const looser = computed(() => preview.value?.beyond.some((b) => b.looser) ?? false)
const beyond = computed(() => preview.value?.beyond ?? [])
const needsReason = computed(() => session.isWarden && looser.value)
/** A reason is for what it was given for: once none of that is looser, it is asked for anew. */
let reasonFor: string[] = []
const loose = () => beyond.value.filter((b) => b.looser).map((b) => b.control)
watch(reason, () => (reasonFor = loose()))
watch(
  () => loose().join(' '),
  () => {
    if (reason.value && !loose().some((control) => reasonFor.includes(control))) reason.value = ''
  },
)
const cannot = computed(() =>
  !form.value?.title.trim()
    ? t('scheduling.giveItATitle')
    : preview.value?.faults.length
      ? t('scheduling.somethingIsWrongAbove')
      : !session.isWarden && beyond.value.length
        ? t('scheduling.itGoesBeyondWhatTheRulebookAllows')
        : needsReason.value && !reason.value.trim()
          ? t('scheduling.itIsLooserThanTheRulebookAllows')
          : '',
)

/** By this a new meeting is known again, should the answer to its saving be lost. */
let key = freshKey()
/** What was sent first with that key; null while nothing of it can have been saved. */
let tried: { meeting: object; send: boolean } | null = null
async function save(send: boolean) {
  if (!form.value || busy.value) return
  touched.value = true
  if (cannot.value) {
    problem.value = new Problem(0, 'not-yet', cannot.value, [])
    return
  }
  const meeting = toDocument(form.value)
  const body = {
    version: version.value,
    meeting: meeting as never,
    send,
    word: word.value,
    reason: reason.value,
    service: chosen.value,
  }
  tried ??= { meeting, send }
  saving.value = true
  await attempt(async () => {
    const saved = props.id
      ? await take(api.PUT('/api/meetings/{id}', { params: { path: { id: props.id } }, body }))
      : await take(api.POST('/api/meetings', { body: { ...body, key } }))
    // an answer was lost: what is there is what was sent first
    const first = saved.before && tried ? tried : { meeting, send }
    await cache.invalidateQueries({ key: ['meetings'] })
    await cache.invalidateQueries({ key: ['meeting', saved.id] })
    const page = `/register/${encodeURIComponent(saved.id)}`
    const now = form.value
    forget(who, which.value)
    touched.value = false
    if (now && !(same(toDocument(now), first.meeting) && send === first.send)) {
      // what was typed since it was sent is not saved: it is offered beside what is
      keep(who, saved.id, now)
      await router.replace({
        path: `${page}/edit`,
        query: savedQuery({ ...saved, sent: first.send ? saved.sent : 0 }),
      })
      if (props.id) await load()
      return
    }
    await router.push({ path: page, query: savedQuery(saved) })
  })
  const refused = problem.value instanceof Problem ? problem.value : null
  // what the server itself refused was not saved
  if (refused && refused.status >= 400 && refused.status < 500) tried = null
  if (refused?.code === 'cancelled-since') key = freshKey()
  saving.value = false
}
useEventListener('keydown', (event: KeyboardEvent) => {
  if ((event.ctrlKey || event.metaKey) && event.key === 's') {
    event.preventDefault()
    settle()
    save(false)
  } else if ((event.ctrlKey || event.metaKey) && event.key === 'Enter') {
    event.preventDefault()
    settle()
    read()
  }
})
/** Number and passcode are made before the letter is read, so that what is read is what is sent. */
async function read() {
  if (!form.value) return
  touched.value = true
  await attempt(async () => {
    if (!form.value) return
    if (form.value.number === null && !home.value) {
      const made = await take(api.GET('/api/scheduling/number'))
      // what somebody has typed meanwhile stays
      if (form.value.number === null) patch({ number: made.text })
    }
    const required =
      (form.value.controls.passcode ?? preview.value?.controls.passcode) === 'required'
    if (required && !form.value.passcode && !hasStored.value) {
      const length = preview.value?.resolved['passcode-length']
      const atLeast = length?.limit ?? length?.start
      const made = await take(
        api.GET('/api/scheduling/passcode', {
          params: { query: { atLeast: typeof atLeast === 'number' ? atLeast : 0 } },
        }),
      )
      if (!form.value.passcode) patch({ passcode: made.text })
    }
    reading.value = true
  })
}
/** To the margin, where the ways out are; Tab alone would take other controls in hand. */
async function mend(control: string) {
  inHand.value = control
  await nextTick()
  document.querySelector<HTMLElement>('#in-hand button')?.focus()
}
const parts = [
  { id: 'what', name: t('scheduling.what') },
  { id: 'when', name: t('scheduling.when') },
  { id: 'who', name: t('scheduling.who') },
  { id: 'times', name: t('scheduling.everybodysTime') },
  { id: 'entry', name: t('scheduling.numberAndPasscode') },
  { id: 'controls', name: t('scheduling.controls') },
  { id: 'extras', name: t('scheduling.reminderAndGroups') },
]
function goTo(id: string) {
  const part = document.getElementById(`part-${id}`)
  part?.scrollIntoView({ block: 'start' })
  part
    ?.querySelector<HTMLElement>('input, select, textarea, button')
    ?.focus({ preventScroll: true })
}
const showTimes = ref(false)
</script>

<template>
  <StatePanel v-if="failure" state="failed" :problem="failure" @retry="load" />
  <StatePanel v-else-if="!form || !catalogue" state="loading" />
  <form v-else class="flex h-full flex-col" @submit.prevent="save(false)">
    <div
      class="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_400px] narrow:block narrow:overflow-auto"
    >
      <div class="overflow-auto scroll-pt-12 narrow:overflow-visible">
        <nav
          class="sticky top-0 z-10 flex flex-wrap items-center gap-x-5 border-b border-line bg-paper px-5 py-2 phone:px-3"
          :aria-label="t('scheduling.partsOfThePage')"
        >
          <RouterLink class="link" to="/register">{{ t('scheduling.register') }}</RouterLink>
          <button
            v-for="p in parts"
            :key="p.id"
            type="button"
            class="text-soft hover:text-ink"
            @click="goTo(p.id)"
          >
            {{ p.name }}
          </button>
        </nav>
        <div class="px-5 pb-8 phone:px-3">
          <p
            v-if="found"
            class="mt-3 flex items-center gap-3 border-l-4 border-sand bg-sand-wash px-3 py-1.5"
            role="status"
          >
            <span>
              {{ t('scheduling.whatYouTypedHereAtAtWas', { at: fullTime(found.at) }) }}
              <strong v-if="isOvertaken">{{ t('scheduling.itWasChangedSince') }}</strong>
            </span>
            <button type="button" class="link" @click="takeKept">
              {{ t('scheduling.goOnWithIt') }}
            </button>
            <button type="button" class="link" @click="leaveKept">
              {{ t('scheduling.throwItAway') }}
            </button>
          </p>
          <section id="part-what" class="pt-4">
            <h1 class="text-xl font-bold">
              {{ id ? t('scheduling.changeTheMeeting') : t('scheduling.scheduleAMeeting') }}
            </h1>
            <div class="mt-2 grid grid-cols-[5.5rem_minmax(0,1fr)] items-start gap-x-3 gap-y-2">
              <label for="title" class="pt-1 text-soft">{{ t('scheduling.title') }}</label>
              <input
                id="title"
                class="field text-base"
                maxlength="500"
                dir="auto"
                :value="form.title"
                @input="patch({ title: ($event.target as HTMLInputElement).value })"
              />
              <label for="kind" class="pt-1 text-soft">{{ t('scheduling.kind') }}</label>
              <select
                id="kind"
                class="field w-56"
                :value="form.kind ?? ''"
                @change="patch({ kind: ($event.target as HTMLSelectElement).value || null })"
              >
                <option value="">{{ t('scheduling.none') }}</option>
                <option v-for="k in organisation?.kinds ?? []" :key="k.id" :value="k.id">
                  {{ k.name }}{{ k.confidential ? t('scheduling.confidential') : '' }}
                </option>
              </select>
              <label for="agenda" class="pt-1 text-soft">{{ t('scheduling.agenda') }}</label>
              <textarea
                id="agenda"
                class="field"
                rows="3"
                maxlength="100000"
                dir="auto"
                :value="form.description"
                @input="patch({ description: ($event.target as HTMLTextAreaElement).value })"
              />
            </div>
          </section>
          <section id="part-when" class="pt-5">
            <h2 class="head mb-2 border-b border-ink pb-1">{{ t('scheduling.when') }}</h2>
            <WhenPart :form="form" :dates="preview?.dates" :preview="preview" @change="change" />
          </section>
          <section id="part-who" class="pt-5">
            <h2 class="head mb-2 border-b border-ink pb-1">{{ t('scheduling.who') }}</h2>
            <WhoPart
              :form="form"
              :people="preview?.people ?? []"
              :invited="preview?.invited ?? 0"
              @change="change"
            />
          </section>
          <section id="part-times" class="pt-5">
            <h2 class="head mb-2 border-b border-ink pb-1">{{ t('scheduling.everybodysTime') }}</h2>
            <AvailabilityPart v-if="showTimes" :form="form" :base="id ?? null" @change="change" />
            <button v-else type="button" class="button" @click="showTimes = true">
              {{ t('scheduling.showBusyTimesAndCommonOpenings') }}
            </button>
          </section>
          <section id="part-entry" class="pt-5">
            <h2 class="head mb-2 border-b border-ink pb-1">
              {{ t('scheduling.numberAndPasscode') }}
            </h2>
            <PasscodePart
              :form="form"
              :preview="preview"
              :has-stored="hasStored"
              :home="home"
              :chosen="chosen"
              @change="change"
              @choose="chosen = $event"
            />
          </section>
          <section id="part-controls" class="pt-5">
            <h2 class="head mb-2 border-b border-ink pb-1">{{ t('scheduling.controls') }}</h2>
            <ControlsPart
              :form="form"
              :preview="preview"
              :in-hand="inHand"
              :short="!session.isWarden"
              @change="setControl"
              @hand="inHand = $event"
              @mend="mend"
            />
          </section>
          <section id="part-extras" class="pt-5">
            <h2 class="head mb-2 border-b border-ink pb-1">
              {{ t('scheduling.reminderAndGroups') }}
            </h2>
            <ExtrasPart :form="form" @change="change" />
          </section>
        </div>
      </div>

      <WhatItDoes
        :id="id"
        :form="form"
        :preview="preview"
        :unanswered="unanswered"
        :touched="touched"
        :in-hand="inHand"
        :reason="reason"
        @change="setControl"
        @back="within"
        @hand="inHand = $event"
        @reason="reason = $event"
      />
    </div>
    <footer
      class="flex shrink-0 flex-wrap items-center gap-x-3 gap-y-1 border-t border-ink bg-sheet px-5 py-2"
    >
      <span class="text-soft" role="status">{{
        touched ? cannot || t('scheduling.notSavedYet') : savedWords(route.query)
      }}</span>
      <ProblemNote class="min-w-0 flex-1" :problem="reading ? null : problem" />
      <span class="ml-auto" />
      <button type="button" class="button" @click="router.back()">
        {{ t('scheduling.leaveIt') }}
      </button>
      <button type="submit" class="button" :disabled="busy">
        {{ saving ? t('scheduling.saving') : t('scheduling.save') }}
      </button>
      <button type="button" class="button button-main" :disabled="busy" @click="read">
        {{ t('scheduling.readAndSend') }}
      </button>
    </footer>
    <LetterDialog
      :open="reading"
      :form="form"
      :base="id ?? null"
      :service="chosen"
      :word="word"
      :busy="saving"
      :problem="problem"
      @word="word = $event"
      @send="save(true)"
      @close="reading = false"
    />
  </form>
</template>
