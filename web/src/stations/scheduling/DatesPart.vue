<script setup lang="ts">
import { locale, t } from '@/wording'
import { counted } from '@/shell/counted'
import { computed, ref } from 'vue'
import type { SchedulingPreview, SeriesDateList } from '@/api/schema'
import ModalSheet from '@/shell/ModalSheet.vue'
import DateTable from '@/stations/register/DateTable.vue'
import { changeOccurrence, withOwnControl, type MeetingForm } from './form'
import { addDays } from './zones'

/** Each coming date of a series, to move, drop or give controls of its own; and dates besides. */
const props = defineProps<{
  form: MeetingForm
  dates: SeriesDateList
  /** What the form's values and limits are, once the server has answered. */
  preview?: SchedulingPreview | null | undefined
}>()
const emit = defineEmits<{ change: [form: MeetingForm] }>()

const states: Record<string, string> = {
  dropped: t('scheduling.isDropped'),
  moved: t('scheduling.isMoved'),
  changed: t('scheduling.changed'),
  added: t('scheduling.isAdded'),
}
const editing = ref<string | null>(null)
/** What is typed for a date in hand; it counts, and the dates sort, once its field is left. */
const moving = ref('')
// kept here: the dates are the server's, and have the old length until it has answered
const lasting = ref('')
function edit(at: string, localStart: string, minutes: number) {
  editing.value = editing.value === at ? null : at
  moving.value = localStart.slice(0, 16)
  lasting.value = String(minutes)
}
const added = ref('')
/** The date whose own controls are open. */
const apart = ref<string | null>(null)
const own = (at: string) => props.form.occurrences.find((o) => o.at === at)?.controls ?? {}
const ownCount = (at: string) => Object.keys(own(at)).length
const limits = computed(() =>
  Object.fromEntries(
    Object.entries(props.preview?.resolved ?? {}).map(([id, rule]) => [id, rule.limit]),
  ),
)

function patch(part: Partial<MeetingForm>) {
  emit('change', { ...props.form, ...part })
}
function drop(at: string) {
  patch({
    exDates: [...props.form.exDates, at].sort(),
    occurrences: props.form.occurrences.filter((o) => o.at !== at),
  })
}
function putBack(at: string) {
  patch({
    exDates: props.form.exDates.filter((d) => d !== at),
    occurrences: props.form.occurrences.filter((o) => o.at !== at),
  })
}
function move(at: string, local: string) {
  const known = props.form.occurrences.find((o) => o.at === at)?.start ?? at
  if (/^\d{4}-\d\d-\d\dT\d\d:\d\d/.test(local) && local.slice(0, 16) !== known.slice(0, 16)) {
    patch({ occurrences: changeOccurrence(props.form, at, { start: local.slice(0, 16) }) })
  }
}
function lengthen(at: string, minutes: number) {
  if (minutes > 0) patch({ occurrences: changeOccurrence(props.form, at, { minutes }) })
}
function add() {
  if (/^\d{4}-\d\d-\d\dT\d\d:\d\d/.test(added.value) && !props.form.rDates.includes(added.value)) {
    patch({ rDates: [...props.form.rDates, added.value].sort() })
    added.value = ''
  }
}
const shown = (local: string) =>
  new Date(`${local.slice(0, 16)}:00Z`).toLocaleString(locale, {
    weekday: 'short',
    day: 'numeric',
    month: 'short',
    year: 'numeric',
    ...(props.form.wholeDay ? {} : { hour: '2-digit', minute: '2-digit' }),
    timeZone: 'UTC',
  })
</script>

