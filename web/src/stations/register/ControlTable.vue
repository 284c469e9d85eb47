<script setup lang="ts">
import { vShows } from '@/shell/shows'
import { t } from '@/wording'
import { computed } from 'vue'
import {
  label,
  optionsOf,
  layerName,
  useCatalogue,
  useOrganisation,
  type Plain,
} from '@/api/catalogue'
import type { ControlView, MeetingView } from '@/api/schema'
import { within } from '@/api/within'
import { modeWords } from '@/stations/rulebook/words'
import TallyMark from '@/marks/TallyMark.vue'

/** A meeting's controls: value, start, limit and source side by side; a value is changed in place. */
const props = defineProps<{
  meeting: MeetingView
  only: boolean
  /** What was chosen and is not answered yet, by the control. */
  chosen: Map<string, { value: Plain }>
}>()
const emit = defineEmits<{ change: [control: string, value: Plain] }>()

const { catalogue } = useCatalogue()
const { unitName, kindName } = useOrganisation()
const resolved = (id: string) => props.meeting.assessment.resolved?.[id]
const found = (id: string) =>
  (props.meeting.assessment.findings ?? []).filter((f) => f.control === id && !f.occurrence)
const value = (id: string) =>
  (props.chosen.get(id)?.value ?? props.meeting.controls[id]) as Plain | undefined

const families = computed(() =>
  (catalogue.value?.families ?? [])
    .map((f) => ({
      ...f,
      controls: (catalogue.value?.controls ?? []).filter(
        (c) => c.family === f.id && (!props.only || found(c.id).length),
      ),
    }))
    .filter((f) => f.controls.length),
)

function source(layer: string): string {
  const [level = '', id] = layer.split(':')
  return layerName(
    { level, ...(id ? { id } : {}) },
    (i) => unitName(i),
    (i) => kindName(i),
  )
}
const options = (control: ControlView) =>
  optionsOf(control, [value(control.id), resolved(control.id)?.start, resolved(control.id)?.limit])
function tooLoose(control: ControlView, at: Plain): boolean {
  const limit = resolved(control.id)?.limit as Plain | undefined
  return limit !== undefined && limit !== null && !within(control, at, limit)
}
/** Said of the values one might choose; the one that stands is marked by its frame. */
const hint = (control: ControlView, at: Plain) =>
  tooLoose(control, at) && String(at) !== String(value(control.id)) ? t('register.tooLoose') : ''
const readOff = (id: string) =>
  (id === 'passcode-length' || id === 'passcode-makeup') && props.meeting.hasPasscode
function choose(control: ControlView, text: string) {
  const option = options(control).find((o) => String(o.value) === text)
  if (option) emit('change', control.id, option.value)
}
function chooseSet(control: ControlView, text: string) {
  emit(
    'change',
    control.id,
    text
      .split(/[,\s]+/)
      .map((n) => n.trim())
      .filter(Boolean),
  )
}
</script>

<template>
  <table class="grid-lines">
    <thead>
      <tr>
        <th scope="col">{{ t('register.control') }}</th>
        <th scope="col">{{ t('register.value') }}</th>
        <th scope="col" class="phone:hidden">{{ t('register.limit') }}</th>
        <th scope="col" class="mid:hidden">{{ t('register.default') }}</th>
        <th scope="col" class="phone:hidden">{{ t('register.source') }}</th>
        <th scope="col">
          <span class="hidden-label">{{ t('register.findings') }}</span>
        </th>
      </tr>
    </thead>
    <tbody v-for="family in families" :key="family.id">
      <tr>
        <th colspan="6" scope="rowgroup" class="family">{{ family.title }}</th>
      </tr>
      <tr v-for="control in family.controls" :id="`c-${control.id}`" :key="control.id">
        <td :title="control.effect">{{ control.title }}</td>
        <td>
          <span
            v-if="readOff(control.id)"
            class="value"
            :title="t('register.readOffThePasscodeItself')"
          >
            {{ label(control, value(control.id)) }}
          </span>
          <select
            v-else-if="meeting.mayChange && control.scale !== 'sets'"
            class="field value -my-1 w-40"
            :class="
              found(control.id).some((f) => f.check === 'beyond-limit')
                ? 'border-rust text-rust'
                : ''
            "
            :aria-label="t('register.titleValue', { title: control.title })"
            :value="value(control.id) === undefined ? '' : String(value(control.id))"
            @change="choose(control, ($event.target as HTMLSelectElement).value)"
          >
            <option v-if="value(control.id) === undefined" value="" disabled>
              {{ t('register.notKnown') }}
            </option>
            <option v-for="o in options(control)" :key="String(o.value)" :value="String(o.value)">
              {{ o.label }}{{ hint(control, o.value) }}
            </option>
          </select>
          <input
            v-else-if="meeting.mayChange"
            v-shows="((value(control.id) as string[] | undefined) ?? []).join(', ')"
            class="field value -my-1 w-40"
            :aria-label="t('register.titleValue', { title: control.title })"
            :placeholder="
              value(control.id) === undefined
                ? t('register.notKnown')
                : label(control, value(control.id))
            "
            @change="chooseSet(control, ($event.target as HTMLInputElement).value)"
          />
          <span v-else class="value">{{ label(control, value(control.id)) }}</span>
        </td>
        <td class="value phone:hidden">
          {{
            resolved(control.id)?.limit == null ? '' : label(control, resolved(control.id)?.limit)
          }}
        </td>
        <td class="value text-soft mid:hidden">
          {{ resolved(control.id) ? label(control, resolved(control.id)?.start) : '' }}
        </td>
        <td
          class="text-[12.5px] text-soft phone:hidden"
          :title="
            resolved(control.id)
              ?.trace.map((t) => t.words)
              .join(' ')
          "
        >
          <template v-if="resolved(control.id)">
            {{ source(resolved(control.id)?.layer ?? '') }} ·
            {{ modeWords[resolved(control.id)?.mode ?? '']
            }}{{ resolved(control.id)?.sealed ? t('register.sealed') : '' }}
          </template>
        </td>
        <td class="w-8">
          <TallyMark
            v-if="found(control.id).length"
            :severity="Math.max(...found(control.id).map((f) => f.severity))"
          />
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
table.grid-lines th.family {
  position: static;
  background: none;
  color: var(--ink);
  font-weight: 700;
  border-bottom: 1px solid var(--line);
  padding-top: 12px;
}
table.grid-lines thead th {
  top: -16px; /* the page's own padding */
}
table.grid-lines td {
  padding-top: 4px;
  padding-bottom: 4px;
}
</style>
