<script setup lang="ts">
import { t } from '@/wording'
import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/vue'
import { ref } from 'vue'
import type { RowAct } from './rowActs'

/** What can be done with a row; the key . opens it at the row that one is at. */
defineProps<{
  /** What the row is of, so that every menu has a name of its own. */
  of: string
  acts: RowAct[]
}>()
const at = ref({ top: '0', right: '0' })
/** It lies over the list, which is scrolled and cuts off what reaches out of it. */
function place(event: Event) {
  const button = (event.currentTarget as HTMLElement).getBoundingClientRect()
  const room = window.innerHeight - button.bottom
  at.value = {
    top: room < 250 ? `${Math.max(8, button.top - 242)}px` : `${button.bottom + 2}px`,
    right: `${Math.max(8, window.innerWidth - button.right)}px`,
  }
}
</script>

<template>
  <Menu v-if="acts.length" as="span" class="inline-block" @click.stop>
    <MenuButton
      data-row-menu
      class="px-1.5 leading-none text-soft hover:text-ink"
      :aria-label="t('shell.actsOf', { of })"
      @click="place"
      @keydown="place"
      ><span aria-hidden="true">⋯</span></MenuButton
    >
    <MenuItems
      class="fixed z-30 max-h-[240px] w-60 overflow-auto border border-ink bg-sheet py-1 text-left font-normal whitespace-normal text-ink outline-none"
      :style="at"
    >
      <MenuItem v-for="a in acts" :key="a.name" v-slot="{ active }">
        <RouterLink
          v-if="a.to"
          :to="a.to"
          class="block px-3 py-1.5"
          :class="active ? 'bg-sea-wash' : ''"
          >{{ a.name }}</RouterLink
        >
        <a
          v-else-if="a.file"
          :href="a.file"
          download
          class="block px-3 py-1.5"
          :class="active ? 'bg-sea-wash' : ''"
          >{{ a.name }}</a
        >
        <button
          v-else
          type="button"
          class="block w-full px-3 py-1.5 text-left"
          :class="active ? 'bg-sea-wash' : ''"
          @click="a.act?.()"
        >
          {{ a.name }}
        </button>
      </MenuItem>
    </MenuItems>
  </Menu>
</template>
