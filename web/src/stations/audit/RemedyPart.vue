<script setup lang="ts">
import { t } from '@/wording'
import { useQuery, useQueryCache } from '@pinia/colada'
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import { label, optionsOf, useCatalogue, type Plain } from '@/api/catalogue'
import { api, take } from '@/api/client'
import type { FindingView } from '@/api/schema'
import { useSession } from '@/api/session'
import { useAct } from '@/shell/act'
import WaterLine from '@/marks/WaterLine.vue'
import ProblemNote from '@/shell/ProblemNote.vue'
import { day } from '@/shell/times'
import DoorChange from '@/stations/scheduling/DoorChange.vue'
import InSessionNote from '@/stations/floor/InSessionNote.vue'
import JobLine from './JobLine.vue'
import { counted } from '@/shell/counted'
import { useLastApplied } from './lastApplied'
import { subjectOf } from './wall'

/** The least change before and after, another choice in pencil, and applying either. */
const props = defineProps<{
  meeting: string
  finding: FindingView | null
  /** Until when a host who was asked has time, or null. */
  askedUntil: string | null
}>()
const emit = defineEmits<{ ask: []; waive: [] }>()
const session = useSession()
const cache = useQueryCache()
const { controls, catalogue } = useCatalogue()

const onlyThis = ref(false)
const pencil = ref<Record<string, Plain> | null>(null)
const adding = ref('')
const { last, applied } = useLastApplied()
const job = computed(() => (last.value?.meeting === props.meeting ? last.value.job : null))
const { busy, problem, attempt } = useAct()
watch(
  () => props.meeting,
  () => {
    pencil.value = null
    onlyThis.value = false
    problem.value = null
  },
)
const target = computed(() => ({
  meeting: props.meeting,
  ...(props.finding?.occurrence ? { occurrence: props.finding.occurrence } : {}),
  ...(onlyThis.value && props.finding && !pencil.value
    ? { check: props.finding.check, subject: subjectOf(props.finding) }
    : {}),
}))
const { data: sketch, error } = useQuery({
  key: () => ['standing', 'sketch', JSON.stringify(target.value), JSON.stringify(pencil.value)],
  query: () =>
    take(
      api.POST('/api/remedies/sketch', {
        body: {
          target: target.value,
          ...(pencil.value ? { controls: pencil.value } : {}),
        },
      }),
    ),
})
/** Until when what is shown may be from before an undo that is still under way. */
const unsettled = ref(0)
let asking: ReturnType<typeof setInterval> | undefined
function settle() {
  unsettled.value = Date.now() + 10_000
  clearInterval(asking)
  asking = setInterval(() => {
    if (!isEmpty.value || Date.now() > unsettled.value) {
      clearInterval(asking)
      unsettled.value = 0
    } else {
      void cache.invalidateQueries({ key: ['standing', 'sketch'] })
    }
  }, 500)
}
onBeforeUnmount(() => clearInterval(asking))
const changes = computed(() => Object.entries(sketch.value?.plan.changes ?? {}))
const isEmpty = computed(
  () => !changes.value.length && !sketch.value?.plan.newPasscode && !sketch.value?.plan.newNumber,
)
const left = computed(() => sketch.value?.after.findings.length ?? 0)
function take2pencil() {
  pencil.value = Object.fromEntries(changes.value.map(([id, s]) => [id, s.to as Plain]))
}
function setPencil(id: string, value: string) {
  const control = controls.value.get(id)
  const chosen =
    control &&
    optionsOf(control, [sketch.value?.plan.changes[id]?.to]).find((o) => String(o.value) === value)
  pencil.value = { ...pencil.value, [id]: chosen ? chosen.value : value }
}
function add() {
  const control = controls.value.get(adding.value)
  if (!control) return
  const strictest = optionsOf(control, []).at(-1)
  if (strictest) pencil.value = { ...pencil.value, [control.id]: strictest.value }
  adding.value = ''
}
function drop(id: string) {
  pencil.value = Object.fromEntries(Object.entries(pencil.value ?? {}).filter(([k]) => k !== id))
}
const choices = computed(() =>
  (catalogue.value?.controls ?? []).filter(
    (c) => ['words', 'number', 'ladder'].includes(c.scale) && !(c.id in (pencil.value ?? {})),
  ),
)
async function apply(evenIfAsked = false) {
  if (busy.value || isEmpty.value || !session.mayMend) return
  if (props.askedUntil && !evenIfAsked && new Date(props.askedUntil) > new Date()) {
    problem.value = new Error(
      t('audit.theHostWasAskedAndHasUntil', { askedUntil: day(props.askedUntil) }),
    )
    return
  }
  const meeting = props.meeting
  await attempt(async () => {
    const made = await take(
      api.POST('/api/remedies', {
        body: {
          targets: [target.value],
          evenIfAsked,
          ...(pencil.value ? { controls: pencil.value } : {}),
        },
      }),
    )
    applied(made.id, meeting)
    if (props.meeting === meeting) pencil.value = null
    await cache.invalidateQueries({ key: ['remedies'] })
  })
}
const line = ref<InstanceType<typeof JobLine> | null>(null)
/** A key is soon pressed by mistake: where it would change several controls, it asks first. */
const isSure = ref(false)
/** Pressed before there was anything to apply. */
const isEarly = ref(false)
// by what it says: it is read again and again where much changes, and the same question stands
watch(
  () => JSON.stringify([target.value, pencil.value, sketch.value?.plan]),
  () => {
    isSure.value = false
    isEarly.value = false
  },
)
function byKey() {
  if (!sketch.value) isEarly.value = !error.value
  else if (changes.value.length > 1 && !isSure.value) isSure.value = true
  else {
    isSure.value = false
    void apply()
  }
}
defineExpose({ apply: byKey, undo: () => line.value?.undo() })
</script>

