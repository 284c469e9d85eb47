<script setup lang="ts">
import { t } from '@/wording'
import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/vue'
import { usualPaper } from './paper'

/** An audit to take away. */
defineProps<{ audit: number }>()
const all = [
  { as: 'pdf&paper=a4', name: t('audit.reportForManagementA4'), ending: 'PDF' },
  { as: 'pdf&paper=letter', name: t('audit.reportForManagementLetter'), ending: 'PDF' },
  { as: 'csv', name: t('audit.findingsAsATable'), ending: 'CSV' },
  { as: 'json', name: t('audit.findingsForPrograms'), ending: 'JSON' },
  { as: 'sarif', name: t('audit.findingsForOtherTools'), ending: 'SARIF' },
  { as: 'evidence', name: t('audit.evidenceForAnAuditor'), ending: 'ZIP' },
]
// the paper of one's own country first
const forms =
  usualPaper() === 'a4' ? all : [...all.slice(1, 2), ...all.slice(0, 1), ...all.slice(2)]
</script>

<template>
  <Menu as="div" class="relative">
    <MenuButton class="button">{{ t('audit.report') }}</MenuButton>
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
