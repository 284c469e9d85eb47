<script setup lang="ts">
import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/vue'
import { usualPaper } from './paper'

/** An audit to take away. */
defineProps<{ audit: number }>()
const all = [
  { as: 'pdf&paper=a4', name: 'Report for management, A4', ending: 'PDF' },
  { as: 'pdf&paper=letter', name: 'Report for management, Letter', ending: 'PDF' },
  { as: 'csv', name: 'Findings as a table', ending: 'CSV' },
  { as: 'json', name: 'Findings for programs', ending: 'JSON' },
  { as: 'sarif', name: 'Findings for other tools', ending: 'SARIF' },
  { as: 'evidence', name: 'Evidence for an auditor', ending: 'ZIP' },
]
// the paper of one's own country first
const forms =
  usualPaper() === 'a4' ? all : [...all.slice(1, 2), ...all.slice(0, 1), ...all.slice(2)]
</script>

<template>
  <Menu as="div" class="relative">
    <MenuButton class="button">Report</MenuButton>
    <MenuItems class="absolute right-0 z-30 mt-1 w-72 border border-ink bg-sheet py-1 outline-none">
      <MenuItem v-for="f in forms" :key="f.as" v-slot="{ active }">
        <a
          class="flex justify-between px-3 py-1.5"
          :class="active ? 'bg-sea-wash' : ''"
          :href="`/api/audits/${audit}/report?as=${f.as}`"
          download
        >
          {{ f.name }} <span class="value text-soft">{{ f.ending }}</span>
        </a>
      </MenuItem>
    </MenuItems>
  </Menu>
</template>
