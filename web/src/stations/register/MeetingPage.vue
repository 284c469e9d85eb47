<script setup lang="ts">
import { t } from '@/wording'
import { term } from '@/shell/terms'
import { counted } from '@/shell/counted'
import { useKeep } from '@/shell/keep'
import { useQuery, useQueryCache } from '@pinia/colada'
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { label, useCatalogue, useOrganisation } from '@/api/catalogue'
import { api, take } from '@/api/client'
import { useSession } from '@/api/session'
import type { Coming, FindingView, MeetingView } from '@/api/schema'
import TallyMark from '@/marks/TallyMark.vue'
import WaterLine from '@/marks/WaterLine.vue'
import InSessionNote from '@/stations/floor/InSessionNote.vue'
import { useKeys } from '@/shell/keys'
import { useRowAct } from '@/shell/act'
import ProblemNote from '@/shell/ProblemNote.vue'
import { waiverFor } from '@/stations/audit/wall'
import StatePanel from '@/shell/StatePanel.vue'
import { fullTime, shortTime } from '@/shell/times'
import AnswersPart from './AnswersPart.vue'
import CancelDialog from './CancelDialog.vue'
import ControlTable from './ControlTable.vue'
import DateDialog from './DateDialog.vue'
import JoinPart from './JoinPart.vue'
import HeldPart from './HeldPart.vue'
import HistoryPart from './HistoryPart.vue'
import MatrixTable from './MatrixTable.vue'
import { groupText, guessingText, nameOf, taskText } from './invited'
import RegistrationsPart from './RegistrationsPart.vue'
import SourceNote from './SourceNote.vue'
import { recurrenceWords } from './recurrence'
import { useControlChanges } from './controlChanges'
import { savedWords } from './saved'

const props = defineProps<{ id: string }>()
const router = useRouter()
const route = useRoute()
const cache = useQueryCache()
const keep = useKeep()
const session = useSession()
const { catalogue, controls } = useCatalogue()
const { organisation, unitName, kindName } = useOrganisation()
const { data, error, refetch } = useQuery({
  key: () => ['meeting', props.id],
  query: () => take(api.GET('/api/meetings/{id}', { params: { path: { id: props.id } } })),
})
const only = ref(false)
const cancelling = ref(false)
const date = ref<Coming | null>(null)
const roomName = computed(
  () => organisation.value?.rooms.find((r) => r.id === data.value?.room)?.name ?? '',
)
const saved = computed(() => savedWords(route.query))
async function reload() {
  await refetch()
  await cache.invalidateQueries({ key: ['meeting', props.id] })
}
function edit() {
  router.push(`/register/${encodeURIComponent(props.id)}/edit`)
}
const { busy, problem, said, undoable, chosen, change, applyRemedy, undo } = useControlChanges(
  () => props.id,
  data,
  refetch,
)
const passcode = ref<string | null>(null)
watch(
  () => props.id,
  () => (passcode.value = null),
)

const findings = computed(() => data.value?.assessment.findings ?? [])
const { data: waivers } = useQuery({
  key: () => ['waivers', 'covering', props.id],
  query: () =>
    take(api.GET('/api/waivers/of/{meeting}', { params: { path: { meeting: props.id } } })),
})
/** The waiver in force that covers a finding, the narrowest first. */
const waiverOf = (f: FindingView) => waiverFor(waivers.value ?? [], f)
const remedy = computed(() => data.value?.assessment.remedy)
const zoneDiffers = computed(
  () => data.value?.zone !== Intl.DateTimeFormat().resolvedOptions().timeZone,
)

const ownWords = (o: Coming) => {
  const count = Object.keys(o.controls).length
  return t('register.controlsOfItsOwn', { controls: counted(count, 'control') })
}
async function dated(after: MeetingView) {
  keep(['meeting', props.id], after)
  undoable.value = null
  said.value = after.held
    ? t('register.thisDateIsToBeChangedName', { name: after.held.name })
    : t('register.thisDateIsChanged')
  await cache.invalidateQueries({ key: ['meetings'] })
}
const guessing = ref('')
const phonePasscode = ref('')
const phoneGuessing = ref('')
const { attempt: toShow } = useRowAct(problem)
const showPasscode = () =>
  toShow('passcode', async () => {
    const id = props.id
    const answer = await take(api.GET('/api/meetings/{id}/passcode', { params: { path: { id } } }))
    if (props.id !== id) return // it is another meeting's by now
    passcode.value = answer.passcode ?? null
    guessing.value = guessingText(answer.minutesToGuess ?? 0, answer.triesAMinute)
    phonePasscode.value = answer.phone ?? ''
    phoneGuessing.value = guessingText(answer.phoneMinutesToGuess ?? 0, answer.triesAMinute)
  })
