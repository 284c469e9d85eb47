<script setup lang="ts">
import { t } from '@/wording'
import { Listbox, ListboxButton, ListboxOption, ListboxOptions } from '@headlessui/vue'
import { computed } from 'vue'
import type { Overview } from '@/api/schema'
import { layerOf, type Rulebook } from './book'

/** The layers: those with rules beside each other, all of them, units as a tree, in a list. */
const props = defineProps<{ book: Rulebook; organisation: Overview; layer: string }>()
const emit = defineEmits<{ choose: [layer: string] }>()

interface Entry {
  key: string
  name: string
  depth: number
  rules: number
}

const rulesIn = (key: string) => {
  const layer = layerOf(props.book, key)
  return (layer?.rules.length ?? 0) + (layer?.guarantees?.length ?? 0)
}

const entries = computed<Entry[]>(() => {
  const entry = (key: string, name: string, depth: number) => ({
    key,
    name,
    depth,
    rules: rulesIn(key),
  })
  const tree = (parent: string | null, depth: number): Entry[] =>
    props.organisation.units
      .filter((u) => (u.parent ?? null) === parent)
      .flatMap((u) => [entry(`unit:${u.id}`, u.name, depth), ...tree(u.id, depth + 1)])
  return [
    entry('organisation', t('rulebook.organisation'), 0),
    ...tree(null, 0),
    ...props.organisation.kinds.map((k) => entry(`kind:${k.id}`, k.name, 0)),
  ]
})
const most = 6
const tabs = computed(() => {
  const here = entries.value.find((e) => e.key === props.layer)
  const some = entries.value.filter((e) => e.key === 'organisation' || e.rules).slice(0, most)
  return here && !some.includes(here) ? [...some.slice(0, most - 1), here] : some
})
const more = computed(() => entries.value.length - tabs.value.length)
const level = (key: string) => key.split(':')[0]
</script>

<template>
  <div
    class="flex min-w-0 flex-wrap items-stretch gap-x-3.5"
    role="group"
    :aria-label="t('rulebook.layers')"
  >
    <button
      v-for="tab in tabs"
      :key="tab.key"
      class="whitespace-nowrap border-b-[3px] pt-[3px]"
      :class="tab.key === layer ? 'border-ink font-bold' : 'border-transparent hover:text-sea'"
      :aria-pressed="tab.key === layer"
      :title="t('rulebook.nameRulesRulesAndGuarantees', { name: tab.name, rules: tab.rules })"
      @click="emit('choose', tab.key)"
    >
      {{ tab.name }}
    </button>
    <Listbox
      :model-value="layer"
      as="div"
      class="relative flex"
      @update:model-value="emit('choose', $event)"
    >
      <ListboxButton
        class="whitespace-nowrap text-soft hover:text-sea"
        :aria-label="t('rulebook.moreMoreAllLayers', { more })"
        >{{ t('rulebook.moreMore', { more }) }}</ListboxButton
      >
      <ListboxOptions
        class="absolute left-0 top-full z-30 max-h-96 w-64 overflow-auto border border-ink bg-sheet py-1 outline-none"
      >
        <template v-for="(entry, i) in entries" :key="entry.key">
          <li
            v-if="i > 0 && level(entry.key) !== level(entries[i - 1]?.key ?? '')"
            class="mt-1 border-t border-hair px-3 pt-1 text-[12px] text-soft"
            role="presentation"
          >
            {{ level(entry.key) === 'unit' ? t('rulebook.units') : t('rulebook.kinds') }}
          </li>
          <ListboxOption v-slot="{ active, selected }" :value="entry.key" as="template">
            <li
              class="flex cursor-pointer justify-between py-1 pr-3"
              :class="[active ? 'bg-sea-wash' : '', selected ? 'font-bold' : '']"
              :style="{ paddingLeft: `${12 + entry.depth * 16}px` }"
            >
              {{ entry.name }} <span class="value text-soft">{{ entry.rules || '' }}</span>
            </li>
          </ListboxOption>
        </template>
      </ListboxOptions>
    </Listbox>
  </div>
</template>
