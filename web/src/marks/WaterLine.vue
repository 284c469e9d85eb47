<script setup lang="ts">
import { t } from '@/wording'
import { computed } from 'vue'
import { bandName } from './bands'

/** Exposure as a water-line that rises along a gauge, with its band in words. */
const props = defineProps<{ score: number; band?: string; word?: boolean; width?: number }>()

const size = computed(() => props.width ?? 92)
const band = computed(() => bandName(props.band, props.score))
const at = computed(() => 1 + (Math.min(props.score, 100) / 100) * (size.value - 2))
</script>

<template>
  <span class="inline-flex items-center gap-2">
    <svg
      :width="size"
      height="14"
      :viewBox="`0 0 ${size} 14`"
      role="img"
      :aria-label="t('shell.exposureScoreBand', { score, band })"
    >
      <rect
        x="0.5"
        y="0.5"
        :width="size - 1"
        height="13"
        fill="var(--sheet)"
        stroke="var(--line)"
      />
      <rect x="1" y="1" :width="Math.max(at - 1, 0)" height="12" fill="var(--sea-wash)" />
      <line
        v-for="mark in [10, 25, 50]"
        :key="mark"
        :x1="(mark / 100) * size"
        :x2="(mark / 100) * size"
        y1="10"
        y2="13"
        stroke="var(--line)"
      />
      <line :x1="at" :x2="at" y1="1" y2="13" stroke="var(--sea)" stroke-width="2" />
    </svg>
    <span class="value inline-block w-7 text-right">{{ Math.round(score) }}</span>
    <span v-if="word" class="text-soft">{{ band }}</span>
  </span>
</template>
