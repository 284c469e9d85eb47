<script setup lang="ts">
import { t } from '@/wording'
import {
  CategoryScale,
  Chart,
  Filler,
  Legend,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
  Tooltip,
} from 'chart.js'
import { onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { theme } from '@/shell/theme'
import type { Series } from './trends'

/** Lines over time, drawn with Chart.js in the colours of the theme; or the table behind them. */
const props = defineProps<{
  title: string
  labels: string[]
  series: Series[]
  stacked: boolean
  asTable: boolean
}>()
Chart.register(
  CategoryScale,
  Filler,
  Legend,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
  Tooltip,
)
const canvas = ref<HTMLCanvasElement | null>(null)
let chart: Chart | undefined

function draw() {
  chart?.destroy()
  chart = undefined
  if (!canvas.value || props.asTable) return
  const style = getComputedStyle(document.documentElement)
  const tone = (name: string) => style.getPropertyValue(name).trim()
  const font = { family: "'Atkinson Hyperlegible Next', sans-serif", size: 12 }
  chart = new Chart(canvas.value, {
    type: 'line',
    data: {
      labels: props.labels,
      datasets: props.series.map((s) => ({
        label: s.name,
        data: s.values,
        borderColor: tone(s.tone),
        backgroundColor: `color-mix(in srgb, ${tone(s.tone)} 22%, transparent)`,
        borderDash: s.dash,
        borderWidth: 2,
        pointRadius: 2,
        tension: 0,
        fill: props.stacked ? 'stack' : false,
      })),
    },
    options: {
      animation: false,
      maintainAspectRatio: false,
      interaction: { mode: 'index', intersect: false },
      scales: {
        x: { ticks: { color: tone('--soft'), font }, grid: { color: tone('--hair') } },
        y: {
          stacked: props.stacked,
          beginAtZero: true,
          ticks: { color: tone('--soft'), font, precision: 0 },
          grid: { color: tone('--hair') },
        },
      },
      plugins: {
        legend: {
          position: 'bottom',
          labels: { color: tone('--ink'), font, boxWidth: 26, boxHeight: 0 },
        },
      },
    },
  })
}
onMounted(draw)
watch([() => props.series, () => props.asTable, theme], draw, { flush: 'post' })
onBeforeUnmount(() => chart?.destroy())
</script>

<template>
  <figure class="min-w-0">
    <figcaption class="head mb-1 border-b border-line pb-1">{{ title }}</figcaption>
    <div v-show="!asTable" class="h-64">
      <canvas
        ref="canvas"
        role="img"
        :aria-label="t('audit.titleTheNumbersAreInTheTable', { title })"
      />
    </div>
    <div :class="asTable ? '' : 'hidden-label'">
      <table class="grid-lines">
        <caption class="hidden-label">
          {{
            title
          }}
        </caption>
        <thead>
          <tr>
            <th scope="col">{{ t('audit.when') }}</th>
            <th v-for="s in series" :key="s.name" scope="col" class="!text-right">{{ s.name }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(l, i) in labels" :key="i">
            <td class="value">{{ l }}</td>
            <td v-for="s in series" :key="s.name" class="value text-right">{{ s.values[i] }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </figure>
</template>
