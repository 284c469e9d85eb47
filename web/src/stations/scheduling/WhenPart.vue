<script setup lang="ts">
import { t } from '@/wording'
import { useIntervalFn, useNow } from '@vueuse/core'
import { computed } from 'vue'
import type { SchedulingPreview, SeriesDateList } from '@/api/schema'
import ZoneField from '@/shell/ZoneField.vue'
import { vShows } from '@/shell/shows'
import { dayNames } from '@/stations/register/recurrence'
import DatesPart from './DatesPart.vue'
import { withStart, type MeetingForm } from './form'
import { ordinalOf, weekdayOf, weekdays, type Pattern } from './pattern'
import { browserZone, toInstant, toLocal } from './zones'

/** When it is: start, length, zone, how it recurs, and its coming dates. */
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
const byWeekday = computed(
  () =>
    `${ordinals[String(ordinalOf(props.form.start))] ?? t('scheduling.last')} ${dayNames[weekdayOf(props.form.start)]}`,
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

  <DatesPart
    v-if="dates && form.pattern.every !== 'once'"
    :form="form"
    :dates="dates"
    :preview="preview"
    @change="(changed) => emit('change', changed)"
  />
</template>