<template>
  <section class="mt-4" :aria-label="t('audit.remedy')">
    <div class="flex items-baseline justify-between border-b border-line pb-1">
      <h3 class="head">{{ pencil ? t('audit.whatIf') : t('audit.leastChange') }}</h3>
      <span v-if="sketch && !isEmpty" class="value text-soft">{{
        t('audit.inconvenienceFriction', { friction: sketch.friction })
      }}</span>
    </div>
    <ProblemNote class="mt-2" :problem="error" />
    <p v-if="finding && !sketch && !error" class="mt-1.5 text-soft">
      {{ t('shell.readingTheChart') }}
    </p>
    <p v-if="sketch && isEmpty" class="mt-1.5 text-soft">
      {{
        unsettled
          ? t('audit.theMeetingIsBeingPutBackThis')
          : finding
            ? t('audit.noChangeOfControlsMendsThisAsk')
            : t('audit.thereIsNothingLeftToMend')
      }}
    </p>
    <ul>
      <li
        v-for="[id, s] in changes"
        :key="id"
        class="value flex items-center justify-between gap-2 border-b border-hair py-1"
      >
        <span class="min-w-0">
          <strong>{{ controls.get(id)?.title ?? id }}</strong>
          <span class="ml-2 text-soft">{{ label(controls.get(id), s.from) }}</span> →
          <select
            v-if="pencil && controls.get(id)"
            class="field"
            :aria-label="t('audit.titleBecomes', { title: controls.get(id)!.title })"
            :value="String(s.to)"
            @change="setPencil(id, ($event.target as HTMLSelectElement).value)"
          >
            <option
              v-for="o in optionsOf(controls.get(id)!, [s.to])"
              :key="String(o.value)"
              :value="String(o.value)"
            >
              {{ o.label }}
            </option>
          </select>
          <template v-else>{{ label(controls.get(id), s.to) }}</template>
        </span>
        <button v-if="pencil" class="link" @click="drop(id)">
          {{ t('audit.leave')
          }}<span class="hidden-label">
            {{ t('audit.titleAsItIs', { title: controls.get(id)?.title ?? id }) }}</span
          >
        </button>
        <span v-else class="text-soft">{{ controls.get(id)?.friction }}</span>
      </li>
    </ul>
    <p v-if="sketch?.plan.newPasscode || sketch?.plan.newNumber" class="mt-1">
      {{
        t('audit.xAndANewInvitationGoesOut', {
          x: sketch.plan.newPasscode
            ? t('audit.aNewPasscodeIsMade')
            : t('audit.itGetsANumberOfItsOwn'),
        })
      }}
    </p>
    <p v-if="isEarly" class="mt-1.5 font-bold" role="status">
      {{ t('audit.theLeastChangeIsStillBeingWorked') }} <kbd>a</kbd> {{ t('audit.onceYouSeeIt') }}
    </p>
    <p v-if="isSure && !isEmpty" class="mt-1.5 font-bold" role="status">
      {{ t('audit.thatChangesControlsPress', { controls: counted(changes.length, 'control') }) }}
      <kbd>a</kbd> {{ t('audit.againToApplyIt') }}
    </p>
    <div v-if="pencil" class="mt-1.5 flex gap-2">
      <select
        v-model="adding"
        class="field min-w-0 flex-1"
        :aria-label="t('audit.anotherControl')"
        @change="add"
      >
        <option value="">{{ t('audit.anotherControl2') }}</option>
        <option v-for="c in choices" :key="c.id" :value="c.id">{{ c.title }}</option>
      </select>
      <button class="link" @click="pencil = null">{{ t('audit.backToTheLeast') }}</button>
    </div>
    <template v-if="sketch && !isEmpty">
      <p class="mt-2 flex items-center gap-2">
        <WaterLine :score="sketch.before.exposure.score" :width="64" /> →
        <WaterLine :score="sketch.after.exposure.score" :width="64" />
      </p>
      <DoorChange class="mt-1" :before="sketch.before.matrix" :after="sketch.after.matrix" />
      <p class="mt-1 text-[12.5px] text-soft">
        {{
          left
            ? t('audit.findingsByRuleOrGuaranteeWouldBe', { findings: counted(left, 'finding') })
            : t('audit.nothingByRuleOrGuaranteeWouldBe')
        }}
      </p>
      <p class="mt-1.5 flex flex-wrap gap-x-3 text-[12.5px]">
        <button
          v-if="finding && !pencil"
          class="link"
          :aria-pressed="onlyThis"
          @click="onlyThis = !onlyThis"
        >
          {{ onlyThis ? t('audit.mendTheWholeMeeting') : t('audit.mendOnlyThis') }}
        </button>
        <button v-if="!pencil" class="link" @click="take2pencil">
          {{ t('audit.chooseOtherwise') }}
        </button>
      </p>
    </template>
  </section>
  <div class="sticky -bottom-4 -mb-4 mt-auto border-t border-line bg-sheet pb-4 pt-3">
    <JobLine v-if="job" ref="line" class="mb-2" :job="job" @acted="settle" />
    <ProblemNote class="mb-2" :problem="problem" />
    <InSessionNote v-if="session.mayMend && !isEmpty" class="mb-2" :meetings="[meeting]" />
    <div v-if="session.mayMend" class="flex flex-wrap gap-2">
      <button
        v-if="!isEmpty"
        class="button button-main"
        :disabled="busy"
        @click="apply(!!askedUntil && !!problem)"
      >
        {{
          busy
            ? t('audit.applying')
            : askedUntil && problem
              ? t('audit.applyEvenSo')
              : t('audit.apply2')
        }}
      </button>
      <button v-if="finding" class="button" @click="emit('ask')">
        {{ t('audit.askTheHost3') }}
      </button>
      <button v-if="finding" class="button" @click="emit('waive')">{{ t('audit.waive3') }}</button>
    </div>
  </div>
</template>
