<script setup lang="ts">
import { t } from '@/wording'
import { useQuery } from '@pinia/colada'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, take } from '@/api/client'
import { useSession } from '@/api/session'
import { useAddress } from '@/shell/address'
import { counted } from '@/shell/counted'
import FilterBar from '@/shell/FilterBar.vue'
import ListFoot from '@/shell/ListFoot.vue'
import type { RowAct } from '@/shell/rowActs'
import RowMenu from '@/shell/RowMenu.vue'
import { holds, isWithin, useRows } from '@/shell/rows'
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
const { query, clear, days } = useAddress()
const rows = computed(() =>
  (data.value ?? []).filter(
    (c) => holds(query('text'), c.title, c.host, c.by) && isWithin(c.at, days.value),
  ),
)
const toggle = (id: string) => (shown.value = shown.value === id ? null : id)
const { cursor, look } = useRows({
  name: 'cancelled',
  rows: () => rows.value,
  open: (c) => toggle(c.id),
})
function acts(c: { id: string; host: string }): RowAct[] {
  const all: RowAct[] = [{ name: t('register.versions'), act: () => toggle(c.id) }]
  if (session.seesAll)
    all.push(
      { name: t('register.allOfItsHost'), to: { path: '/register', query: { host: c.host } } },
      {
        name: t('register.whatWasDoneWithIt'),
        to: { path: '/ledger', query: { object: 'meeting', objectId: c.id } },
      },
    )
  return all
}
</script>

<template>
  <div class="flex h-full flex-col">
    <p class="px-5 pt-4">
      <RouterLink class="link" to="/register">{{ t('register.register') }}</RouterLink>
    </p>
    <h1 class="mt-1 px-5 pb-2 text-xl font-bold">{{ t('register.cancelledMeetings') }}</h1>
    <FilterBar :words="t('register.titleHostOrByWhom')" :days="t('register.cancelledOn')" />
    <StatePanel v-if="error" state="failed" :problem="error" @retry="refetch()" />
    <StatePanel v-else-if="!data" state="loading" />
    <StatePanel v-else-if="!data.length" state="empty" :title="t('register.nothingWasCancelled')" />
    <StatePanel v-else-if="!rows.length" state="empty" :title="t('register.noMeetingIsLikeThat')">
      <button class="link" @click="clear()">{{ t('shell.showAllAgain') }}</button>
    </StatePanel>
    <ul v-else class="min-h-0 flex-1 overflow-auto">
      <li
        v-for="(c, i) in rows"
        :id="`cancelled-${i}`"
        :key="c.id"
        class="border-b border-hair px-5 py-1.5"
        :class="look(i)"
      >
        <div class="flex flex-wrap items-baseline gap-x-3">
          <strong dir="auto">{{ c.title }}</strong>
          <span class="text-soft">{{ c.host }}</span>
          <span class="ml-auto text-soft">{{
            t('register.atByBy', { at: fullTime(c.at), by: c.by })
          }}</span>
          <button
            type="button"
            class="link"
            :aria-expanded="shown === c.id"
            :aria-label="t('register.versionsOfTitle', { title: c.title })"
            @focus="cursor = i"
            @click="toggle(c.id)"
          >
            {{ t('register.versions') }}
          </button>
          <RowMenu :of="c.title" :acts="acts(c)" />
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
    <ListFoot v-if="data" :count="counted(rows.length, 'meeting')" opens />
  </div>
</template>
