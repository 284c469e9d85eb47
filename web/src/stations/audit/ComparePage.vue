<script setup lang="ts">
import { t } from '@/wording'
import { useQuery } from '@pinia/colada'
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, take } from '@/api/client'
import TallyMark from '@/marks/TallyMark.vue'
import { useKeys } from '@/shell/keys'
import StatePanel from '@/shell/StatePanel.vue'
import { day, shortTime } from '@/shell/times'
import PartFrame from './PartFrame.vue'
import { comeReasons, driftWords, goneReasons, sidesOf } from './compare'
import { counted } from '@/shell/counted'

/** Two audits held against each other: what came, what went and why, what is still there. */
const route = useRoute()
const router = useRouter()
const query = (key: string) => String(route.query[key] ?? '')
function set(part: Record<string, string | undefined>) {
  router.replace({ query: { ...route.query, ...part } })
}
const { data: runs } = useQuery({
  key: ['audits'],
  query: () => take(api.GET('/api/audits', { params: { query: { most: 40 } } })),
})
const done = computed(() => (runs.value ?? []).filter((r) => r.state === 'done'))
/** Unless chosen: from the baseline, or else from the run before the last, to the last. */
const later = computed(() => (query('later') ? Number(query('later')) : (done.value[0]?.id ?? 0)))
const earlier = computed(() => {
  if (query('earlier')) return Number(query('earlier'))
  const others = done.value.filter((r) => r.id !== later.value)
  return others.find((r) => r.baseline)?.id ?? others[0]?.id ?? 0
})
const enabled = () => earlier.value > 0 && earlier.value !== later.value
const {
  data: compared,
  error,
  refetch,
} = useQuery({
  key: () => [later.value ? 'audits' : 'standing', 'compare', earlier.value, later.value],
  query: () =>
    take(
      api.GET('/api/audit-history/compare', {
        params: { query: { earlier: earlier.value, later: later.value } },
      }),
    ),
  enabled,
})
const side = computed(() => query('side') || 'come')
const reason = computed(() => query('reason'))
const { data: moved } = useQuery({
  key: () => [
    later.value ? 'audits' : 'standing',
    'compare',
    earlier.value,
    later.value,
    side.value,
    reason.value,
  ],
  query: () =>
    take(
      api.GET('/api/audit-history/compare/{side}', {
        params: {
          path: { side: side.value },
          query: {
            earlier: earlier.value,
            later: later.value,
            ...(reason.value ? { reason: reason.value } : {}),
            size: 200,
          },
        },
      }),
    ),
  enabled: () => enabled() && side.value !== 'drifted',
})
const sides = computed(() => (compared.value ? sidesOf(compared.value) : []))
const reasons = computed(() =>
  side.value === 'come'
    ? Object.entries(compared.value?.come ?? {})
    : side.value === 'gone'
      ? Object.entries(compared.value?.gone ?? {})
      : [],
)
const words = (r: string) => comeReasons[r] ?? goneReasons[r] ?? r
function turn(by: number) {
  const at = sides.value.findIndex((s) => s.id === side.value)
  const next = sides.value[(at + by + sides.value.length) % sides.value.length]
  if (next) set({ side: next.id, reason: undefined })
}
useKeys([
  { key: 'l', does: t('audit.nextPart'), act: () => turn(1) },
  { key: 'h', does: t('audit.previousPart'), act: () => turn(-1) },
])
const name = (r: { id: number; startedAt: string; baseline: boolean }) =>
  t('audit.auditIdStartedAtX', {
    id: r.id,
    startedAt: day(r.startedAt),
    x: r.baseline ? t('audit.baseline') : '',
  })
</script>

