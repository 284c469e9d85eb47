<script setup lang="ts">
import { t } from '@/wording'
import { computed, ref } from 'vue'
import type { Plain } from '@/api/catalogue'
import type { ControlView } from '@/api/schema'
import { within } from '@/api/within'
import type { Rule } from './book'
import { limitOf, startOf, type Rung } from './rungs'

/**
 * A control as a ladder: loosest left, strictest right, the series that stand on each rung drawn
 * over it. The start is a peg, the limit a bar, a fix a peg through the bar; what is looser than the
 * limit is hatched. Peg and bar move by arrow keys and by mouse.
 */
const props = defineProps<{
  control: ControlView
  rule: Rule | undefined
  rungs: Rung[]
  total: number
  editable: boolean
  /** The rule comes from a layer above: drawn faintly. */
  ghost?: boolean
}>()
const emit = defineEmits<{ start: [value: Plain]; limit: [value: Plain] }>()

const width = 540
const base = 44
const svg = ref<SVGSVGElement | null>(null)

const step = computed(() => width / Math.max(props.rungs.length, 1))
const x = (i: number) => step.value * (i + 0.5)
const key = (value: Plain | undefined) => JSON.stringify(value)
const indexOf = (value: Plain | undefined) =>
  value === undefined ? -1 : props.rungs.findIndex((r) => key(r.value) === key(value))

const start = computed(() => indexOf(startOf(props.rule)))
const limit = computed(() => indexOf(limitOf(props.rule)))
const limitValue = computed(() => limitOf(props.rule))
const fixed = computed(() => props.rule?.mode === 'fix')
const loose = (rung: Rung) =>
  limitValue.value !== undefined && !within(props.control, rung.value, limitValue.value)
const hatchEnd = computed(() => {
  if (limit.value < 0 || props.control.neutral) return 0
  return fixed.value ? x(limit.value) : x(limit.value) - step.value / 2
})
const barAt = computed(() => (fixed.value ? x(limit.value) : Math.max(hatchEnd.value, 2)))
const height = (count: number) =>
  count === 0 ? 0 : Math.max(2, Math.round((count / Math.max(props.total, 1)) * 32))

/** Room for a line under the labels, where some service cannot hold some value. */
const poor = computed(() => props.rungs.some((r) => r.notIn?.length))
const cannotWords = (rung: Rung) =>
  rung.notIn?.length ? t('rulebook.joinCannotHoldIt', { join: rung.notIn.join(', ') }) : ''

/** A label no wider than its rung. */
function fitted(text: string, perLetter = 6.2): string {
  const most = Math.max(8, Math.floor(step.value / perLetter))
  return text.length > most ? `${text.slice(0, most - 1)}…` : text
}

function move(handle: 'start' | 'limit', by: number) {
  const from = handle === 'start' ? start.value : limit.value
  const to = props.rungs[from + by]
  if (to) put(handle, to.value)
}

function put(handle: 'start' | 'limit', value: Plain) {
  if (handle === 'start') emit('start', value)
  else emit('limit', value)
}

function nearest(event: PointerEvent): Rung | undefined {
  const box = svg.value?.getBoundingClientRect()
  if (!box) return undefined
  const at = ((event.clientX - box.left) / box.width) * width
  const i = Math.min(props.rungs.length - 1, Math.max(0, Math.floor(at / step.value)))
  return props.rungs[i]
}

function drag(handle: 'start' | 'limit', down: PointerEvent) {
  if (!props.editable || props.ghost) return
  const target = down.currentTarget as Element
  target.setPointerCapture(down.pointerId)
  let last = key(handle === 'start' ? startOf(props.rule) : limitValue.value)
  const onMove = (event: PointerEvent) => {
    const rung = nearest(event)
    if (rung && key(rung.value) !== last) {
      last = key(rung.value)
      put(handle, rung.value)
    }
  }
  const onUp = () => {
    target.removeEventListener('pointermove', onMove as EventListener)
    target.removeEventListener('pointerup', onUp)
  }
  target.addEventListener('pointermove', onMove as EventListener)
  target.addEventListener('pointerup', onUp)
}
</script>

