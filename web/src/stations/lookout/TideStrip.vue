<script setup lang="ts">
import { t } from '@/wording'
import { counted } from '@/shell/counted'
import { useResizeObserver } from '@vueuse/core'
import { computed, ref } from 'vue'
import type { Mark, Tide } from '@/api/schema'
import { shortTime } from '@/shell/times'
import { daysOf, nearest, peaks, placed, shore, strokes } from './tide'

/** The next fourteen days as a tide: time across, each occurrence a mark as high as it is exposed. */
const props = defineProps<{ tide: Tide }>()
const emit = defineEmits<{ open: [meeting: string] }>()
const box = ref<HTMLElement | null>(null)
// a guess that is mostly right: then nothing is drawn twice
const width = ref(document.documentElement.clientWidth - 40)
useResizeObserver(box, ([entry]) => {
  if (entry) width.value = entry.contentRect.width
})
const height = 172
const base = 142
const across = computed(() => Math.max(width.value, 300))
const places = computed(() =>
  placed(props.tide.marks, props.tide.from, props.tide.to, across.value, 116),
)
const days = computed(() => daysOf(props.tide.from, props.tide.to, across.value))
const now = computed(() => {
  const begin = new Date(props.tide.from).getTime()
  const length = new Date(props.tide.to).getTime() - begin
  return ((Date.now() - begin) / length) * across.value
})
const edge = computed(() => shore(places.value, across.value, base))
const words = (m: Mark) =>
  t('lookout.titleStartExposureExposure', {
    title: m.title,
    start: shortTime(m.start),
    exposure: m.exposure,
  })
// few shapes for many marks: a shape each would hold up the first page
const calm = computed(() => places.value.filter((p) => !p.storm))
const storms = computed(() => places.value.filter((p) => p.storm))
const inHand = ref<Mark | null>(null)
function markAt(event: MouseEvent): Mark | null {
  const corner = (event.currentTarget as Element).getBoundingClientRect()
  return nearest(places.value, event.clientX - corner.left, base - event.clientY + corner.top)
}
function open(event: MouseEvent) {
  // a finger has not moved over it before
  const mark = markAt(event)
  inHand.value = mark
  if (mark) emit('open', mark.meeting)
}
</script>

<template>
  <figure ref="box" class="relative min-w-0">
    <svg
      :width="across"
      :height="height"
      :viewBox="`0 0 ${across} ${height}`"
      role="group"
      :aria-label="t('lookout.theNextFourteenDays')"
      :class="inHand && 'cursor-pointer'"
      @pointermove="inHand = markAt($event)"
      @pointerleave="inHand = null"
      @click="open"
    >
      <g v-for="d in days" :key="d.x">
        <rect
          v-if="d.weekend"
          :x="d.x"
          y="0"
          :width="across / 14"
          :height="base"
          fill="var(--hair)"
          opacity="0.45"
        />
        <line :x1="d.x + 0.5" :x2="d.x + 0.5" y1="0" :y2="base" stroke="var(--hair)" />
        <text :x="d.x + 4" :y="base + 18" class="value" fill="var(--soft)">
          {{ across < 700 ? d.name.replace(/\D+/, '') : d.name }}
        </text>
      </g>
      <g v-for="e in [25, 50]" :key="e">
        <line
          x1="0"
          :x2="across"
          :y1="base - (e / 100) * 116"
          :y2="base - (e / 100) * 116"
          stroke="var(--line)"
          stroke-dasharray="2 4"
        />
      </g>
      <polygon :points="`0,${base} ${edge} ${across},${base}`" fill="var(--sea-wash)" />
      <path :d="strokes(calm, base)" stroke="var(--sea)" stroke-width="1.5" />
      <path :d="strokes(storms, base)" stroke="var(--rust)" stroke-width="2.5" />
      <path :d="peaks(storms, base)" fill="var(--rust)" />
      <line x1="0" :x2="across" :y1="base + 0.5" :y2="base + 0.5" stroke="var(--ink)" />
      <line :x1="now" :x2="now" y1="0" :y2="base" stroke="var(--ink)" stroke-width="1.5" />
      <text :x="now + 5" y="11" class="value" fill="var(--ink)">{{ t('lookout.now') }}</text>
    </svg>
    <figcaption class="flex justify-between text-[12.5px] text-soft">
      <span v-if="inHand">{{ words(inHand) }}</span>
      <span v-else>{{
        t('lookout.occurrencesOfXAMarkIsAs', {
          occurrences: counted(tide.marks.length, 'occurrence'),
          x:
            tide.shown < tide.series
              ? t('lookout.theShownMostExposedOfSeriesSeries', {
                  shown: tide.shown,
                  series: tide.series,
                })
              : t('lookout.seriesSeries', { series: tide.series }),
        })
      }}</span>
      <span class="flex items-center gap-1"
        ><svg width="10" height="9" aria-hidden="true">
          <path d="M1 8 l4 -6 l4 6 z" fill="var(--rust)" /></svg
        >{{ t('lookout.withAGraveFinding') }}</span
      >
    </figcaption>
    <ul class="hidden-label">
      <li v-for="(p, i) in places.slice(0, 60)" :key="i">{{ words(p.mark) }}</li>
    </ul>
  </figure>
</template>
