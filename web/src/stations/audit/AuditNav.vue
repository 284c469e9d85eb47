<script setup lang="ts">
import { useRoute } from 'vue-router'

/** The parts of the station, in the order in which an audit is worked off. */
const route = useRoute()
const parts = [
  { path: '/audit', name: 'Wall' },
  { path: '/audit/compare', name: 'Compare' },
  { path: '/audit/trends', name: 'Trends' },
  { path: '/audit/remedies', name: 'Remedies' },
  { path: '/audit/requests', name: 'Asked' },
  { path: '/audit/waivers', name: 'Waivers' },
  { path: '/audit/runs', name: 'Runs' },
]
const here = (path: string) =>
  path === '/audit' ? /^\/audit(\/\d+)?$/.test(route.path) : route.path.startsWith(path)
</script>

<template>
  <nav class="flex flex-wrap items-center gap-x-4" aria-label="Parts of the audit">
    <RouterLink
      v-for="p in parts"
      :key="p.path"
      :to="p.path"
      class="border-b-2"
      :class="here(p.path) ? 'border-ink font-bold' : 'border-transparent text-soft hover:text-ink'"
      :aria-current="here(p.path) ? 'page' : undefined"
      >{{ p.name }}</RouterLink
    >
  </nav>
</template>
