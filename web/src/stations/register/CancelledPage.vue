<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, take } from '@/api/client'
import { useSession } from '@/api/session'
import StatePanel from '@/shell/StatePanel.vue'
import { fullTime } from '@/shell/times'
import HistoryPart from './HistoryPart.vue'

/** Meetings that were cancelled, each with its versions to put back. */
const router = useRouter()
const session = useSession()
const { data, error, refetch } = useQuery({
  key: ['meetings', 'cancelled'],
  query: () => take(api.GET('/api/meetings/cancelled')),
})
const shown = ref<string | null>(null)
</script>

<template>
  <div class="h-full overflow-auto px-5 py-4">
    <p><RouterLink class="link" to="/register">Register</RouterLink></p>
    <h1 class="mt-1 text-xl font-bold">Cancelled meetings</h1>
    <StatePanel v-if="error" state="failed" :problem="error" @retry="refetch()" />
    <StatePanel v-else-if="!data" state="loading" />
    <StatePanel v-else-if="!data.length" state="empty" title="Nothing was cancelled" />
    <ul v-else class="mt-3 max-w-3xl">
      <li v-for="c in data" :key="c.id" class="border-b border-hair py-1.5">
        <div class="flex items-baseline gap-3">
          <strong dir="auto">{{ c.title }}</strong>
          <span class="text-soft">{{ c.host }}</span>
          <span class="ml-auto text-soft">{{ fullTime(c.at) }} by {{ c.by }}</span>
          <button
            type="button"
            class="link"
            :aria-expanded="shown === c.id"
            :aria-label="`Versions of ${c.title}`"
            @click="shown = shown === c.id ? null : c.id"
          >
            versions
          </button>
        </div>
        <HistoryPart
          v-if="shown === c.id"
          :id="c.id"
          class="ml-6"
          :may-change="session.maySchedule"
          @restored="router.push(`/register/${encodeURIComponent(c.id)}`)"
        />
      </li>
    </ul>
  </div>
</template>
