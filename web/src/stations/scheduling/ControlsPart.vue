<script setup lang="ts">
import { folded } from '@/api/folded'
import { t } from '@/wording'
import { computed, ref } from 'vue'
import { label, optionsOf, useCatalogue, type Plain } from '@/api/catalogue'
import type { ControlView, SchedulingPreview } from '@/api/schema'
import { within } from '@/api/within'
import { same } from '@/stations/rulebook/book'
import NamesField from '@/shell/NamesField.vue'
import type { MeetingForm } from './form'

/** All controls at their starts, by family; those that people change most come first. */
const props = defineProps<{
  form: MeetingForm
  preview: SchedulingPreview | null
  inHand: string | null
  /** For hosts: what people change most, what is changed or wrong, and the rest when asked for. */
  short?: boolean
}>()
const emit = defineEmits<{
  change: [control: string, value: Plain]
  hand: [control: string]
  mend: [control: string]
}>()

const { catalogue } = useCatalogue()
const search = ref('')
const onlyChanged = ref(false)
const all = ref(!props.short)

/** What hosts come back for, as the work we watched showed; the rest follows by family. */
const first = [
  'waiting-room',
  'lobby-bypass',
  'presenter-role',
  'screen-share',
  'passcode',
  'passcode-in-mail',
  'passcode-in-link',
  'attendee-microphone',
  'recording',
  'chat',
]
const value = (id: string): Plain | undefined =>
  (props.form.controls[id] ?? props.preview?.controls[id]) as Plain | undefined
const names = (id: string) => value(id) as string[] | undefined
const start = (id: string) => props.preview?.starts[id] as Plain | undefined
const rule = (id: string) => props.preview?.resolved[id]
const differs = (id: string) =>
  props.form.controls[id] !== undefined && !same(props.form.controls[id], start(id) ?? null)
const beyond = (id: string) => props.preview?.beyond.find((b) => b.control === id)
/** What was beyond its limit already, as it is saved. */
const stood = (id: string) =>
  !beyond(id) &&
  props.preview?.findings.some(
    (f) => f.control === id && f.check === 'beyond-limit' && !f.occurrence,
  )
const idle = (id: string) => props.preview?.idle.find((i) => i.control === id)
const readOff = (id: string) =>
  (id === 'passcode-length' || id === 'passcode-makeup') && !!props.preview?.passcode

const groups = computed(() => {
  const known = catalogue.value?.controls ?? []
  const wanted = folded(search.value.trim())
  const keep = (c: ControlView) =>
    (!wanted || folded(`${c.title} ${c.id} ${c.effect}`).includes(wanted)) &&
    (!onlyChanged.value || differs(c.id))
  const isShown = (c: ControlView) =>
    all.value ||
    !!wanted ||
    props.inHand === c.id ||
    differs(c.id) ||
    !!beyond(c.id) ||
    !!stood(c.id) ||
    !!idle(c.id)
  const top = first
    .map((id) => known.find((c) => c.id === id))
    .filter((c): c is ControlView => !!c && keep(c))
  return [
    { id: 'first', title: t('scheduling.changedMost'), controls: top },
    ...(catalogue.value?.families ?? []).map((f) => ({
      id: f.id,
      title: f.title,
      controls: known.filter(
        (c) => c.family === f.id && !first.includes(c.id) && keep(c) && isShown(c),
      ),
    })),
  ].filter((g) => g.controls.length)
})
const options = (control: ControlView) =>
  optionsOf(control, [value(control.id), rule(control.id)?.start, rule(control.id)?.limit])
function choose(control: ControlView, text: string) {
  const option = options(control).find((o) => String(o.value) === text)
  if (option) emit('change', control.id, option.value)
}
/**
 * What a choice would be called before it is made; empty where the rule allows it. Of what is chosen
 * it stands beside the row: there is no room for it in the field.
 */
function mark(control: ControlView, value: Plain): string {
  const r = rule(control.id)
  if (!r) return ''
  if (r.mode === 'fix') return same(value, r.start ?? null) ? '' : t('scheduling.notAllowed')
  const limit = r.limit as Plain | null | undefined
  return limit === null || limit === undefined || within(control, value, limit)
    ? ''
    : t('scheduling.beyondTheRule')
}
/** Nobody but a warden chooses anything else: it is told, and not asked. */
const isFixed = (id: string) =>
  props.short && rule(id)?.mode === 'fix' && same(value(id) ?? null, rule(id)?.start ?? null)
function ruleWords(control: ControlView): string {
  const r = rule(control.id)
  if (!r) return t('scheduling.asYouLike')
  if (r.mode === 'fix')
    return isFixed(control.id) && r.reason
      ? t('scheduling.fixedReason', { reason: r.reason })
      : t('scheduling.fixed')
  if (r.mode === 'suggest')
    return t('scheduling.defaultControl', { control: label(control, r.start) })
  return t('scheduling.noLooserThanControl', { control: label(control, r.limit) })
}
</script>

