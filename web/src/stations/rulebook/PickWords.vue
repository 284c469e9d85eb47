<script setup lang="ts">
import { Listbox, ListboxButton, ListboxOption, ListboxOptions } from '@headlessui/vue'
import { computed } from 'vue'
import type { Named } from '@/api/schema'
import { anyOf } from '@/shell/counted'

/** Words of a sentence that can be picked: one of a list, or several. */
const props = defineProps<{
  label: string
  options: Named[]
  picked: string[]
  several: boolean
  editable: boolean
}>()
const emit = defineEmits<{ pick: [ids: string[]] }>()

const words = computed(() =>
  anyOf(props.options.filter((o) => props.picked.includes(o.id)).map((o) => o.phrase)),
)

function pick(value: string | string[]) {
  const ids = Array.isArray(value) ? value : [value]
  // in the table's order, and never none: a sentence needs its words
  if (ids.length)
    emit(
      'pick',
      props.options.map((o) => o.id).filter((id) => ids.includes(id)),
    )
}
</script>

<template>
  <em v-if="!editable">{{ words }}</em>
  <Listbox
    v-else
    :model-value="several ? picked : picked[0]"
    :multiple="several"
    as="span"
    class="relative"
    @update:model-value="pick"
  >
    <ListboxButton
      class="border-b border-dashed border-sea text-left italic text-sea hover:bg-sea-wash"
      :aria-label="`${label}: ${words}`"
      >{{ words }}</ListboxButton
    >
    <ListboxOptions
      class="absolute left-0 top-full z-30 mt-1 max-h-72 w-80 overflow-auto border border-ink bg-sheet py-1 text-sm outline-none"
    >
      <ListboxOption
        v-for="option in options"
        :key="option.id"
        v-slot="{ active, selected }"
        :value="option.id"
        as="template"
      >
        <li class="flex cursor-pointer gap-2 px-3 py-0.5" :class="active ? 'bg-sea-wash' : ''">
          <span class="value w-3">{{ selected ? '✓' : '' }}</span>{{ option.phrase }}
        </li>
      </ListboxOption>
    </ListboxOptions>
  </Listbox>
</template>
