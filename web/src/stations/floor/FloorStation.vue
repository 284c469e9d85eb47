<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, take } from '@/api/client'
import { useSession } from '@/api/session'
import TallyMark from '@/marks/TallyMark.vue'
import { useKeys } from '@/shell/keys'
import StatePanel from '@/shell/StatePanel.vue'
import { shortTime } from '@/shell/times'
import { fromStart } from './floor'
import LockdownPart from './LockdownPart.vue'
import PracticeDialog from './PracticeDialog.vue'
import { useNow } from './useNow'

/** Sessions in progress, those with alerts first, and those that are over. */
const route = useRoute()
const router = useRouter()
const session = useSession()
const { data, error, refetch } = useQuery({
  key: ['floor', 'sessions'],
  query: () => take(api.GET('/api/floor/sessions')),
})
const { now } = useNow()
const running = computed(() =>
  [...(data.value?.running ?? [])].sort(
    (a, b) => b.worst - a.worst || b.door - a.door || a.starts.localeCompare(b.starts),
  ),
)
const rows = computed(() => [...running.value, ...(data.value?.over ?? [])])
const cursor = ref(0)
// a meeting's own page leads here with it
const practising = ref(false)
const practised = ref('')
watch(
  () => route.query.practise,
  (wanted) => {
    if (wanted === undefined) return
    practised.value = String(wanted ?? '')
    practising.value = true
    router.replace({ query: { ...route.query, practise: undefined } })
  },
  { immediate: true },
)
const move = (by: number) => {
  cursor.value = Math.min(rows.value.length - 1, Math.max(0, cursor.value + by))
  document.getElementById(`session-${cursor.value}`)?.scrollIntoView({ block: 'nearest' })
}
const open = (id?: string) => id && router.push(`/floor/${id}`)
useKeys([
  { key: 'j', does: 'next session', act: () => move(1) },
  { key: 'k', does: 'session before', act: () => move(-1) },
  { key: 'Enter', does: 'open', act: () => open(rows.value[cursor.value]?.id) },
  { key: 'p', does: 'practise', act: () => (practising.value = true) },
])
</script>

<template>
  <StatePanel v-if="error && !data" state="failed" :problem="error" @retry="refetch()" />
  <StatePanel v-else-if="!data" state="loading" />
  <div v-else class="flex h-full flex-col">
    <div
      class="flex min-h-11 shrink-0 flex-wrap items-center gap-x-4 gap-y-1 border-b border-line px-5 py-1.5"
    >
      <h1 class="head">Sessions</h1>
      <span class="text-soft">{{ running.length }} in progress</span>
      <LockdownPart class="ml-auto" :running="running" />
      <button v-if="!session.isAuditor" class="button button-main" @click="practising = true">
        Practise a session
      </button>
    </div>
    <StatePanel v-if="!rows.length" state="empty" title="No session is in progress">
      Sessions appear as their meetings begin. Practise one to see how it goes when strangers come.
    </StatePanel>
    <div v-else class="min-h-0 flex-1 overflow-auto">
      <table class="grid-lines w-full table-fixed narrow:table-auto">
        <colgroup>
          <col />
          <col class="w-52 narrow:!w-auto" />
          <col class="w-40 narrow:!w-auto" />
          <col class="w-24 narrow:!w-auto" />
          <col class="w-24 narrow:!w-auto" />
          <col class="w-24 narrow:!w-auto" />
          <col class="w-44 narrow:!w-auto" />
          <col class="w-40 narrow:!w-auto" />
        </colgroup>
        <thead>
          <tr>
            <th scope="col" class="!pl-5">Meeting</th>
            <th scope="col" class="narrow:hidden">Host</th>
            <th scope="col">Clock</th>
            <th scope="col" class="text-right">At the door</th>
            <th scope="col" class="text-right">Inside</th>
            <th scope="col" class="!pr-5 text-right narrow:hidden">Out</th>
            <th scope="col" class="narrow:hidden">Door</th>
            <th scope="col">Alerts</th>
          </tr>
        </thead>
        <tbody>
          <template v-for="(s, i) in rows" :key="s.id">
            <tr v-if="i === running.length">
              <th colspan="8" class="!pl-5 pt-4">Over</th>
            </tr>
            <tr
              :id="`session-${i}`"
              class="cursor-pointer"
              :class="i === cursor ? 'bg-sea-wash' : ''"
              @click="open(s.id)"
            >
              <td class="truncate !pl-5 narrow:!pl-3 narrow:whitespace-normal">
                <RouterLink class="head" dir="auto" :to="`/floor/${s.id}`">{{
                  s.title
                }}</RouterLink>
                <span v-if="s.practice" class="ml-2 text-soft">practice</span>
              </td>
              <td class="value truncate narrow:hidden">{{ s.host.split('@')[0] }}</td>
              <td class="value">
                <template v-if="i < running.length">{{
                  s.state === 'asked' ? 'not open yet' : fromStart(s, now(s))
                }}</template>
                <template v-else>{{
                  s.state === 'lost' ? 'broken off' : s.practice ? 'over' : shortTime(s.clock)
                }}</template>
              </td>
              <td class="value text-right" :class="s.door ? 'font-bold' : ''">{{ s.door }}</td>
              <td class="value text-right">{{ s.inside }}</td>
              <td class="value !pr-5 text-right narrow:hidden">{{ s.out }}</td>
              <td class="narrow:hidden">
                <template v-if="i < running.length">
                  {{ s.locked ? 'locked' : s.waitingRoom ? 'waiting room' : 'open' }}
                  <span v-if="!s.hostsIn" class="text-rust">· no host</span>
                </template>
              </td>
              <td>
                <span v-if="s.pending" class="inline-flex items-center gap-2">
                  <TallyMark :severity="s.worst" /> {{ s.pending }}
                  {{ s.pending === 1 ? 'alert' : 'alerts' }}
                </span>
              </td>
            </tr>
          </template>
        </tbody>
      </table>
    </div>
    <p class="flex shrink-0 border-t border-line px-5 py-2 text-[12.5px] text-soft">
      <strong>j k</strong>&nbsp;move ·&nbsp;<strong>↵</strong>&nbsp;open
      <template v-if="!session.isAuditor"
        >&nbsp;·&nbsp;<strong>p</strong>&nbsp;practise a session</template
      >
    </p>
    <PracticeDialog
      :open="practising"
      :begin-with="practised"
      @close="practising = false"
      @opened="open"
    />
  </div>
</template>
