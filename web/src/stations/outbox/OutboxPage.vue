<script setup lang="ts">
import { t } from '@/wording'
import { useQuery } from '@pinia/colada'
import { computed, ref, watch } from 'vue'
import { api, take } from '@/api/client'
import { useAddress } from '@/shell/address'
import { counted } from '@/shell/counted'
import FilterBar from '@/shell/FilterBar.vue'
import FilterChoice from '@/shell/FilterChoice.vue'
import ListFoot from '@/shell/ListFoot.vue'
import type { RowAct } from '@/shell/rowActs'
import RowMenu from '@/shell/RowMenu.vue'
import { useRows } from '@/shell/rows'
import { who } from '@/shell/who'
import StatePanel from '@/shell/StatePanel.vue'
import { fullTime, shortTime } from '@/shell/times'

/** What was written to people, as they read it. The mail service is a stand-in and keeps it here. */
const { query, set, clear, days, isNarrowedBy } = useAddress()
const about = computed(() => query('about'))
const filter = computed(() => ({
  about: about.value,
  text: query('text'),
  state: query('state'),
  ...days.value,
}))
const isNarrowed = computed(() => isNarrowedBy('about', 'state'))
const { data, error, refetch } = useQuery({
  key: () => ['outbox', JSON.stringify(filter.value)],
  query: () => take(api.GET('/api/outbox', { params: { query: filter.value } })),
})
type Message = NonNullable<typeof data.value>[number]
const chosen = computed(
  () => data.value?.find((m) => String(m.id) === query('message')) ?? data.value?.[0],
)
const open = (m: Message) => set({ message: String(m.id) })
const { cursor, look } = useRows({
  name: 'message',
  rows: () => data.value ?? [],
  opened: () => data.value?.findIndex((m) => m.id === chosen.value?.id) ?? -1,
})
watch(cursor, (row) => {
  const at = data.value?.[row]
  if (at) void open(at)
})
/** The most that is read at once. */
const most = 500
const side = ref<'text' | 'calendar'>('text')
const states: Record<string, string> = {
  kept: t('outbox.keptHereSentNowhere'),
  waiting: t('outbox.waitsToBeSent'),
  sent: t('outbox.sent'),
  failed: t('outbox.couldNotBeSent'),
}
function acts(m: Message): RowAct[] {
  return [
    { name: t('outbox.asMailRFC5322'), file: `/api/outbox/${m.id}/mail` },
    { name: t('outbox.allToThem'), act: () => void set({ text: m.to, message: undefined }) },
    { name: t('outbox.allAboutTheSame'), act: () => void set({ about: m.about }) },
  ]
}
</script>

<template>
  <div class="flex h-full flex-col">
    <FilterBar :words="t('outbox.addressOrSubject')" :days="t('outbox.written')">
      <FilterChoice
        name="state"
        :label="t('outbox.howItStands')"
        :all="t('outbox.howeverItStands')"
        :choices="Object.entries(states).map(([id, name]) => ({ id, name }))"
      />
      <span v-if="about" class="text-soft">{{
        t('outbox.aboutReplace', { replace: about.replace(':', ' ') })
      }}</span>
      <RouterLink v-if="about" class="link" to="/outbox">{{ t('outbox.all') }}</RouterLink>
      <template #acts
        ><span class="text-soft">{{ t('outbox.keptByTheStandInForA') }}</span></template
      >
    </FilterBar>
    <h1 class="hidden-label">{{ t('outbox.messagesThatWentOut') }}</h1>
    <StatePanel v-if="error" state="failed" :problem="error" @retry="refetch()" />
    <StatePanel v-else-if="!data" state="loading" />
    <StatePanel
      v-else-if="!data.length && isNarrowed"
      state="empty"
      :title="t('outbox.noMessageIsLikeThat')"
    >
      <button class="link" @click="clear()">{{ t('shell.showAllAgain') }}</button>
    </StatePanel>
    <StatePanel v-else-if="!data.length" state="empty" :title="t('outbox.nothingHasGoneOut')">
      {{ t('outbox.invitationsStandHereAndWhatPublishing') }}
    </StatePanel>
    <div v-else class="grid min-h-0 flex-1 grid-cols-[24rem_1fr] narrow:block narrow:overflow-auto">
      <ul class="overflow-auto border-r border-line">
        <li
          v-for="(m, i) in data"
          :id="`message-${i}`"
          :key="m.id"
          class="flex items-start border-b border-hair pr-3"
          :class="look(i)"
        >
          <button
            class="min-w-0 flex-1 py-2 pr-1 pl-5 text-left"
            :aria-pressed="m.id === chosen?.id"
            @click="open(m)"
          >
            <span class="value flex justify-between gap-2"
              ><span class="truncate">{{ m.to }}</span>
              <span class="text-soft whitespace-nowrap" :title="fullTime(m.at)">{{
                shortTime(m.at)
              }}</span></span
            >
            {{ m.subject }}
          </button>
          <RowMenu class="mt-2" :of="m.subject" :acts="acts(m)" />
        </li>
      </ul>
      <article v-if="chosen" class="overflow-auto px-6 py-4">
        <h2 class="text-base font-bold">{{ chosen.subject }}</h2>
        <p class="text-soft">
          {{
            t('outbox.toToWrittenByWrittenBy', { to: chosen.to, writtenBy: who(chosen.writtenBy) })
          }}
          <a class="link" :href="`/api/outbox/${chosen.id}/mail`">{{
            t('outbox.asMailRFC5322')
          }}</a>
        </p>
        <p :class="chosen.state === 'failed' ? 'text-rust' : 'text-soft'">
          {{ states[chosen.state] ?? chosen.state
          }}{{ chosen.trouble ? `: ${chosen.trouble}` : '' }}
        </p>
        <p v-if="chosen.calendar" class="mt-2 flex gap-3">
          <button type="button" class="link" :aria-pressed="side === 'text'" @click="side = 'text'">
            {{ t('outbox.message') }}
          </button>
          <button
            type="button"
            class="link"
            :aria-pressed="side === 'calendar'"
            @click="side = 'calendar'"
          >
            {{ t('outbox.calendarPart') }}
          </button>
        </p>
        <pre
          class="mt-3 max-w-prose whitespace-pre-wrap break-words"
          :class="side === 'calendar' && chosen.calendar ? 'value' : 'font-sans'"
          >{{ side === 'calendar' && chosen.calendar ? chosen.calendar : chosen.body }}</pre>
      </article>
    </div>
    <ListFoot
      v-if="data?.length"
      :count="
        data.length < most
          ? counted(data.length, 'message')
          : t('outbox.theNewestMessages', { most })
      "
    />
  </div>
</template>
