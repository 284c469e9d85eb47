<script setup lang="ts">
import { t } from '@/wording'
import { useQuery } from '@pinia/colada'
import { api, take } from '@/api/client'
import { useSession } from '@/api/session'
import TallyMark from '@/marks/TallyMark.vue'
import { shortTime } from '@/shell/times'

/** What is wrong with conference services themselves, above what is found in their meetings. */
const session = useSession()
const { data } = useQuery({
  key: ['services', 'notices'],
  query: () => take(api.GET('/api/services/notices')),
  enabled: () => session.isWarden || session.who?.role === 'auditor',
})
</script>

<template>
  <ul v-if="data?.length" :aria-label="t('house.conferenceServices')">
    <li
      v-for="n in data"
      :key="n.service + n.check"
      class="flex items-baseline gap-2 border-b border-hair bg-sand-wash px-5 py-1"
    >
      <TallyMark :severity="n.severity" class="shrink-0 self-center" />
      <span class="min-w-0"
        >{{ n.text
        }}<span v-if="n.since" class="text-soft">
          {{ t('house.sinceSince2', { since: shortTime(n.since) }) }}</span
        ></span
      >
      <RouterLink class="link ml-auto shrink-0" to="/house/conference">{{
        t('house.seeTheService')
      }}</RouterLink>
    </li>
  </ul>
</template>
