<script setup lang="ts">
import { locale, t } from '@/wording'
import { term } from '@/shell/terms'
import { useQuery } from '@pinia/colada'
import { computed, ref } from 'vue'
import { api, take } from '@/api/client'
import type { Availability, OpeningView, Strip } from '@/api/schema'
import { withStart, type MeetingForm } from './form'
import { addDays, toInstant, toLocal } from './zones'

/** Everybody's busy times as strips over some days, and the next common openings. */
const props = defineProps<{ form: MeetingForm; base: string | null }>()
const emit = defineEmits<{ change: [form: MeetingForm] }>()

const opens = ref('09:00')
const closes = ref('17:00')
const days = ref(5)
const from = computed(() => props.form.start.slice(0, 10))
const required = computed(() => [
  props.form.host,
  ...props.form.coHosts,
  ...props.form.invitees.filter((i) => i.need === 'required').map((i) => i.email),
])
const optional = computed(() => [
  ...props.form.invitees.filter((i) => i.need === 'optional').map((i) => i.email),
  ...props.form.presenters,
])
const { data, error, asyncStatus } = useQuery({
  key: () => [
    'availability',
    required.value.join(),
    optional.value.join(),
    props.form.lists.join(),
    props.form.room ?? '',
    from.value,
    days.value,
    props.form.minutes,
    props.form.zone,
    opens.value,
    closes.value,
    props.base ?? '',
  ],
  query: () =>
    take(
      api.POST('/api/scheduling/availability', {
        body: {
          required: [...new Set(required.value.filter(Boolean))],
          optional: [...new Set(optional.value)],
          lists: props.form.lists,
          rooms: props.form.room ? [props.form.room] : [],
          from: from.value,
          days: days.value,
          minutes: Math.min(props.form.minutes, 44_640),
          zone: props.form.zone,
          opens: opens.value,
          closes: closes.value,
          without: props.base,
        },
      }),
    ),
  placeholderData: (before: Availability | undefined) => before,
})
const begin = computed(() => (data.value ? Date.parse(data.value.from) : 0))
const span = computed(() => (data.value ? Date.parse(data.value.to) - begin.value : 1))
/** A stretch on the strip, in hundredths of its length. */
function bar(start: string, end: string) {
  const from = Math.max(0, ((Date.parse(start) - begin.value) / span.value) * 100)
  const to = Math.min(100, ((Date.parse(end) - begin.value) / span.value) * 100)
  return { x: from, width: Math.max(0.15, to - from) }
}
const own = computed(() => {
  const start = toInstant(props.form.start, props.form.zone)
  return bar(
    start.toISOString(),
    new Date(start.getTime() + props.form.minutes * 60_000).toISOString(),
  )
})
const dayNames = computed(() =>
  Array.from({ length: days.value }, (_, i) =>
    new Date(`${addDays(from.value, i)}T00:00:00Z`).toLocaleDateString(locale, {
      weekday: 'short',
      day: 'numeric',
      month: days.value > 7 ? undefined : 'short',
      timeZone: 'UTC',
    }),
  ),
)
/** Whether the chosen time is free for a strip. */
function clash(strip: Strip): boolean {
  const start = toInstant(props.form.start, props.form.zone).getTime()
  const end = start + props.form.minutes * 60_000
  return strip.busy.some((b) => Date.parse(b.start) < end && start < Date.parse(b.end))
}
function says(o: OpeningView): string {
  return new Date(o.start).toLocaleString(locale, {
    weekday: 'short',
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
    timeZone: props.form.zone,
  })
}
function at(o: OpeningView, zone: string): string {
  return toLocal(new Date(o.start), zone).slice(11)
}
function choose(o: OpeningView) {
  emit('change', withStart(props.form, toLocal(new Date(o.start), props.form.zone)))
}
</script>

