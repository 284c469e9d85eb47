<script setup lang="ts">
/** The parts of the directory. */
const parts = [
  { path: '/people', name: 'People' },
  { path: '/people/groups/lists', name: 'Lists' },
  { path: '/people/groups/spaces', name: 'Spaces' },
  { path: '/people/groups/rooms', name: 'Rooms' },
  { path: '/people/groups/house', name: 'Units, kinds and partners' },
]
</script>

<template>
  <nav
    class="flex shrink-0 items-center gap-6 border-b border-line px-5 py-1.5"
    aria-label="Parts of the directory"
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