<template>
  <svg
    ref="svg"
    class="w-full max-w-[600px] touch-none select-none"
    :class="{ ghost }"
    :viewBox="`0 0 ${width} ${poor ? 88 : 76}`"
    :aria-label="t('rulebook.titleLadder', { title: control.title })"
    role="group"
  >
    <defs>
      <pattern :id="`hatch-${control.id}`" width="6" height="6" patternUnits="userSpaceOnUse">
        <path d="M-1 7l8-8" stroke="var(--rust)" stroke-width="1" opacity="0.75" />
      </pattern>
    </defs>
    <rect
      v-if="hatchEnd > 0"
      x="0"
      :y="base"
      :width="hatchEnd"
      height="7"
      :fill="`url(#hatch-${control.id})`"
    />
    <g v-for="(rung, i) in rungs" :key="key(rung.value)">
      <rect
        v-if="rung.count"
        :x="x(i) - 14"
        :y="base - height(rung.count)"
        width="28"
        :height="height(rung.count)"
        :fill="loose(rung) ? 'var(--rust-wash)' : 'var(--sea-wash)'"
        :stroke="loose(rung) ? 'var(--rust)' : 'var(--sea)'"
      />
      <text
        v-if="rung.count"
        :x="x(i) + 17"
        :y="base - Math.max(3, height(rung.count) / 2 - 3)"
        class="count"
        fill="var(--soft)"
      >
        {{ rung.count }}
      </text>
      <line :x1="x(i)" :x2="x(i)" :y1="base - 3" :y2="base + 3" stroke="var(--soft)" />
      <text
        :x="x(i)"
        y="68"
        text-anchor="middle"
        class="rung"
        :class="{ here: i === start }"
        :fill="loose(rung) ? 'var(--rust)' : 'var(--ink)'"
        @click="editable && rule && !ghost && emit('start', rung.value)"
      >
        {{ fitted(rung.label) }}
        <title>
          {{
            t('rulebook.labelCountSeriesRung', {
              label: rung.label,
              count: rung.count,
              rung: cannotWords(rung),
            })
          }}
        </title>
      </text>
      <text
        v-if="rung.notIn?.length"
        :x="x(i)"
        y="83"
        text-anchor="middle"
        class="not-in"
        fill="var(--sand)"
      >
        {{
          fitted(
            rung.notIn.length > 1
              ? t('rulebook.notInNotInServices', { notIn: rung.notIn.length })
              : t('rulebook.notInNotIn', { notIn: rung.notIn[0] }),
            5.1,
          )
        }}
        <title>{{ t('rulebook.joinCannotHoldThisValue', { join: rung.notIn.join(', ') }) }}</title>
      </text>
    </g>
    <line x1="0" :x2="width" :y1="base" :y2="base" stroke="var(--ink)" stroke-width="1.4" />
    <g
      v-if="limit >= 0 && !fixed"
      :tabindex="editable && !ghost ? 0 : undefined"
      role="slider"
      class="handle"
      :aria-label="t('rulebook.titleLimit', { title: control.title })"
      :aria-valuenow="limit"
      aria-valuemin="0"
      :aria-valuemax="rungs.length - 1"
      :aria-valuetext="rungs[limit]?.label"
      @keydown.left.prevent="move('limit', -1)"
      @keydown.right.prevent="move('limit', 1)"
      @pointerdown="drag('limit', $event)"
    >
      <rect :x="barAt - 9" :y="base - 14" width="18" height="28" fill="transparent" />
      <line
        :x1="barAt"
        :x2="barAt"
        :y1="base - 10"
        :y2="base + 10"
        stroke="var(--ink)"
        stroke-width="3"
      />
    </g>
    <g
      v-if="start >= 0"
      :tabindex="editable && !ghost ? 0 : undefined"
      role="slider"
      class="handle"
      :aria-label="`${control.title}, ${fixed ? t('rulebook.fixedValue') : t('rulebook.default')}`"
      :aria-valuenow="start"
      aria-valuemin="0"
      :aria-valuemax="rungs.length - 1"
      :aria-valuetext="rungs[start]?.label"
      @keydown.left.prevent="move('start', -1)"
      @keydown.right.prevent="move('start', 1)"
      @pointerdown="drag('start', $event)"
    >
      <rect :x="x(start) - 10" :y="base - 14" width="20" height="28" fill="transparent" />
      <line
        v-if="fixed"
        :x1="x(start)"
        :x2="x(start)"
        :y1="base - 11"
        :y2="base + 11"
        stroke="var(--ink)"
        stroke-width="3"
      />
      <circle :cx="x(start)" :cy="base" r="5.5" fill="var(--ink)" />
      <circle
        v-if="rule?.sealed"
        :cx="x(start) + 13"
        :cy="base + 8"
        r="4"
        fill="var(--rust)"
        role="img"
        :aria-label="t('rulebook.sealed')"
      />
    </g>
  </svg>
</template>

<style scoped>
.ghost .handle,
.ghost > rect {
  opacity: 0.45;
}
.count {
  font-family: var(--font-mono);
  font-size: 11px;
}
.rung {
  font-size: 12px;
  cursor: default;
}
.not-in {
  font-size: 10.5px;
}
.rung.here {
  font-weight: 700;
}
.handle {
  cursor: ew-resize;
  outline: none;
}
.handle:focus-visible rect {
  stroke: var(--sea);
  stroke-width: 2;
}
</style>
