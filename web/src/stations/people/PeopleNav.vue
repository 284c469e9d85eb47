<script setup lang="ts">
import { t } from '@/wording'
/** The parts of the directory. */
const parts = [
  { path: '/people', name: t('people.people') },
  { path: '/people/groups/lists', name: t('people.lists') },
  { path: '/people/groups/spaces', name: t('people.spaces') },
  { path: '/people/groups/rooms', name: t('people.rooms') },
  { path: '/people/groups/house', name: t('people.unitsKindsAndPartners') },
]
</script>

<template>
  <nav
    class="flex shrink-0 flex-wrap items-center gap-x-6 gap-y-1 border-b border-line px-5 py-1.5"
    :aria-label="t('people.partsOfTheDirectory')"
  >
    <RouterLink
      v-for="p in parts"
      :key="p.path"
      :to="p.path"
      class="text-soft hover:text-ink"
      exact-active-class="!text-ink font-bold"
      >{{ p.name }}</RouterLink
    >
  </nav>
</template>
