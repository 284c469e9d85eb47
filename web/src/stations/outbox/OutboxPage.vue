<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, take } from '@/api/client'
import StatePanel from '@/shell/StatePanel.vue'
import { fullTime } from '@/shell/times'

/** What was written to people, as they read it. The mail service is a stand-in and keeps it here. */
const route = useRoute()
const router = useRouter()
const about = computed(() => String(route.query.about ?? ''))
const { data, error, refetch } = useQuery({
  key: () => ['outbox', about.value],
  query: () => take(api.GET('/api/outbox', { params: { query: { about: about.value } } })),
})
const chosen = computed(
  () => data.value?.find((m) => String(m.id) === route.query.message) ?? data.value?.[0],
)
const side = ref<'text' | 'calendar'>('text')
const states: Record<string, string> = {
  kept: 'kept here, sent nowhere',
  waiting: 'waits to be sent',
  sent: 'sent',
  failed: 'could not be sent',
}
</script>

<template>
  <div class="flex h-full flex-col">
    <div class="flex min-h-11 shrink-0 items-center gap-3 border-b border-line px-5">
      <h1 class="head">Messages that went out</h1>
      <span v-if="about" class="text-soft">about {{ about.replace(':', ' ') }}</span>
      <RouterLink v-if="about" class="link" to="/outbox">all</RouterLink>
      <span class="ml-auto text-soft">kept by the stand-in for a mail service</span>
    </div>
    <StatePanel v-if="error" state="failed" :problem="error" @retry="refetch()" />
    <StatePanel v-else-if="!data" state="loading" />
    <StatePanel v-else-if="!data.length" state="empty" title="Nothing has gone out">
      Invitations stand here, and what publishing an edition writes to hosts.
    </StatePanel>
    <div v-else class="grid min-h-0 flex-1 grid-cols-[24rem_1fr] narrow:block narrow:overflow-auto">
      <ul class="overflow-auto border-r border-line">
        <li v-for="m in data" :key="m.id" class="border-b border-hair">
          <button
            class="w-full px-5 py-2 text-left"
            :class="m.id === chosen?.id ? 'bg-sheet' : 'hover:bg-sheet'"
            :aria-pressed="m.id === chosen?.id"
            @click="router.replace({ query: { ...route.query, message: m.id } })"
          >
            <span class="value flex justify-between gap-2"
              ><span class="truncate">{{ m.to }}</span>
              <span class="text-soft">{{ fullTime(m.at) }}</span></span
            >
            {{ m.subject }}
          </button>
        </li>
      </ul>
      <article v-if="chosen" class="overflow-auto px-6 py-4">
        <h2 class="text-base font-bold">{{ chosen.subject }}</h2>
        <p class="text-soft">
          to {{ chosen.to }} · written by {{ chosen.writtenBy }} ·
          <a class="link" :href="`/api/outbox/${chosen.id}/mail`">as mail (RFC 5322)</a>
        </p>
        <p :class="chosen.state === 'failed' ? 'text-rust' : 'text-soft'">
          {{ states[chosen.state] ?? chosen.state
          }}{{ chosen.trouble ? `: ${chosen.trouble}` : '' }}
        </p>
        <p v-if="chosen.calendar" class="mt-2 flex gap-3">
          <button type="button" class="link" :aria-pressed="side === 'text'" @click="side = 'text'">
            message
          </button>
          <button
            type="button"
            class="link"
            :aria-pressed="side === 'calendar'"
            @click="side = 'calendar'"
          >
            calendar part
          </button>
        </p>
        <pre
          class="mt-3 max-w-prose whitespace-pre-wrap break-words"
          :class="side === 'calendar' && chosen.calendar ? 'value' : 'font-sans'"
          >{{ side === 'calendar' && chosen.calendar ? chosen.calendar : chosen.body }}</pre>
      </article>
    </div>
  </div>
</template>