<template>
  <div class="flex flex-wrap items-center gap-2">
    <span class="text-soft">{{ t('scheduling.workingHours') }}</span>
    <input
      v-model.lazy="opens"
      class="field value"
      type="time"
      :aria-label="t('scheduling.workBegins')"
    />
    <span class="text-soft">{{ t('scheduling.to') }}</span>
    <input
      v-model.lazy="closes"
      class="field value"
      type="time"
      :aria-label="t('scheduling.workEnds')"
    />
    <span class="text-soft">{{ t('scheduling.forEverybodyOnTheirOwnClock') }}</span>
    <select v-model.number="days" class="field" :aria-label="t('scheduling.daysShown')">
      <option :value="1">{{ t('scheduling.oneDay') }}</option>
      <option :value="5">{{ t('scheduling.n5Days') }}</option>
      <option :value="14">{{ t('scheduling.n14Days') }}</option>
    </select>
    <span v-if="asyncStatus === 'loading'" class="text-soft" role="status">{{
      t('scheduling.looking')
    }}</span>
  </div>
  <p v-if="error" class="mt-2 text-rust" role="alert">{{ error.message }}</p>
  <template v-if="data">
    <div class="mt-2 grid grid-cols-[10rem_1fr] items-center gap-x-2">
      <span />
      <div class="flex text-[11.5px] text-soft" aria-hidden="true">
        <span v-for="d in dayNames" :key="d" class="flex-1 truncate border-l border-line pl-1">{{
          d
        }}</span>
      </div>
      <template v-for="s in data.strips" :key="s.need + s.id">
        <span class="truncate py-0.5" :class="clash(s) ? 'text-rust' : ''" :title="s.id">
          {{ s.name }}
          <span class="text-[11.5px] text-soft">{{
            s.need === 'required' ? '' : term(s.need)
          }}</span>
        </span>
        <svg
          class="h-5 w-full"
          viewBox="0 0 100 20"
          preserveAspectRatio="none"
          role="img"
          :aria-label="
            t('scheduling.nameBusyBusyTimesX', {
              name: s.name,
              busy: s.busy.length,
              x: clash(s) ? t('scheduling.oneAtTheChosenTime') : '',
            })
          "
        >
          <rect x="0" y="0" width="100" height="20" fill="var(--hair)" />
          <rect
            v-for="(w, i) in data.working"
            :key="`w${i}`"
            :x="bar(w.start, w.end).x"
            y="0"
            :width="bar(w.start, w.end).width"
            height="20"
            fill="var(--sheet)"
          />
          <rect
            v-for="(b, i) in s.busy"
            :key="i"
            :x="bar(b.start, b.end).x"
            :y="s.need === 'optional' ? 6 : 3"
            :width="bar(b.start, b.end).width"
            :height="s.need === 'optional' ? 8 : 14"
            :fill="s.need === 'optional' ? 'var(--soft)' : 'var(--ink)'"
          >
            <title>{{ b.title ?? t('scheduling.busy') }}</title>
          </rect>
          <rect
            :x="own.x"
            y="0"
            :width="own.width"
            height="20"
            fill="none"
            stroke="var(--sea)"
            stroke-width="2"
            vector-effect="non-scaling-stroke"
          />
        </svg>
      </template>
    </div>
    <p class="mt-1 text-[12.5px] text-soft">
      {{ t('scheduling.fullBarsAreThoseWhoMustCome', { join: data.zones.join(', ') }) }}
    </p>
    <h3 class="head mt-2">{{ t('scheduling.nextCommonOpenings') }}</h3>
    <p v-if="!data.openings.length" class="text-soft">
      {{ t('scheduling.noneInTheseDaysTakeMoreDays') }}
    </p>
    <ul class="mt-1 flex flex-wrap gap-2">
      <li v-for="o in data.openings" :key="o.start">
        <button type="button" class="button !font-normal" @click="choose(o)">
          <strong class="value">{{ says(o) }}</strong>
          <span v-for="z in data.zones.filter((z) => z !== form.zone)" :key="z" class="text-soft">
            · {{ at(o, z) }} {{ z.split('/').pop()?.replace('_', ' ') }}</span
          >
          <span v-if="o.missing.length" class="block text-[12.5px] text-sand">{{
            t('scheduling.withoutJoin', { join: o.missing.join(', ') })
          }}</span>
          <span v-else-if="optional.length" class="block text-[12.5px] text-kelp">{{
            t('scheduling.everybodyCan')
          }}</span>
        </button>
      </li>
    </ul>
  </template>
</template>
