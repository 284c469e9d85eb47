<script setup lang="ts">
import { t } from '@/wording'
import { useElementSize, useMediaQuery, useScroll } from '@vueuse/core'
import { computed, nextTick, ref, watch } from 'vue'
import { useOrganisation } from '@/api/catalogue'
import type { WallRow } from '@/api/schema'
import TallyMark from '@/marks/TallyMark.vue'
import WaterLine from '@/marks/WaterLine.vue'
import { shortTime } from '@/shell/times'
import { windowOf } from '@/shell/windowed'
import type { Column } from './wall'

/** The wall: meetings down, families across, however many rows; only those in sight are there. */
const props = defineProps<{
  columns: Column[]
  total: number
  at: (index: number) => WallRow | undefined
  cursor: { row: number; column: number }
  group: string
  selected: Set<string>
  selectable: boolean
  narrow: boolean
}>()
const emit = defineEmits<{
  want: [first: number, last: number]
  select: [row: number, column: number]
  toggle: [meeting: string]
}>()

const height = 34
const scroller = ref<HTMLElement | null>(null)
const { y } = useScroll(scroller)
const { height: seen } = useElementSize(scroller)
const { unitName, kindName } = useOrganisation()
const shown = computed(() => windowOf(props.total, y.value, seen.value || 640, height))
watch(shown, (w) => emit('want', w.first, w.last), { immediate: true })
const rows = computed(() =>
  Array.from({ length: shown.value.last - shown.value.first }, (_, i) => {
    const index = shown.value.first + i
    const row = props.at(index)
    const before = index > 0 ? props.at(index - 1) : undefined
    const group = row ? groupOf(row) : ''
    const isFirst = !!props.group && !!row && (!before || groupOf(before) !== group)
    return { index, row, group, isFirst }
  }),
)
function groupOf(row: WallRow): string {
  if (props.group === 'unit') return unitName(row.unit) || t('audit.noUnit')
  if (props.group === 'kind') return kindName(row.kind) || t('audit.noKind')
  if (props.group === 'host') return row.host
  return ''
}
/** Where there is no room for a column a family: the worst of all, and how many. */
const few = useMediaQuery('(width < 1000px)')
const worstOf = (row: WallRow) => {
  const all = Object.values(row.families)
  return {
    worst: Math.max(0, ...all.map((f) => f.worst)),
    count: all.reduce((sum, f) => sum + f.count, 0),
  }
}
const template = computed(() =>
  few.value
    ? `${props.selectable ? '30px ' : ''}minmax(0,1fr) 3.4rem 6.6rem`
    : `${props.selectable ? '30px ' : ''}minmax(150px,1fr) repeat(${props.columns.length}, 43px) ${
        props.narrow ? '104px' : '136px'
      } 106px`,
)

/** Brings a row into sight and the focus to its cell. */
async function show(row: number, column: number) {
  const box = scroller.value
  if (!box) return
  const top = row * height
  if (top < box.scrollTop) box.scrollTop = top
  else if (top + 2 * height > box.scrollTop + box.clientHeight) {
    box.scrollTop = top + 2 * height - box.clientHeight
  }
  await nextTick()
  const line = document.getElementById(`wall-${row}`)
  const target =
    line?.querySelector<HTMLElement>(`[data-column="${column}"] button`) ??
    document.getElementById('work')
  target?.focus({ preventScroll: true })
}
defineExpose({ show })
</script>

