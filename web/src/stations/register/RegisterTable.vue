<script setup lang="ts">
import { t } from '@/wording'
import { useElementSize, useMediaQuery, useScroll } from '@vueuse/core'
import { computed, nextTick, ref, watch } from 'vue'
import { useOrganisation } from '@/api/catalogue'
import type { Line } from '@/api/schema'
import TallyMark from '@/marks/TallyMark.vue'
import WaterLine from '@/marks/WaterLine.vue'
import type { RowAct } from '@/shell/rowActs'
import RowMenu from '@/shell/RowMenu.vue'
import { rowLook } from '@/shell/rows'
import { shortTime } from '@/shell/times'
import type { Column } from './columns'
import { shortWriting } from './held'
import { recurrenceWords } from './recurrence'
import { windowOf } from '@/shell/windowed'

/** The register's rows, however many: only those in sight are there. */
const props = defineProps<{
  columns: Column[]
  total: number
  at: (index: number) => Line | undefined
  row: number
  sort: string
  selected: Set<string>
  selectable: boolean
  /** What a row's menu offers. */
  acts: (line: Line) => RowAct[]
}>()
const emit = defineEmits<{
  want: [first: number, last: number]
  row: [index: number]
  open: [id: string]
  sort: [by: string]
  toggle: [id: string]
}>()

const height = 34
const scroller = ref<HTMLElement | null>(null)
const { y } = useScroll(scroller)
const { height: seen } = useElementSize(scroller)
const { unitName, kindName, organisation } = useOrganisation()
const roomName = (id?: string | null) =>
  organisation.value?.rooms.find((r) => r.id === id)?.name ?? ''
const shown = computed(() => windowOf(props.total, y.value, seen.value || 700, height))
watch(shown, (w) => emit('want', w.first, w.last), { immediate: true })
const rows = computed(() =>
  Array.from({ length: shown.value.last - shown.value.first }, (_, i) => ({
    index: shown.value.first + i,
    line: props.at(shown.value.first + i),
  })),
)
/** Where there is no room, those without which a line says nothing. */
const narrow = useMediaQuery('(width < 1180px)')
const phone = useMediaQuery('(width <= 600px)')
const shownColumns = computed(() => {
  const kept = phone.value
    ? ['title', 'next', 'findings']
    : ['title', 'host', 'next', 'findings', 'exposure']
  return narrow.value ? props.columns.filter((c) => kept.includes(c.id)) : props.columns
})
const template = computed(() => {
  const widths = shownColumns.value.map((c) =>
    narrow.value && c.id === 'title' ? 'minmax(0,2.6fr)' : c.width,
  )
  return `${props.selectable ? '2.25rem ' : ''}${widths.join(' ')} 1.75rem`
})

/** Brings a row into sight and gives it the focus. */
async function show(index: number) {
  const box = scroller.value
  if (!box) return
  const top = index * height
  if (top < box.scrollTop) box.scrollTop = top
  else if (top + height > box.scrollTop + box.clientHeight - height) {
    box.scrollTop = top + 2 * height - box.clientHeight
  }
  await nextTick()
  document.getElementById(`row-${index}`)?.querySelector('a')?.focus({ preventScroll: true })
}
watch(() => props.row, show)
const sorted = (c: Column) =>
  !c.sort || props.sort.replace('-', '') !== c.sort
    ? undefined
    : props.sort.startsWith('-')
      ? 'descending'
      : 'ascending'
defineExpose({ scroller })
</script>