<template>
  <div class="flex flex-wrap items-center gap-3">
    <input
      v-model="search"
      class="field w-56"
      type="search"
      :placeholder="t('scheduling.findAControl')"
      :aria-label="t('scheduling.findAControl')"
    />
    <label class="flex items-center gap-1.5 text-soft">
      <input v-model="onlyChanged" type="checkbox" />
      {{ t('scheduling.onlyWhatDiffersFromTheDefault') }}
    </label>
  </div>
  <table class="grid-lines mt-1">
    <thead>
      <tr>
        <th scope="col">{{ t('scheduling.control') }}</th>
        <th scope="col">{{ t('scheduling.value') }}</th>
        <th scope="col" class="phone:hidden">{{ t('scheduling.theRulebook') }}</th>
        <th scope="col">
          <span class="hidden-label">{{ t('scheduling.remarks') }}</span>
        </th>
      </tr>
    </thead>
    <tbody v-for="group in groups" :key="group.id">
      <tr>
        <th colspan="4" scope="rowgroup" class="family">{{ group.title }}</th>
      </tr>
      <tr
        v-for="c in group.controls"
        :id="`c-${c.id}`"
        :key="c.id"
        :class="inHand === c.id ? 'bg-sheet' : ''"
        @focusin="emit('hand', c.id)"
        @click="emit('hand', c.id)"
      >
        <td :title="c.effect">
          {{ c.title }}
          <span v-if="differs(c.id)" class="text-[11.5px] text-sea">{{
            t('scheduling.changed')
          }}</span>
        </td>
        <td>
          <span
            v-if="readOff(c.id)"
            class="value"
            :title="t('scheduling.readOffThePasscodeItself')"
            >{{ label(c, value(c.id)) }}</span
          >
          <span v-else-if="isFixed(c.id)" class="value">{{ label(c, value(c.id)) }}</span>
          <select
            v-else-if="c.scale !== 'sets'"
            class="field value -my-1 w-44"
            :class="beyond(c.id) || stood(c.id) ? 'border-rust text-rust' : ''"
            :aria-label="t('scheduling.titleValue', { title: c.title })"
            :aria-describedby="beyond(c.id) || idle(c.id) ? `r-${c.id}` : undefined"
            :value="value(c.id) === undefined ? '' : String(value(c.id))"
            @change="choose(c, ($event.target as HTMLSelectElement).value)"
          >
            <option v-if="value(c.id) === undefined" value="" disabled>
              {{ t('scheduling.notSet') }}
            </option>
            <option v-for="o in options(c)" :key="String(o.value)" :value="String(o.value)">
              {{ o.label }}{{ same(o.value, value(c.id) ?? null) ? '' : mark(c, o.value) }}
            </option>
          </select>
          <NamesField
            v-else
            class="-my-1 w-44"
            :control="c"
            :value="names(c.id)"
            :label="t('scheduling.titleValue', { title: c.title })"
            :invalid="!!(beyond(c.id) || stood(c.id))"
            :described-by="beyond(c.id) || idle(c.id) ? `r-${c.id}` : undefined"
            @change="(names) => emit('change', c.id, names)"
          />
        </td>
        <td class="text-[12.5px] text-soft phone:hidden" :title="rule(c.id)?.reason">
          {{ ruleWords(c) }}
        </td>
        <td :id="`r-${c.id}`" class="text-[12.5px]">
          <span v-if="beyond(c.id)" class="text-rust">{{
            beyond(c.id)?.looser ? t('scheduling.tooLoose') : t('scheduling.fixedElsewhere')
          }}</span>
          <span v-else-if="stood(c.id)" class="text-rust">{{
            t('scheduling.standsTooLoose')
          }}</span>
          <button
            v-else-if="idle(c.id)"
            type="button"
            class="text-sand underline"
            :aria-label="t('scheduling.titleDoesNothingHereMendIt', { title: c.title })"
            @click="emit('mend', c.id)"
          >
            {{ t('scheduling.doesNothingHere') }}
          </button>
        </td>
      </tr>
    </tbody>
  </table>
  <p v-if="!groups.length" class="py-4 text-center text-soft">
    {{ t('scheduling.noControlIsLikeThat') }}
  </p>
  <button v-if="short && !search" type="button" class="button mt-2" @click="all = !all">
    {{
      all
        ? t('scheduling.onlyWhatIsChangedMost')
        : t('scheduling.allControlsControls', { controls: catalogue?.controls.length ?? '' })
    }}
  </button>
</template>

<style scoped>
table.grid-lines th.family {
  position: static;
  background: none;
  color: var(--ink);
  font-weight: 700;
  border-bottom: 1px solid var(--line);
  padding-top: 10px;
}
table.grid-lines thead th {
  position: static;
}
table.grid-lines td {
  padding-top: 4px;
  padding-bottom: 4px;
}
</style>