useKeys([
  {
    key: 'a',
    does: t('register.applyTheLeastChange'),
    act: () => remedy.value?.changes.length && applyRemedy(),
  },
  { key: 'e', does: t('register.changeTheMeeting'), act: () => data.value?.mayEdit && edit() },
  { key: 'Escape', does: t('register.back'), act: () => router.back() },
])
</script>

<template>
  <StatePanel v-if="error && !data" state="failed" :problem="error" @retry="refetch()" />
  <StatePanel v-else-if="!data || !catalogue" state="loading" />
  <div v-else class="grid h-full grid-cols-[minmax(0,1fr)_400px] narrow:block narrow:h-auto">
    <div class="overflow-auto px-5 py-4 narrow:overflow-visible phone:px-3">
      <p class="text-soft">
        <RouterLink class="link" to="/register">{{ t('register.register') }}</RouterLink> ·
        {{ unitName(data.unit) }} ·
        {{ kindName(data.kind) || t('register.noKind') }}
      </p>
      <div class="mt-1 flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <h1 class="text-xl font-bold" dir="auto">{{ data.title }}</h1>
        <RouterLink class="link ml-auto shrink-0" :to="{ path: '/door', query: { meeting: id } }">{{
          t('register.rehearseTheDoor')
        }}</RouterLink>
        <RouterLink
          v-if="data.mayChange"
          class="link shrink-0"
          :to="{ path: '/floor', query: { practise: id } }"
          >{{ t('register.practise') }}</RouterLink
        >
        <span v-if="data.mayEdit" class="flex shrink-0 items-center gap-3">
          <button type="button" class="button" @click="edit">{{ t('register.change') }}</button>
          <RouterLink class="link" :to="{ path: '/register/new', query: { copy: id } }">{{
            t('register.copyAsNew')
          }}</RouterLink>
          <a v-if="session.seesAll" class="link" :href="`/api/exchange/calendar?id=${id}`" download
            >.ics</a
          >
          <button type="button" class="link" @click="cancelling = true">
            {{ t('register.cancelIt') }}
          </button>
        </span>
      </div>
      <p v-if="saved" class="my-2 border-l-4 border-kelp bg-sheet px-3 py-1.5" role="status">
        {{ saved }}
        <RouterLink
          v-if="route.query.saved !== '0' && session.seesAll"
          class="link ml-2"
          :to="{ path: '/outbox', query: { about: `meeting:${id}` } }"
          >{{ t('register.readTheMessage') }}</RouterLink
        >
      </p>
      <p v-if="data.description" class="mt-1 max-w-prose whitespace-pre-line" dir="auto">
        {{ data.description }}
      </p>
      <InSessionNote v-if="data.mayChange" class="mt-2" :meetings="[id]" />
      <div class="mt-3 flex items-center justify-between border-b border-ink pb-1">
        <h2 class="head">{{ t('register.controls') }}</h2>
        <label class="flex items-center gap-1.5 text-soft">
          <input v-model="only" type="checkbox" /> {{ t('register.onlyThoseWithFindings') }}
        </label>
      </div>
      <div v-if="problem || said" class="sticky -top-4 z-20 bg-paper py-2">
        <ProblemNote :problem="problem" />
        <p v-if="said" class="border-l-4 border-kelp bg-sheet px-3 py-1.5" role="status">
          {{ said }}
          <button v-if="undoable" class="link ml-2" :disabled="busy" @click="undo">
            {{ t('register.takeItBack') }}
          </button>
        </p>
      </div>
      <ControlTable :meeting="data" :only="only" :chosen="chosen" @change="change" />
      <RegistrationsPart :id="id" :may-change="data.mayEdit" />
      <h2 class="head mt-8">{{ t('register.whoCouldDoWhat') }}</h2>
      <p class="text-soft">
        {{ t('register.howFreelyEachComesToHoldEach') }}
      </p>
      <MatrixTable v-if="data.assessment.matrix" :matrix="data.assessment.matrix" />
      <h2 class="head mb-1 mt-8 flex justify-between border-b border-ink pb-1">
        {{ t('register.whatChangedAndByWhom') }}
        <RouterLink
          v-if="session.seesAll"
          class="link font-normal"
          :to="{ path: '/ledger', query: { object: 'meeting', objectId: id } }"
          >{{ t('register.inTheLedger') }}</RouterLink
        >
      </h2>
      <HistoryPart :id="id" :may-change="data.mayEdit" @restored="reload" />
      <DateDialog :meeting="data" :date="date" @close="date = null" @changed="dated" />
      <CancelDialog
        :id="id"
        :open="cancelling"
        :version="data.version"
        :title="data.title"
        @close="cancelling = false"
      />
    </div>

    <aside
      class="overflow-auto border-l border-ink bg-sheet px-5 py-4 narrow:border-l-0 narrow:border-t phone:px-3"
    >
      <WaterLine
        v-if="data.assessment.exposure"
        :score="data.assessment.exposure.score"
        :band="data.assessment.exposure.band"
        word
        :width="200"
      />
      <p v-if="data.assessment.exposure" class="mt-1 text-[12.5px] text-soft">
        {{
          t('register.intrusionIntrusionDisruptionDisruption', {
            intrusion: data.assessment.exposure.intrusion,
            disruption: data.assessment.exposure.disruption,
          })
        }}
      </p>

      <JoinPart
        v-if="data.mayEdit"
        :id="id"
        :next="data.coming[0]?.start ?? null"
        :link="data.held?.link"
      />
      <SourceNote :id="id" />
      <HeldPart
        :id="id"
        :may-act="data.mayEdit"
        :held="data.held ?? null"
        :formerly="data.formerly"
        @changed="reload"
      />

      <template v-if="remedy && remedy.changes.length">
        <h2 class="head mt-5 border-b border-line pb-1">{{ t('register.leastChange') }}</h2>
        <ul>
          <li
            v-for="c in remedy.changes"
            :key="c.control"
            class="value flex justify-between gap-2 border-b border-hair py-1"
          >
            <span class="font-bold">{{ controls.get(c.control)?.title ?? c.control }}</span>
            <span>
              <span class="text-soft">{{ label(controls.get(c.control), c.from) }}</span> →
              <strong>{{ label(controls.get(c.control), c.to) }}</strong>
            </span>
          </li>
        </ul>
        <p class="mt-1 text-[12.5px] text-soft">
          {{
            t('register.inconvenienceFrictionX', {
              friction: remedy.friction,
              x: remedy.complete ? '' : t('register.doesNotMendEverythingNoSmallSet'),
            })
          }}
        </p>
        <button
          v-if="data.mayChange"
          class="button button-main mt-2"
          :disabled="busy"
          @click="applyRemedy"
        >
          {{ busy ? t('register.applying') : t('register.apply') }}
        </button>
      </template>

      <h2 class="head mt-4 border-b border-line pb-1">
        {{ findings.length ? counted(findings.length, 'finding') : t('register.noFindings') }}
      </h2>
      <p v-if="!findings.length" class="py-2 text-kelp">
        {{ t('register.everythingIsAsTheRulebookSays') }}
      </p>
      <ul>
        <li v-for="(f, i) in findings" :key="i" class="flex gap-2 border-b border-hair py-1.5">
          <TallyMark :severity="f.severity" class="mt-0.5 shrink-0 self-start" />
          <span>
            {{ f.text }}
            <RouterLink class="link text-[12.5px]" :to="`/help/checks#${f.check}`">{{
              t('register.why')
            }}</RouterLink>
            <span v-if="f.occurrence" class="value text-soft">
              {{ t('register.onOccurrence', { occurrence: f.occurrence }) }}</span
            >
            <span v-if="waiverOf(f)" class="block border-l-4 border-sand pl-2 text-[12.5px]">{{
              t('register.waivedUntilUntilReason', {
                until: shortTime(waiverOf(f)!.until),
                reason: waiverOf(f)!.reason,
              })
            }}</span>
          </span>
        </li>
      </ul>

      <h2 class="head mt-5 border-b border-line pb-1">{{ t('register.whenAndWho') }}</h2>
      <dl class="mt-1 grid grid-cols-[5.5rem_minmax(0,1fr)] gap-y-1">
        <dt class="text-soft">{{ t('register.recurs2') }}</dt>
        <dd>
          {{ recurrenceWords(data.recurrence) }},
          {{
            data.wholeDay
              ? t('register.maxWholeDays', { max: Math.max(1, data.minutes / 1440) })
              : t('register.minutesMinutes', { minutes: data.minutes })
          }}
        </dd>
        <dt class="text-soft">{{ t('register.next2') }}</dt>
        <dd>
          <div v-for="o in data.coming.slice(0, 4)" :key="o.start" class="value">
            {{ fullTime(o.start) }}
            <span v-if="zoneDiffers" class="text-soft">
              · {{ fullTime(o.start, data.zone).slice(-5) }} {{ data.zone }}
            </span>
            <span v-if="o.changed" class="text-sand"> {{ t('register.changed2Spaced') }}</span>
            <button
              v-if="data.recurrence && data.mayChange && data.datesApart"
              class="link ml-2"
              :title="t('register.controlsOfStartAlone', { start: fullTime(o.start) })"
              @click="date = o"
            >
              {{ Object.keys(o.controls).length ? ownWords(o) : t('register.thisDateAlone2') }}
            </button>
          </div>
          <span v-if="!data.coming.length" class="text-soft">{{
            t('register.noneInTheNext90Days')
          }}</span>
          <span v-if="data.recurrence && !data.datesApart" class="text-soft">
            {{ t('register.nameHasNoControlsOfSingleDates', { name: data.held?.name }) }}
          </span>
        </dd>
        <template v-if="data.room">
          <dt class="text-soft">{{ t('register.room2') }}</dt>
          <dd>{{ roomName }}</dd>
        </template>
        <template v-if="data.groups.length">
          <dt class="text-soft">{{ t('register.groups') }}</dt>
          <dd>{{ data.groups.map((g) => groupText(g, organisation)).join(', ') }}</dd>
        </template>
        <dt class="text-soft">{{ t('register.number') }}</dt>
        <dd class="value">{{ data.number ?? t('register.notKnown') }}</dd>
        <dt class="text-soft">{{ t('register.passcode') }}</dt>
        <dd>
          <span v-if="passcode">
            <span class="value font-bold">{{ passcode }}</span>
            <span class="block text-[12.5px] text-soft">{{ guessing }}</span>
            <template v-if="phonePasscode">
              {{ t('register.byPhone') }} <span class="value font-bold">{{ phonePasscode }}</span>
              <span class="block text-[12.5px] text-soft">{{ phoneGuessing }}</span>
            </template>
          </span>
          <button v-else-if="data.maySeePasscode" class="link" @click="showPasscode">
            {{ t('register.showIt') }}
          </button>
          <span v-else class="text-soft">{{
            data.hasPasscode ? t('register.keptFromYou') : t('register.none2')
          }}</span>
        </dd>
        <dt class="text-soft">{{ t('register.host2') }}</dt>
        <dd class="break-words">{{ data.host }}</dd>
        <template v-if="data.coHosts.length">
          <dt class="text-soft">{{ t('register.coHosts') }}</dt>
          <dd class="break-words">{{ data.coHosts.join(', ') }}</dd>
        </template>
        <template v-if="data.presenters.length">
          <dt class="text-soft">{{ t('register.presenters') }}</dt>
          <dd class="break-words">{{ data.presenters.join(', ') }}</dd>
        </template>
        <dt class="text-soft">{{ t('register.invited2') }}</dt>
        <dd>
          <div v-for="i in data.invitees" :key="i.email" class="flex justify-between gap-2">
            <span class="truncate" :title="i.email">{{ i.email }}</span>
            <span :class="i.standing === 'outsider' ? 'text-sand' : 'text-soft'"
              >{{ i.task ? taskText(i.task, i.language) + ', ' : '' }}{{ term(i.standing) }}</span
            >
          </div>
          <div v-if="data.lists.length" class="text-soft">
            {{
              t('register.listsJoin', {
                join: data.lists.map((l) => nameOf(organisation?.lists, l)).join(', '),
              })
            }}
          </div>
          <div v-if="data.space" class="text-soft">
            {{ t('register.spaceSpaces', { spaces: nameOf(organisation?.spaces, data.space) }) }}
          </div>
        </dd>
        <dt class="text-soft">{{ t('register.changed2') }}</dt>
        <dd class="text-soft">
          {{
            t('register.changedAtByChangedBy', {
              changedAt: fullTime(data.changedAt),
              changedBy: data.changedBy,
            })
          }}
        </dd>
      </dl>
      <AnswersPart :id="id" />
    </aside>
  </div>
</template>
