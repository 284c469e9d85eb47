<script setup lang="ts">
import { computed } from 'vue'
import { label, useCatalogue } from '@/api/catalogue'
import type { TrailStep } from '@/api/schema'

/** Somebody's way through the door, as a path: steps that decided something, with the control. */
const props = defineProps<{ trail: TrailStep[] }>()

const { controls, controlTitle, stepTitle } = useCatalogue()

const told = computed(() =>
  props.trail.filter((s) =>
    ['sign-in', 'passcode', 'host-absent', 'waiting-room'].includes(s.step),
  ),
)
</script>

<template>
  <ol class="flex border-t-2 border-rust">
    <li
      v-for="s in told"
      :key="s.step"
      class="relative flex-1 pr-2 pt-2 text-[12.5px] leading-tight"
    >
      <span
        class="absolute -top-[6px] left-0 h-2.5 w-2.5"
        :class="s.outcome === 'in' ? 'rounded-full bg-ink' : 'rotate-45 bg-rust'"
      />
      <span class="text-soft">{{ s.control ? controlTitle(s.control) : stepTitle(s.step) }}</span>
      <span v-if="s.control" class="value block">{{
        label(controls.get(s.control), s.value)
      }}</span>
      {{ s.words }}
    </li>
  </ol>
</template>
