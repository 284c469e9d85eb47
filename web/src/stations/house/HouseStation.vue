<script setup lang="ts">
import { t } from '@/wording'
import AccountsPart from './AccountsPart.vue'
import AlertsPart from './AlertsPart.vue'
import CalendarsPart from './CalendarsPart.vue'
import ConferencePart from './ConferencePart.vue'
import DirectoryPart from './DirectoryPart.vue'
import KeepingPart from './KeepingPart.vue'
import ServicePart from './ServicePart.vue'
import TokensPart from './TokensPart.vue'

/** Who may enter, what programs may do, how long things are kept, and how the service is. */
defineProps<{ part?: string }>()
const parts = [
  { id: 'accounts', name: t('house.accounts') },
  { id: 'tokens', name: t('house.accessTokens') },
  { id: 'directory', name: t('house.directory') },
  { id: 'conference', name: t('house.conferenceServices') },
  { id: 'calendars', name: t('house.calendars') },
  { id: 'alerts', name: t('house.alerts') },
  { id: 'keeping', name: t('house.retention') },
  { id: 'service', name: t('house.theService') },
]
</script>

<template>
  <div class="flex h-full flex-col">
    <nav
      class="flex shrink-0 flex-wrap items-center gap-x-6 border-b border-line px-5 py-1.5"
      :aria-label="t('house.partsOfTheHouse')"
    >
      <RouterLink
        v-for="p in parts"
        :key="p.id"
        :to="`/house/${p.id}`"
        class="text-soft hover:text-ink"
        :class="p.id === (part || 'accounts') ? '!text-ink font-bold' : ''"
        >{{ p.name }}</RouterLink
      >
    </nav>
    <div class="min-h-0 flex-1 overflow-auto px-5 py-4 phone:px-3">
      <TokensPart v-if="part === 'tokens'" />
      <DirectoryPart v-else-if="part === 'directory'" />
      <ConferencePart v-else-if="part === 'conference'" />
      <CalendarsPart v-else-if="part === 'calendars'" />
      <AlertsPart v-else-if="part === 'alerts'" />
      <KeepingPart v-else-if="part === 'keeping'" />
      <ServicePart v-else-if="part === 'service'" />
      <AccountsPart v-else />
    </div>
  </div>
</template>