<template>
  <section class="mt-3 border-t border-hair pt-2" :aria-label="t('scheduling.comingDates')">
    <h3 class="head">
      {{ counted(dates.total, 'date') }}{{ dates.endless ? t('scheduling.andMore') : '' }}
      <span class="font-normal text-soft">
        {{
          form.exDates.length
            ? t('scheduling.exDatesDropped', { exDates: form.exDates.length })
            : ''
        }}
        {{
          form.occurrences.length
            ? t('scheduling.occurrencesChanged', { occurrences: form.occurrences.length })
            : ''
        }}
        {{ form.rDates.length ? t('scheduling.rDatesAdded', { rDates: form.rDates.length }) : '' }}
      </span>
    </h3>
    <ol class="mt-1 max-h-56 overflow-auto">
      <li
        v-for="d in dates.coming"
        :key="d.at"
        class="flex flex-wrap items-center gap-2 border-b border-hair py-0.5"
      >
        <span class="value w-60" :class="d.state === 'dropped' ? 'text-soft line-through' : ''">{{
          shown(d.localStart)
        }}</span>
        <span class="w-20 text-[12.5px]" :class="d.state === 'plain' ? 'text-soft' : 'text-sand'">{{
          d.state === 'plain' ? t('scheduling.minutesMin', { minutes: d.minutes }) : states[d.state]
        }}</span>
        <span v-if="ownCount(d.at)" class="text-[12.5px] text-sand">{{
          t('scheduling.atOfItsOwn', { at: ownCount(d.at) })
        }}</span>
        <span
          v-if="d.clashes.length"
          class="truncate text-[12.5px] text-rust"
          :title="d.clashes.join(', ')"
          >{{ t('scheduling.clashesWithClashes', { clashes: d.clashes[0] }) }}</span
        >
        <span class="ml-auto flex gap-3">
          <button
            v-if="d.state === 'dropped'"
            type="button"
            class="link"
            :aria-label="t('scheduling.putBackAt', { at: shown(d.at) })"
            @click="putBack(d.at)"
          >
            {{ t('scheduling.putBack') }}
          </button>
          <template v-else>
            <button
              type="button"
              class="link"
              :aria-expanded="editing === d.at"
              :aria-label="t('scheduling.moveAt', { at: shown(d.at) })"
              @click="edit(d.at, d.localStart, d.minutes)"
            >
              {{ t('scheduling.move') }}
            </button>
            <button
              type="button"
              class="link"
              :aria-label="t('scheduling.controlsOfAt', { at: shown(d.at) })"
              @click="apart = d.at"
            >
              {{ t('scheduling.controls2') }}
            </button>
            <button
              type="button"
              class="link"
              :aria-label="t('scheduling.dropAt', { at: shown(d.at) })"
              @click="drop(d.at)"
            >
              {{ t('scheduling.drop') }}
            </button>
            <button
              v-if="d.state === 'moved' || d.state === 'changed'"
              type="button"
              class="link"
              :aria-label="t('scheduling.asTheSeriesAt', { at: shown(d.at) })"
              @click="putBack(d.at)"
            >
              {{ t('scheduling.asTheSeries') }}
            </button>
          </template>
        </span>
        <div v-if="editing === d.at" class="flex w-full items-center gap-2 py-1 pl-4">
          <input
            class="field value"
            type="datetime-local"
            :aria-label="t('scheduling.newStartOfAt', { at: shown(d.at) })"
            :value="moving"
            @input="moving = ($event.target as HTMLInputElement).value"
            @blur="move(d.at, moving)"
            @keydown.enter.prevent="move(d.at, moving)"
          />
          <input
            class="field value w-20"
            type="number"
            min="1"
            :aria-label="t('scheduling.newLengthOfAtMinutes', { at: shown(d.at) })"
            :value="lasting"
            @input="lasting = ($event.target as HTMLInputElement).value"
            @change="lengthen(d.at, Number(lasting))"
          />
          {{ t('scheduling.min') }}
        </div>
      </li>
    </ol>
    <p v-if="dates.more" class="mt-1 text-[12.5px] text-soft">
      {{ t('scheduling.theFirstComingAreShown', { coming: dates.coming.length }) }}
    </p>
    <div class="mt-2 flex items-center gap-2">
      <input
        v-model="added"
        class="field value"
        type="datetime-local"
        :aria-label="t('scheduling.aDateBesides')"
        :min="`${addDays(form.start.slice(0, 10), -365)}T00:00`"
      />
      <button type="button" class="link" :disabled="!added" @click="add">
        {{ t('scheduling.addThisDate') }}
      </button>
    </div>
    <ModalSheet :open="apart !== null" :title="t('scheduling.thisDateAlone')" @close="apart = null">
      <p v-if="apart">{{ t('scheduling.apartWhatIsNotNamedHereIs', { apart: shown(apart) }) }}</p>
      <DateTable
        v-if="apart"
        :own="own(apart)"
        :series="preview?.controls ?? form.controls"
        :limits="limits"
        @set="
          (control, value) =>
            apart && patch({ occurrences: withOwnControl(form, apart, control, value) })
        "
      />
      <p class="mt-3 text-soft">{{ t('scheduling.itIsSavedWithTheMeeting') }}</p>
      <button type="button" class="button mt-3" @click="apart = null">
        {{ t('scheduling.done') }}
      </button>
    </ModalSheet>
  </section>
</template>
