<script setup lang="ts">
import { t } from '@/wording'
import { useRoute } from 'vue-router'

/** The parts of the station, in the order in which an audit is worked off. */
const route = useRoute()
const parts = [
  { path: '/audit', name: t('audit.wall') },
  { path: '/audit/compare', name: t('audit.compare') },
  { path: '/audit/trends', name: t('audit.trends') },
  { path: '/audit/remedies', name: t('audit.remedies') },
  { path: '/audit/requests', name: t('audit.asked') },
  { path: '/audit/waivers', name: t('audit.waivers') },
  { path: '/audit/runs', name: t('audit.runs') },
]
const here = (path: string) =>
  path === '/audit' ? /^\/audit(\/\d+)?$/.test(route.path) : route.path.startsWith(path)
</script>

<template>
  <nav class="flex flex-wrap items-center gap-x-4" :aria-label="t('audit.partsOfTheAudit')">
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