<template>
  <div ref="scroller" class="min-h-0 flex-1 overflow-auto" role="table" :aria-rowcount="total + 1">
    <div
      class="sticky top-0 z-10 grid items-stretch border-b border-ink bg-paper text-[12.5px] text-soft"
      role="row"
      :style="{ gridTemplateColumns: template }"
    >
      <span v-if="selectable" role="columnheader"
        ><span class="hidden-label">{{ t('audit.chosen') }}</span></span
      >
      <span role="columnheader" class="self-end py-1.5" :class="selectable ? 'pl-1' : 'pl-5'">{{
        t('audit.meeting')
      }}</span>
      <span v-if="few" role="columnheader" class="self-end py-1.5 text-center">{{
        t('audit.findings')
      }}</span>
      <span
        v-for="c in few ? [] : columns"
        :key="c.id"
        role="columnheader"
        class="flex justify-center border-l border-hair py-1"
        ><span class="max-h-[5.2rem] leading-[1.1] rotate-180 [writing-mode:vertical-rl]">{{
          c.title
        }}</span></span
      >
      <span
        v-if="!few"
        role="columnheader"
        class="flex items-end border-l border-hair py-1.5 pl-2"
        >{{ t('audit.exposure') }}</span
      >
      <span role="columnheader" class="flex items-end border-l border-hair py-1.5 pl-2">{{
        t('audit.next')
      }}</span>
    </div>
    <div :style="{ height: `${shown.before}px` }" />
    <div
      v-for="{ index, row, group: name, isFirst } in rows"
      :id="`wall-${index}`"
      :key="index"
      role="row"
      :aria-rowindex="index + 2"
      class="grid items-stretch border-b border-hair"
      :class="[
        index === cursor.row ? 'bg-sheet' : '',
        isFirst && index > 0 ? 'border-t-2 border-t-ink' : '',
      ]"
      :style="{ gridTemplateColumns: template, height: `${height}px` }"
    >
      <span v-if="selectable" role="cell" class="flex items-center justify-end">
        <input
          v-if="row"
          type="checkbox"
          tabindex="-1"
          :aria-label="t('audit.chooseTitle', { title: row.title })"
          :checked="selected.has(row.meeting)"
          @change="emit('toggle', row.meeting)"
        />
      </span>
      <span
        role="rowheader"
        data-column="-1"
        class="flex items-center overflow-hidden whitespace-nowrap"
        :class="[
          selectable ? 'pl-1' : 'pl-5',
          index === cursor.row && cursor.column < 0 ? 'cursor' : '',
        ]"
      >
        <template v-if="row">
          <strong v-if="isFirst" class="mr-2 max-w-40 truncate text-sea" :title="name">{{
            name
          }}</strong>
          <button
            class="head truncate"
            dir="auto"
            :tabindex="index === cursor.row ? 0 : -1"
            :title="row.title"
            @click="emit('select', index, -1)"
          >
            {{ row.title }}
          </button>
          <span
            v-if="!group && !few"
            class="ml-1.5 min-w-0 shrink-[1000000] truncate text-[12.5px] text-soft"
            >{{ unitName(row.unit) }}</span
          >
        </template>
        <span v-else class="text-soft">…</span>
      </span>
      <span v-if="few" role="cell" class="flex items-center justify-center">
        <TallyMark
          v-if="row && worstOf(row).worst"
          :severity="worstOf(row).worst"
          :count="worstOf(row).count"
        />
      </span>
      <span
        v-for="(c, j) in few ? [] : columns"
        :key="c.id"
        role="cell"
        :data-column="j"
        class="flex items-center justify-center border-l border-hair"
        :class="index === cursor.row && j === cursor.column ? 'cursor' : ''"
      >
        <button
          v-if="row?.families[c.id]"
          class="block w-full py-1 text-center"
          :tabindex="index === cursor.row && j === cursor.column ? 0 : -1"
          :aria-label="`${row.title}, ${c.title}`"
          @click="emit('select', index, j)"
        >
          <TallyMark
            v-if="row.families[c.id]?.worst"
            :severity="row.families[c.id]?.worst ?? 0"
            :count="row.families[c.id]?.count"
          />
          <span v-else class="value text-soft" :title="t('audit.waived')">w</span>
        </button>
        <span v-else class="text-line" aria-hidden="true">·</span>
      </span>
      <span v-if="!few" role="cell" class="flex items-center border-l border-hair pl-2">
        <WaterLine v-if="row" :score="row.exposure" :width="narrow ? 48 : 86" />
      </span>
      <span role="cell" class="value flex items-center border-l border-hair pl-2 whitespace-nowrap">
        {{ row ? shortTime(row.next) : '' }}
      </span>
    </div>
    <div :style="{ height: `${shown.after}px` }" />
  </div>
</template>

<style scoped>
.cursor {
  outline: 2px solid var(--ink);
  outline-offset: -2px;
  background: var(--rust-wash);
}
</style>
