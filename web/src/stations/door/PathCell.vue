<script setup lang="ts">
import { computed } from 'vue'

/**
 * One step of a way through the door: the way goes on, ends at a closed bar, or waits at a bar with
 * a notch; the pencilled way runs beneath it, dashed.
 */
const props = defineProps<{
  /** `passed`, `refused`, `held`, or nothing where the way ended before. */
  now: string
  then: string
  differs: boolean
}>()
const ways = computed(() => [
  { at: props.differs ? 8 : 12, end: props.now, pencil: false },
  ...(props.differs ? [{ at: 17, end: props.then, pencil: true }] : []),
])
</script>

<template>
  <svg width="100%" height="24" viewBox="0 0 40 24" preserveAspectRatio="none" aria-hidden="true">
    <g v-for="way in ways" :key="String(way.pencil)">
      <path
        v-if="way.end"
        :d="way.end === 'passed' ? `M0 ${way.at}H40` : `M0 ${way.at}H20`"
        :stroke="way.pencil ? 'var(--sea)' : 'var(--ink)'"
        stroke-width="1.6"
        :stroke-dasharray="way.pencil ? '4 3' : undefined"
        vector-effect="non-scaling-stroke"
      />
      <path
        v-if="way.end === 'passed'"
        :d="`M20 ${way.at - 2.5}v5`"
        :stroke="way.pencil ? 'var(--sea)' : 'var(--soft)'"
        vector-effect="non-scaling-stroke"
      />
      <rect
        v-else-if="way.end === 'refused'"
        x="18"
        :y="way.at - 6"
        width="4"
        height="12"
        :fill="way.pencil ? 'var(--sea)' : 'var(--ink)'"
      />
      <path
        v-else-if="way.end === 'held'"
        :d="`M18 ${way.at - 6}h4v4h-2v4h2v4h-4z`"
        :fill="way.pencil ? 'var(--sea)' : 'var(--sand-mark)'"
      />
    </g>
  </svg>
</template>
