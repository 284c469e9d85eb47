<script setup lang="ts">
import { useAddress } from './address'

/** One of some, or all: what a list is narrowed to, kept in the address. */
const props = defineProps<{
  /** Under which name it stands in the address. */
  name: string
  /** What is chosen, for whoever cannot see it. */
  label: string
  /** What stands for all. */
  all: string
  choices: { id: string; name: string }[]
  /** How the address is changed, where a page has more to do then. */
  change?: (part: Record<string, string | undefined>) => unknown
}>()
const address = useAddress()
const choose = (event: Event) =>
  (props.change ?? address.set)({
    [props.name]: (event.target as HTMLSelectElement).value || undefined,
  })
</script>

<template>
  <select class="field max-w-40" :aria-label="label" :value="address.query(name)" @change="choose">
    <option value="">{{ all }}</option>
    <option v-for="c in choices" :key="c.id" :value="c.id">{{ c.name }}</option>
  </select>
</template>
