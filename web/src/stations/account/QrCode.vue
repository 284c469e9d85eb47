<script setup lang="ts">
import { encode } from 'uqr'
import { computed } from 'vue'

/** A text as a code that a camera reads (ISO/IEC 18004). */
const props = defineProps<{ text: string; label: string }>()
const code = computed(() => encode(props.text, { border: 2 }))
const path = computed(() =>
  code.value.data
    .flatMap((row, y) => row.map((dark, x) => (dark ? `M${x} ${y}h1v1h-1z` : '')))
    .join(''),
)
</script>

<template>
  <!-- always dark on light, whatever the theme: cameras expect it -->
  <svg
    :viewBox="`0 0 ${code.size} ${code.size}`"
    class="h-44 w-44 border border-line"
    role="img"
    :aria-label="label"
    shape-rendering="crispEdges"
  >
    <rect :width="code.size" :height="code.size" fill="#fff" />
    <path :d="path" fill="#000" />
  </svg>
</template>