<template>
  <div ref="scroller" class="min-h-0 flex-1 overflow-auto" role="table" :aria-rowcount="total + 1">
    <div
      class="sticky top-0 z-10 grid items-end border-b border-ink bg-paper px-5 phone:px-2 text-[12.5px] text-soft"
      role="row"
      :style="{ gridTemplateColumns: template }"
    >
      <span v-if="selectable" role="columnheader"
        ><span class="hidden-label">{{ t('register.chosen') }}</span></span
      >
      <span
        v-for="c in shownColumns"
        :key="c.id"
        role="columnheader"
        class="truncate px-1 py-1.5"
        :class="c.id === 'invited' ? 'pr-5 text-right' : ''"
        :aria-sort="sorted(c)"
      >
        <button
          v-if="c.sort"
          type="button"
          class="hover:text-ink"
          :class="sorted(c) ? 'font-bold text-ink' : ''"
          @click="emit('sort', sorted(c) === 'ascending' ? `-${c.sort}` : c.sort)"
        >
          {{ c.name
          }}<span v-if="sorted(c)" aria-hidden="true">{{
            sorted(c) === 'ascending' ? ' ↓' : ' ↑'
          }}</span>
        </button>
        <template v-else>{{ c.name }}</template>
      </span>
      <span role="columnheader"
        ><span class="hidden-label">{{ t('shell.acts') }}</span></span
      >
    </div>
    <div :style="{ height: `${shown.before}px` }" />
    <div
      v-for="{ index, line } in rows"
      :id="`row-${index}`"
      :key="index"
      role="row"
      :aria-rowindex="index + 2"
      class="grid cursor-pointer items-center border-b border-hair px-5 phone:px-2"
      :class="rowLook(index === row)"
      :style="{ gridTemplateColumns: template, height: `${height}px` }"
      @click="line && emit('open', line.id)"
    >
      <span v-if="selectable" role="cell">
        <input
          v-if="line"
          type="checkbox"
          :aria-label="t('register.chooseTitle', { title: line.title })"
          :checked="selected.has(line.id)"
          @click.stop
          @change="emit('toggle', line.id)"
        />
      </span>
      <span
        v-for="c in shownColumns"
        :key="c.id"
        role="cell"
        class="truncate px-1"
        :class="c.id === 'invited' ? 'pr-5 text-right' : ''"
      >
        <template v-if="!line">
          <span v-if="c.id === 'title'" class="text-soft">…</span>
        </template>
        <template v-else-if="c.id === 'title'">
          <RouterLink
            :to="`/register/${encodeURIComponent(line.id)}`"
            class="head"
            dir="auto"
            @click.stop
            @focus="emit('row', index)"
            >{{ line.title }}</RouterLink
          >
          <span class="ml-1.5 text-[12.5px] text-soft">{{ unitName(line.unit) }}</span>
        </template>
        <span v-else-if="c.id === 'kind'" class="text-soft">{{ kindName(line.kind) }}</span>
        <span v-else-if="c.id === 'unit'" class="text-soft">{{ unitName(line.unit) }}</span>
        <span v-else-if="c.id === 'host'" :title="line.host">{{ line.hostName }}</span>
        <span v-else-if="c.id === 'next'" class="value">{{ shortTime(line.next) }}</span>
        <span v-else-if="c.id === 'recurs'" class="text-[12.5px] text-soft">{{
          recurrenceWords(line.recurrence)
        }}</span>
        <span v-else-if="c.id === 'room'" class="text-soft">{{ roomName(line.room) }}</span>
        <span v-else-if="c.id === 'service'" class="text-soft"
          >{{ line.service
          }}<span v-if="shortWriting(line)" class="text-sand">
            · {{ shortWriting(line) }}</span
          ></span
        >
        <span v-else-if="c.id === 'invited'" class="value">{{ line.invited }}</span>
        <template v-else-if="c.id === 'findings'">
          <template v-if="line.findings">
            <TallyMark :severity="line.worst" :count="line.findings" />
            <span class="value ml-1">{{ line.findings }}</span>
          </template>
          <span v-else class="text-soft"
            >·<span class="hidden-label">{{ t('register.none2') }}</span></span
          >
        </template>
        <WaterLine v-else-if="c.id === 'exposure'" :score="line.exposure" :band="line.band" word />
        <span v-else class="value text-soft" :title="line.changedBy">{{
          shortTime(line.changedAt)
        }}</span>
      </span>
      <span role="cell" class="text-right"
        ><RowMenu v-if="line" :of="line.title" :acts="acts(line)"
      /></span>
    </div>
    <div :style="{ height: `${shown.after}px` }" />
  </div>
</template>
