<script setup lang="ts">
import { watchDebounced } from '@vueuse/core'
import { ref, watch } from 'vue'
import { useAddress } from './address'
import DaysField from './DaysField.vue'

/**
 * Above a list: words to find in it, days, whatever else narrows it, and its acts. What is chosen
 * stands in the address as `text`, `from` and `to`.
 */
const props = defineProps<{
  /** In which fields the words are looked for. */
  words: string
  /** What of a row the days are of; left out where it has none. */
  days?: string
  /** How the address is changed, where a page has more to do then. */
  change?: (part: Record<string, string | undefined>) => unknown
}>()
const address = useAddress()
const { query } = address
const set = (part: Record<string, string | undefined>) => (props.change ?? address.set)(part)
const text = ref(query('text'))
let sent = text.value
watch(
  () => query('text'),
  (now) => {
    if (now !== sent) text.value = sent = now
  },
)
watchDebounced(
  text,
  (now) => {
    if (now.trim() === sent) return
    sent = now.trim()
    set({ text: sent || undefined })
  },
  { debounce: 250 },
)
</script>

<template>
  <form
    class="flex min-h-11 shrink-0 flex-wrap items-center gap-x-3 gap-y-1.5 border-b border-line px-5 py-1.5 phone:px-3"
    @submit.prevent
  >
    <input
      v-model="text"
      data-filter
      class="field w-44"
      type="search"
      :placeholder="words"
      :aria-label="words"
    />
    <slot />
    <DaysField v-if="days" :from="query('from')" :to="query('to')" :of="days" @set="set" />
    <span class="ml-auto flex flex-wrap items-center gap-x-3 gap-y-1.5"><slot name="acts" /></span>
  </form>
</template>
