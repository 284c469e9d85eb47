<script setup lang="ts">
import { t } from '@/wording'
import { computed } from 'vue'
import { useCatalogue, type Plain } from '@/api/catalogue'
import type { SchedulingPreview } from '@/api/schema'
import { useSession } from '@/api/session'
import TallyMark from '@/marks/TallyMark.vue'
import WaterLine from '@/marks/WaterLine.vue'
import { counted } from '@/shell/counted'
import { fieldWord } from '@/shell/fields'
import { pencilText } from '@/stations/door/door'
import DoorChange from './DoorChange.vue'
import type { MeetingForm } from './form'
import InHandPanel from './InHandPanel.vue'
import WaiverAsk from './WaiverAsk.vue'

/** The margin of scheduling: what the form in hand does, at the door and in the audit. */
const props = defineProps<{
  id?: string | undefined
  form: MeetingForm
  preview: SchedulingPreview | null
  /** Why there is no answer. */
  unanswered: Error | null
  /** Whether something was changed: what an empty form lacks is not said at once. */
  touched: boolean
  inHand: string | null
  /** Why something looser is needed, as it is being written. */
  reason: string
}>()
const emit = defineEmits<{
  change: [control: string, value: Plain]
  /** A control is to go back to what its rule allows. */
  back: [control: string]
  hand: [control: string]
  reason: [text: string]
}>()
const session = useSession()
const { controls } = useCatalogue()
/** The same meeting at the Door, with what is changed here in pencil. */
const rehearsal = computed(() => ({
  path: '/door',
  query: {
    ...(props.id
      ? { meeting: props.id }
      : { meeting: 'new', by: props.form.host, kind: props.form.kind || undefined }),
    set: pencilText(props.form.controls as Record<string, Plain>),
  },
}))
const looser = computed(() => props.preview?.beyond.some((b) => b.looser) ?? false)
const beyond = computed(() => props.preview?.beyond ?? [])
/** Which part of the form it is about, and which of several. */
function where(pointer: string) {
  const [part = '', which = ''] = pointer.slice(1).split('/')
  if (part === 'controls' && which) return controls.value.get(which)?.title ?? which
  const word = fieldWord(part) ?? part
  return /^\d+$/.test(which) ? `${word} ${Number(which) + 1}` : word
}
const faults = computed(() => (props.touched ? (props.preview?.faults ?? []) : []))
const working = computed(() =>
  (props.preview?.turned ?? [])
    .filter((t) => t.how === 'works')
    .map((t) => controls.value.get(t.control)?.title ?? t.control),
)
const findings = computed(() => props.preview?.findings ?? [])
const handValue = computed(() => {
  const id = props.inHand
  if (!id) return undefined
  return (props.form.controls[id] ?? props.preview?.controls[id]) as Plain | undefined
})
</script>

<template>
  <aside
    class="overflow-auto border-l border-ink bg-sheet px-5 py-4 narrow:border-l-0 narrow:border-t phone:px-3"
    :aria-label="t('scheduling.whatThisDoes')"
  >
    <p v-if="unanswered" class="mb-2 text-rust" role="alert">{{ unanswered.message }}</p>
    <template v-if="preview">
      <div class="flex items-center gap-3">
        <WaterLine
          :score="preview.exposure.score"
          :band="preview.exposure.band"
          word
          :width="150"
        />
        <span class="text-[12.5px] text-soft"
          >{{ id ? t('scheduling.before') : t('scheduling.withTheDefaults') }}
          <span class="value">{{ preview.exposureBefore.score.toFixed(1) }}</span></span
        >
      </div>
      <ul v-if="faults.length" class="mt-3" :aria-label="t('scheduling.toPutRightFirst')">
        <li v-for="(f, i) in faults" :key="i" class="border-l-4 border-rust py-0.5 pl-2 text-rust">
          {{ where(f.pointer) }} {{ f.message }}
        </li>
      </ul>
      <WaiverAsk
        v-if="!session.isWarden"
        class="mt-3"
        :beyond="beyond"
        :values="preview.controls"
        :meeting="id ?? null"
        @back="emit('back', $event)"
      />
      <div v-else-if="beyond.length" class="mt-3 border-l-4 border-rust pl-2">
        <p v-for="b in beyond" :key="b.control + b.occurrence" class="text-rust">
          <strong>{{ controls.get(b.control)?.title }}</strong>: {{ b.words
          }}{{ b.occurrence ? t('scheduling.onOccurrence', { occurrence: b.occurrence }) : '' }}.
        </p>
        <label v-if="looser" class="mt-1 block">
          <span class="text-soft">{{ t('scheduling.whyItMustBeSo') }}</span>
          <textarea
            :value="reason"
            class="field mt-1 w-full"
            rows="2"
            maxlength="2000"
            :aria-label="t('scheduling.whyItMustBeSo2')"
            @input="emit('reason', ($event.target as HTMLTextAreaElement).value)"
          />
        </label>
      </div>
      <p
        v-for="hint in preview.hints"
        :key="hint"
        class="mt-2 border-l-4 border-sand pl-2"
        role="status"
      >
        {{ hint }}
      </p>
      <div v-if="inHand" id="in-hand" class="mt-4 border-t border-line pt-3">
        <InHandPanel
          :control="inHand"
          :value="handValue"
          :preview="preview"
          @change="(control, value) => emit('change', control, value)"
        />
      </div>
      <div
        v-for="i in preview.idle.filter((i) => i.control !== inHand)"
        :key="i.control"
        class="mt-2 border-l-4 border-sand pl-2"
      >
        <button type="button" class="link" @click="emit('hand', i.control)">
          {{ controls.get(i.control)?.title }}
        </button>
        {{ t('scheduling.doesNothingHere2') }}
      </div>
      <p v-if="working.length" class="mt-2 border-l-4 border-kelp pl-2">
        {{
          t('scheduling.joinXNowAndDidNotX2', {
            join: working.join(', '),
            x: working.length === 1 ? t('scheduling.matters') : t('scheduling.matter'),
            x2: id ? t('scheduling.asItIsSaved') : t('scheduling.withTheDefaults'),
          })
        }}
      </p>
      <h2 class="head mt-4 border-b border-line pb-1">
        {{
          t('scheduling.atTheDoorAgainstX', {
            x: id ? t('scheduling.whatIsSaved') : t('scheduling.theDefaults'),
          })
        }}
      </h2>
      <DoorChange :before="preview.matrixBefore" :after="preview.matrix" />
      <p class="mt-1">
        <RouterLink class="link" target="_blank" :to="rehearsal">{{
          t('scheduling.rehearseTheDoor')
        }}</RouterLink>
        <span class="text-soft"> {{ t('scheduling.besideThisPage') }}</span>
      </p>
      <h2 class="head mt-4 border-b border-line pb-1">
        {{
          findings.length
            ? t('scheduling.savingItWouldCauseFindings', {
                findings: counted(findings.length, 'finding'),
              })
            : t('scheduling.savingItWouldCauseNoFindings')
        }}
      </h2>
      <ul>
        <li v-for="(f, i) in findings" :key="i" class="flex gap-2 border-b border-hair py-1">
          <TallyMark :severity="f.severity" class="mt-0.5 shrink-0 self-start" />
          <span>{{ f.text }}</span>
        </li>
      </ul>
    </template>
    <p v-else-if="!unanswered" class="text-soft" role="status">
      {{ t('scheduling.readingTheChart') }}
    </p>
  </aside>
</template>