<template>
  <PartFrame :title="t('audit.compare')">
    <template #head>
      <label class="flex items-center gap-1.5 text-soft"
        >{{ t('audit.from') }}
        <select
          class="field text-ink"
          :value="earlier"
          @change="set({ earlier: ($event.target as HTMLSelectElement).value })"
        >
          <option v-for="r in done" :key="r.id" :value="r.id">{{ name(r) }}</option>
        </select>
      </label>
      <label class="flex items-center gap-1.5 text-soft"
        >{{ t('audit.to') }}
        <select
          class="field text-ink"
          :value="later"
          @change="set({ later: ($event.target as HTMLSelectElement).value })"
        >
          <option :value="0">{{ t('audit.asItStandsNow') }}</option>
          <option v-for="r in done" :key="r.id" :value="r.id">{{ name(r) }}</option>
        </select>
      </label>
    </template>
    <StatePanel v-if="error" state="failed" :problem="error" @retry="refetch()" />
    <StatePanel
      v-else-if="runs && (done.length < 1 || earlier === later || !earlier)"
      state="empty"
      :title="t('audit.nothingToCompareYet')"
    >
      {{ t('audit.chooseTwoDifferentAuditsThereMustBe') }}
    </StatePanel>
    <StatePanel v-else-if="!compared" state="loading" />
    <template v-else>
      <div class="flex gap-8 border-b border-line px-5 pt-3" role="tablist">
        <button
          v-for="s in sides"
          :key="s.id"
          role="tab"
          :aria-selected="s.id === side"
          class="border-b-[3px] pb-2 text-left"
          :class="s.id === side ? 'border-ink' : 'border-transparent text-soft hover:text-ink'"
          @click="set({ side: s.id, reason: undefined })"
        >
          <span class="value block text-2xl leading-none" :class="s.tone">{{ s.count }}</span>
          {{ s.name }}
        </button>
      </div>
      <p v-if="reasons.length" class="flex flex-wrap gap-x-4 px-5 py-2">
        <button
          class="link"
          :aria-pressed="!reason"
          :class="reason ? '' : 'font-bold no-underline'"
          @click="set({ reason: undefined })"
        >
          {{ t('audit.all') }}
        </button>
        <button
          v-for="[r, n] in reasons"
          :key="r"
          class="link"
          :aria-pressed="reason === r"
          :class="reason === r ? 'font-bold no-underline' : ''"
          @click="set({ reason: r })"
        >
          {{ words(r) }} {{ n }}
        </button>
      </p>
      <table v-if="side === 'drifted'" class="grid-lines stack">
        <thead>
          <tr>
            <th class="!pl-5">{{ t('audit.meeting') }}</th>
            <th>{{ t('audit.now') }}</th>
            <th>{{ t('audit.wasClean') }}</th>
            <th>{{ t('audit.whatHappened') }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="d in compared.drifted" :key="d.meeting">
            <td class="!pl-5">
              <RouterLink class="head" :to="{ path: '/audit', query: { meeting: d.meeting } }">{{
                d.title
              }}</RouterLink>
            </td>
            <td>
              <TallyMark :severity="d.worst" word />
              <span class="text-soft">{{ counted(d.findings, 'finding') }}</span>
            </td>
            <td class="value whitespace-nowrap">{{ day(d.since) }}</td>
            <td>{{ driftWords(d) }}</td>
          </tr>
        </tbody>
      </table>
      <p v-if="side === 'drifted' && !compared.drifted.length" class="px-5 py-3 text-kelp">
        {{ t('audit.nothingThatWasCleanHasDrifted') }}
      </p>
      <template v-if="side !== 'drifted' && moved">
        <p v-if="!moved.items.length" class="px-5 py-3 text-soft">{{ t('audit.none') }}</p>
        <table v-else class="grid-lines stack">
          <thead>
            <tr>
              <th class="!pl-5">{{ t('audit.severity') }}</th>
              <th>{{ t('audit.meeting') }}</th>
              <th>{{ t('audit.whatWasFound') }}</th>
              <th>{{ side === 'still' ? '' : t('audit.why') }}</th>
              <th>{{ t('audit.next') }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="m in moved.items" :key="m.found.identity">
              <td class="!pl-5 whitespace-nowrap">
                <TallyMark :severity="m.found.finding.severity" word />
              </td>
              <td class="max-w-56 truncate">
                <RouterLink
                  class="head"
                  dir="auto"
                  :to="{
                    path: '/audit',
                    query: { meeting: m.found.meeting, family: m.found.finding.family },
                  }"
                  >{{ m.title }}</RouterLink
                >
              </td>
              <td>{{ m.found.finding.text }}</td>
              <td class="whitespace-nowrap">{{ side === 'still' ? '' : words(m.reason) }}</td>
              <td class="value !pr-5 whitespace-nowrap">{{ shortTime(m.found.next) }}</td>
            </tr>
          </tbody>
        </table>
        <p v-if="moved.total > moved.items.length" class="px-5 py-2 text-soft">
          {{
            t('audit.theWorstItemsOfTotalTheReport', {
              items: moved.items.length,
              total: moved.total,
            })
          }}
        </p>
      </template>
    </template>
  </PartFrame>
</template>
