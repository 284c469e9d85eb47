<script setup lang="ts">
import { locale, t } from '@/wording'
import { counted } from '@/shell/counted'
import { useIntervalFn, useNow } from '@vueuse/core'
import { computed, ref } from 'vue'
import type { SchedulingPreview, SeriesDateList } from '@/api/schema'
import ModalSheet from '@/shell/ModalSheet.vue'
import ZoneField from '@/shell/ZoneField.vue'
import { vShows } from '@/shell/shows'
import DateTable from '@/stations/register/DateTable.vue'
import { dayNames } from '@/stations/register/recurrence'
import { changeOccurrence, withOwnControl, withStart, type MeetingForm } from './form'
import { ordinalOf, weekdayOf, weekdays, type Pattern } from './pattern'
import { addDays, browserZone, toInstant, toLocal } from './zones'

/** When it is: start, length, zone, how it recurs, and each coming date to move or drop. */
const props = defineProps<{
  form: MeetingForm
  dates: SeriesDateList | undefined
  /** What the form's values and limits are, once the server has answered. */
  preview?: SchedulingPreview | null | undefined
}>()
const emit = defineEmits<{ change: [form: MeetingForm] }>()

const ordinals: Record<string, string> = {
  1: t('scheduling.first'),
  2: t('scheduling.second'),
  3: t('scheduling.third'),
  4: t('scheduling.fourth'),
}
/** What is counted between one date and the next: one of it, and more. */
const units: Partial<Record<Pattern['every'], [string, string]>> = {
  day: [t('scheduling.aDayLong'), t('scheduling.days')],
  week: [t('scheduling.aWeekLong'), t('scheduling.someWeeks')],
  month: [t('scheduling.aMonthLong'), t('scheduling.someMonths')],
  year: [t('scheduling.aYearLong'), t('scheduling.someYears')],
}
const states: Record<string, string> = {
  dropped: t('scheduling.isDropped'),
  moved: t('scheduling.isMoved'),
  changed: t('scheduling.changed'),
  added: t('scheduling.isAdded'),
}
const byWeekday = computed(
  () =>
    `${ordinals[String(ordinalOf(props.form.start))] ?? t('scheduling.last')} ${dayNames[weekdayOf(props.form.start)]}`,
)
const editing = ref<string | null>(null)
/** What is typed for a date in hand; it counts, and the dates sort, once its field is left. */
const moving = ref('')
// kept here: an answer that comes in while somebody types must not put the old length back
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
function pattern(part: Partial<Pattern>) {
  patch({ pattern: { ...props.form.pattern, ...part } })
}
function setStart(day: string, time: string) {
  if (/^\d{4}-\d\d-\d\d$/.test(day) && /^\d\d:\d\d/.test(time)) {
    emit('change', withStart(props.form, `${day}T${time.slice(0, 5)}`))
  }
}
const hours = computed(() => Math.floor(props.form.minutes / 60))
const rest = computed(() => props.form.minutes % 60)
function setLength(h: number, m: number) {
  const minutes = Math.max(1, (Number.isFinite(h) ? h : 0) * 60 + (Number.isFinite(m) ? m : 0))
  patch({ minutes: Math.min(minutes, 100_000) })
}
function wholeDay(on: boolean) {
  patch({ wholeDay: on, minutes: on ? 1440 : 60 })
}
const ownTime = computed(() => {
  if (props.form.wholeDay || props.form.zone === browserZone) return ''
  try {
    const local = toLocal(toInstant(props.form.start, props.form.zone), browserZone)
    return t('scheduling.sliceXInBrowserZone', {
      slice: local.slice(11),
      x:
        local.slice(0, 10) === props.form.start.slice(0, 10)
          ? ''
          : t('scheduling.onSlice', { slice: local.slice(0, 10) }),
      browserZone,
    })
  } catch {
    return ''
  }
})
const clock = useNow({ scheduler: (tick) => useIntervalFn(tick, 30_000) })
/** Whether it begins, and for a series ends, before now. */
const past = computed(() => {
  try {
    const begins = toInstant(props.form.start, props.form.zone).getTime()
    return begins + props.form.minutes * 60_000 < clock.value.getTime()
  } catch {
    return false
  }
})
function now() {
  const local = toLocal(new Date(), props.form.zone)
  emit('change', withStart(props.form, local))
}
function toggleDay(day: string) {
  const days = props.form.pattern.days.includes(day)
    ? props.form.pattern.days.filter((d) => d !== day)
    : [...props.form.pattern.days, day]
  if (days.length) pattern({ days })
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
  <div class="grid grid-cols-[5.5rem_minmax(0,1fr)] items-center gap-x-3 gap-y-2">
    <label for="start-day" class="text-soft">{{ t('scheduling.start') }}</label>
    <div class="flex flex-wrap items-center gap-2">
      <input
        id="start-day"
        v-shows="form.start.slice(0, 10)"
        class="field value"
        type="date"
        @change="setStart(($event.target as HTMLInputElement).value, form.start.slice(11))"
      />
      <input
        v-if="!form.wholeDay"
        v-shows="form.start.slice(11, 16)"
        class="field value"
        type="time"
        :aria-label="t('scheduling.startTime')"
        @change="setStart(form.start.slice(0, 10), ($event.target as HTMLInputElement).value)"
      />
      <button type="button" class="link" @click="now">{{ t('scheduling.now') }}</button>
      <label class="ml-2 flex items-center gap-1.5">
        <input
          type="checkbox"
          :checked="form.wholeDay"
          @change="wholeDay(($event.target as HTMLInputElement).checked)"
        />
        {{ t('scheduling.wholeDay') }}
      </label>
      <p v-if="past" class="w-full text-[12.5px] text-sand" role="status">
        {{
          form.pattern.every === 'once'
            ? t('scheduling.thisIsOverAlreadyItBeginsAnd')
            : t('scheduling.theSeriesBeginsInThePastOnly')
        }}
      </p>
    </div>

    <label :for="form.wholeDay ? 'days' : 'hours'" class="text-soft">{{
      t('scheduling.length')
    }}</label>
    <div class="flex items-center gap-2">
      <template v-if="form.wholeDay">
        <input
          id="days"
          v-shows="Math.max(1, Math.round(form.minutes / 1440))"
          class="field value w-20"
          type="number"
          min="1"
          max="60"
          @change="
            patch({
              minutes: Math.max(1, Number(($event.target as HTMLInputElement).value)) * 1440,
            })
          "
        />
        {{ t('scheduling.days') }}
      </template>
      <template v-else>
        <input
          id="hours"
          v-shows="hours"
          class="field value w-20"
          type="number"
          min="0"
          max="999"
          @change="setLength(Number(($event.target as HTMLInputElement).value), rest)"
        />
        h
        <input
          v-shows="rest"
          class="field value w-20"
          type="number"
          min="0"
          max="59"
          :aria-label="t('scheduling.lengthMinutes')"
          @change="setLength(hours, Number(($event.target as HTMLInputElement).value))"
        />
        {{ t('scheduling.min') }}
      </template>
    </div>

    <label for="zone" class="text-soft">{{ t('scheduling.zone') }}</label>
    <div class="flex flex-wrap items-center gap-2">
      <ZoneField id="zone" :value="form.zone" @change="(zone) => patch({ zone })" />
      <span v-if="ownTime" class="text-soft">{{ ownTime }}</span>
    </div>

    <label for="every" class="text-soft">{{ t('scheduling.recurs') }}</label>
    <div class="flex flex-wrap items-center gap-2">
      <select
        id="every"
        class="field"
        :value="form.pattern.every"
        @change="pattern({ every: ($event.target as HTMLSelectElement).value as Pattern['every'] })"
      >
        <option value="once">{{ t('scheduling.once') }}</option>
        <option value="day">{{ t('scheduling.daily') }}</option>
        <option value="week">{{ t('scheduling.weekly') }}</option>
        <option value="month">{{ t('scheduling.monthly') }}</option>
        <option value="year">{{ t('scheduling.yearly') }}</option>
        <option value="rule">{{ t('scheduling.byARule') }}</option>
      </select>
      <template v-if="!['once', 'rule'].includes(form.pattern.every)">
        <span class="text-soft">{{ t('scheduling.every') }}</span>
        <input
          v-shows="form.pattern.interval"
          class="field value w-16"
          type="number"
          min="1"
          max="99"
          :aria-label="t('scheduling.interval')"
          @change="
            pattern({
              interval: Math.max(1, Number(($event.target as HTMLInputElement).value) || 1),
            })
          "
        />
        <span class="text-soft">{{
          units[form.pattern.every]?.[form.pattern.interval > 1 ? 1 : 0]
        }}</span>
      </template>
      <input
        v-if="form.pattern.every === 'rule'"
        v-shows="form.pattern.rule"
        class="field value w-96"
        :aria-label="t('scheduling.recurrenceRule')"
        placeholder="FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-1;COUNT=12"
        @change="pattern({ rule: ($event.target as HTMLInputElement).value })"
      />
      <div
        v-if="form.pattern.every === 'week'"
        class="flex"
        role="group"
        :aria-label="t('scheduling.weekdays')"
      >
        <button
          v-for="d in weekdays"
          :key="d"
          type="button"
          class="-ml-px border border-line px-1.5 py-0.5 first:ml-0"
          :class="form.pattern.days.includes(d) ? 'bg-ink font-bold text-paper' : ''"
          :aria-pressed="form.pattern.days.includes(d)"
          @click="toggleDay(d)"
        >
          {{ dayNames[d] }}
        </button>
      </div>
      <select
        v-if="form.pattern.every === 'month' || form.pattern.every === 'year'"
        class="field"
        :aria-label="t('scheduling.byDateOrByWeekday')"
        :value="form.pattern.by"
        @change="pattern({ by: ($event.target as HTMLSelectElement).value as Pattern['by'] })"
      >
        <option value="date">
          {{ t('scheduling.onDayNumber', { Number: Number(form.start.slice(8, 10)) }) }}
        </option>
        <option value="weekday">{{ t('scheduling.onTheByWeekday', { byWeekday }) }}</option>
      </select>
    </div>

    <template v-if="!['once', 'rule'].includes(form.pattern.every)">
      <label for="end" class="text-soft">{{ t('scheduling.until') }}</label>
      <div class="flex flex-wrap items-center gap-2">
        <select
          id="end"
          class="field"
          :value="form.pattern.end"
          @change="pattern({ end: ($event.target as HTMLSelectElement).value as Pattern['end'] })"
        >
          <option value="until">{{ t('scheduling.aDay') }}</option>
          <option value="count">{{ t('scheduling.aNumberOfTimes') }}</option>
          <option value="never">{{ t('scheduling.noEnd') }}</option>
        </select>
        <input
          v-if="form.pattern.end === 'until'"
          v-shows="form.pattern.until"
          class="field value"
          type="date"
          :aria-label="t('scheduling.lastDay')"
          @change="pattern({ until: ($event.target as HTMLInputElement).value })"
        />
        <input
          v-if="form.pattern.end === 'count'"
          v-shows="form.pattern.count"
          class="field value w-20"
          type="number"
          min="1"
          max="20000"
          :aria-label="t('scheduling.numberOfTimes')"
          @change="
            pattern({ count: Math.max(1, Number(($event.target as HTMLInputElement).value) || 1) })
          "
        />
        <span v-if="form.pattern.end === 'never'" class="text-sand">{{
          t('scheduling.aSeriesWithoutAnEndOutlivesIts')
        }}</span>
      </div>
    </template>
  </div>

  <section
    v-if="dates && form.pattern.every !== 'once'"
    class="mt-3 border-t border-hair pt-2"
    :aria-label="t('scheduling.comingDates')"
  >
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
