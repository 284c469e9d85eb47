<script setup lang="ts">
import { t } from '@/wording'
import { useQuery } from '@pinia/colada'
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import { api, take } from '@/api/client'
import { useSession } from '@/api/session'
import TallyMark from '@/marks/TallyMark.vue'

/** What stands open in sessions, quietly, on every page but that session's own. */
const session = useSession()
const route = useRoute()
const { data } = useQuery({
  key: ['floor', 'alerts'],
  query: () => take(api.GET('/api/floor/alerts')),
  enabled: () => ['warden', 'unit-warden', 'auditor', 'host'].includes(session.who?.role ?? ''),
})
const worst = computed(() => data.value?.worst[0])
const others = computed(() => (data.value?.count ?? 0) - 1)
const isHere = computed(() => !!worst.value && route.path === `/floor/${worst.value.session}`)
</script>

<template>
  <p
    v-if="worst && !isHere"
    role="status"
    class="flex shrink-0 items-center gap-3 border-b border-rust bg-rust-wash px-5 py-1"
  >
    <TallyMark :severity="worst.severity" class="shrink-0" />
    <span class="min-w-0 flex-1 truncate" :title="worst.words"
      ><strong dir="auto">{{ worst.title }}</strong> · {{ worst.words }}</span
    >
    <RouterLink v-if="others > 0" class="link shrink-0" to="/floor">{{
      t('shell.othersMoreInSessions', { others })
    }}</RouterLink>
    <RouterLink class="link shrink-0" :to="`/floor/${worst.session}`">{{
      t('shell.toTheSession')
    }}</RouterLink>
  </p>
</template>
