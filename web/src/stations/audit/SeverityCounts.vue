<script setup lang="ts">
import TallyMark from '@/marks/TallyMark.vue'

/** How many findings of each severity, the gravest first. */
defineProps<{ counts: Record<string, number> }>()
</script>

<template>
  <span class="flex items-center gap-3">
    <span v-for="s in [5, 4, 3, 2, 1]" :key="s" class="flex items-center gap-1">
      <TallyMark :severity="s" /><span class="value">{{ counts[String(s)] ?? 0 }}</span>
    </span>
  </span>
</template>
