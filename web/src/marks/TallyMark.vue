<script setup lang="ts">
import { t } from '@/wording'
import { computed } from 'vue'
import { severities } from './severity'

/** Severity as tally strokes, the fifth across the four: our code, the same everywhere. */
const props = defineProps<{ severity: number; count?: number; word?: boolean }>()

const text = computed(() => severities[props.severity] ?? '')
const tone = computed(() =>
  props.severity >= 4 ? 'var(--rust)' : props.severity === 3 ? 'var(--sand-mark)' : 'var(--soft)',
)
const name = computed(() =>
  props.count && props.count > 1
    ? t('shell.textCountFindings', { text: text.value, count: props.count })
    : text.value,
)
</script>

<template>
  <span class="inline-flex items-center gap-1.5 align-middle" :title="name">
    <svg width="22" height="14" viewBox="0 0 22 14" role="img" :aria-label="name">
      <g :stroke="tone" stroke-width="2" stroke-linecap="butt">
        <line
          v-for="n in Math.min(severity, 4)"
          :key="n"
          :x1="n * 4"
          :x2="n * 4"
          y1="1.5"
          y2="12.5"
        />
        <line v-if="severity === 5" x1="1" y1="10.5" x2="19" y2="3.5" />
      </g>
    </svg>
    <span v-if="word" :class="severity >= 4 ? 'text-rust' : severity === 3 ? 'text-sand' : ''">
      {{ text }}
    </span>
  </span>
</template>
