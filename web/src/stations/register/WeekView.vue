<script setup lang="ts">
import { bandName } from '@/marks/bands'
import { severities } from '@/marks/severity'
import { locale, t } from '@/wording'
import { counted } from '@/shell/counted'
import { useQuery } from '@pinia/colada'
import { computed } from 'vue'
import { api, take } from '@/api/client'
import type { OnWeek, Week } from '@/api/schema'
import TallyMark from '@/marks/TallyMark.vue'
import StatePanel from '@/shell/StatePanel.vue'
import { addDays, browserZone, toInstant, toLocal } from '@/stations/scheduling/zones'
import type { LineFilter } from './lines'
import { placed } from './week'

/** The same meetings on a week's clock, side by side where they overlap. */
const props = defineProps<{ filter: LineFilter; monday: string; mayschedule: boolean }>()
const emit = defineEmits<{ monday: [day: string]; schedule: [start: string] }>()

const { data, error, refetch } = useQuery({
  key: () => ['meetings', 'week', props.monday, JSON.stringify(props.filter)],
  query: () => {
    const { open, sort, service, ...texts } = props.filter
    void sort
    return take(
      api.GET('/api/meetings/week', {
        params: {
          query: {
            ...texts,
            open,
            service: service ? Number(service) : undefined,
            from: toInstant(`${props.monday}T00:00`, browserZone).toISOString(),
            to: toInstant(`${addDays(props.monday, 7)}T00:00`, browserZone).toISOString(),
          },
        },
      }),
    )
  },
  placeholderData: (before: Week | undefined) => before,
})
const days = computed(() => Array.from({ length: 7 }, (_, i) => addDays(props.monday, i)))
const hours = Array.from({ length: 24 }, (_, h) => h)
const columns = computed(() =>
  days.value.map((day) => placed(data.value?.items ?? [], day, browserZone)),
)
const today = toLocal(new Date(), browserZone).slice(0, 10)
const name = (day: string) =>
  new Date(`${day}T00:00:00Z`).toLocaleDateString(locale, {
    weekday: 'short',
    day: 'numeric',
    month: 'short',
    timeZone: 'UTC',
  })
const clock = (o: OnWeek) => toLocal(new Date(o.start), browserZone).slice(11)
function start(day: string, event: MouseEvent) {
  if (!props.mayschedule) return
  const box = (event.currentTarget as HTMLElement).getBoundingClientRect()
  const half = Math.floor(((event.clientY - box.top) / box.height) * 48)
  const time = `${String(Math.floor(half / 2)).padStart(2, '0')}:${half % 2 ? '30' : '00'}`
  emit('schedule', `${day}T${time}`)
}
const vScrollToMorning = {
  mounted: (box: HTMLElement) => {
    box.scrollTop = 7 * 44
  },
}
</script>

<template>
  <div class="flex min-h-0 flex-1 flex-col">
    <div class="flex shrink-0 items-center gap-3 px-5 py-1.5">
      <button type="button" class="button" @click="emit('monday', addDays(monday, -7))">
        {{ t('register.earlier') }}
      </button>
      <strong class="value">{{ name(monday) }} – {{ name(addDays(monday, 6)) }}</strong>
      <button type="button" class="button" @click="emit('monday', addDays(monday, 7))">
        {{ t('register.later') }}
      </button>
      <button type="button" class="link" @click="emit('monday', '')">
        {{ t('register.thisWeek') }}
      </button>
      <span class="ml-auto text-soft" role="status">
        {{ data ? counted(data.items.length + data.more, 'occurrence') : '' }}
        {{ data?.more ? t('register.moreNotDrawnNarrowTheFilter', { more: data.more }) : '' }}
      </span>
    </div>
    <StatePanel v-if="error" state="failed" :problem="error" @retry="refetch()" />
    <StatePanel v-else-if="!data" state="loading" />
    <div v-else v-scroll-to-morning class="min-h-0 flex-1 overflow-auto border-t border-line">
      <div
        class="sticky top-0 z-10 grid grid-cols-[3.5rem_repeat(7,1fr)] border-b border-ink bg-paper"
      >
        <span />
        <span
          v-for="d in days"
          :key="d"
          class="border-l border-hair px-1.5 py-1"
          :class="d === today ? 'font-bold' : 'text-soft'"
          >{{ name(d) }}</span
        >
      </div>
      <div class="grid grid-cols-[3.5rem_repeat(7,1fr)]">
        <div>
          <div
            v-for="h in hours"
            :key="h"
            class="value h-11 border-b border-hair pr-1.5 text-right text-[11.5px] text-soft"
          >
            {{ String(h).padStart(2, '0') }}:00
          </div>
        </div>
        <div
          v-for="(d, i) in days"
          :key="d"
          class="relative border-l border-hair"
          :class="d === today ? 'bg-sheet' : ''"
          @dblclick.self="start(d, $event)"
        >
          <div
            v-for="h in hours"
            :key="h"
            class="pointer-events-none h-11 border-b border-hair"
            aria-hidden="true"
          />
          <RouterLink
            v-for="p in columns[i]"
            :key="p.of.id + p.of.at"
            :to="`/register/${encodeURIComponent(p.of.id)}`"
            class="absolute overflow-hidden border bg-paper px-1 text-[11.5px] leading-tight hover:z-10 focus:z-10"
            :class="
              p.of.worst >= 4
                ? 'border-rust bg-rust-wash'
                : p.of.worst >= 3
                  ? 'border-sand bg-sand-wash'
                  : 'border-soft'
            "
            :style="{
              top: `${p.top * 100}%`,
              height: `max(1.1rem, ${p.height * 100}%)`,
              left: `${p.left * 100}%`,
              width: `${p.width * 100}%`,
            }"
            :title="
              t('register.ofTitleBandWorstFindingSeverity', {
                of: clock(p.of),
                title: p.of.title,
                band: bandName(p.of.band),
                severity: severities[p.of.worst],
              })
            "
          >
            <TallyMark
              v-if="p.of.worst >= 3 && p.width >= 0.45"
              :severity="p.of.worst"
              class="float-right mt-0.5"
            />
            <span class="value text-[11px]">{{ clock(p.of) }}</span> {{ p.of.title }}
            <span class="hidden-label">{{
              t('register.bandWorstFindingSeverity', {
                band: bandName(p.of.band),
                severity: severities[p.of.worst],
              })
            }}</span>
          </RouterLink>
        </div>
      </div>
    </div>
  </div>
</template>
