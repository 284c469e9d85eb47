<script setup lang="ts">
import { useCatalogue } from '@/api/catalogue'
import GateMark from '@/marks/GateMark.vue'

/** The exposure matrix: who comes to hold which right, and how freely. */
const props = defineProps<{ matrix: Record<string, Record<string, string>> }>()

const { catalogue } = useCatalogue()
/** The same for one persona as a list: at which level which rights come to them. */
function gates(persona: string) {
  return (catalogue.value?.levels ?? [])
    .map((l) => ({
      level: l.id,
      phrase: l.phrase,
      rights: (catalogue.value?.rights ?? [])
        .filter((r) => (props.matrix[persona]?.[r.id] ?? 'never') === l.id)
        .map((r) => rightHead[r.id] ?? r.id),
    }))
    .filter((g) => g.rights.length)
}
const rightHead: Record<string, string> = {
  listen: 'listen',
  'share-screen': 'share screen',
  'remove-others': 'remove',
  speak: 'speak',
  annotate: 'draw',
  camera: 'camera',
  'admit-others': 'admit',
  'take-control': 'control',
  record: 'record',
  'mute-others': 'silence',
  chat: 'chat',
  whiteboard: 'board',
  'private-chat': 'private',
  'rename-self': 'rename',
  'page-slides': 'slides',
  react: 'react',
}
</script>

<template>
  <dl class="hidden mid:block">
    <template v-for="p in catalogue?.personas ?? []" :key="p.id">
      <dt class="head mt-2">Someone who {{ p.phrase }}</dt>
      <dd v-for="g in gates(p.id)" :key="g.level" class="flex gap-2 py-0.5">
        <GateMark :level="g.level" class="mt-1 shrink-0" />
        <span
          ><span class="text-soft">{{ g.phrase }}:</span> {{ g.rights.join(', ') }}</span
        >
      </dd>
    </template>
  </dl>
  <table class="grid-lines mid:hidden">
    <caption class="hidden-label">
      Who comes to hold which right
    </caption>
    <thead>
      <tr>
        <th scope="col">Someone who…</th>
        <th v-for="r in catalogue?.rights ?? []" :key="r.id" scope="col" class="slant">
          <span :title="r.phrase">{{ rightHead[r.id] ?? r.id }}</span>
        </th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="p in catalogue?.personas ?? []" :key="p.id">
        <th scope="row" class="row">{{ p.phrase }}</th>
        <td v-for="r in catalogue?.rights ?? []" :key="r.id" class="cell">
          <GateMark :level="matrix[p.id]?.[r.id] ?? 'never'" />
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
table.grid-lines .slant {
  height: 74px;
  padding: 0;
  vertical-align: bottom;
  position: relative;
  background: none; /* the next head must not cover this one's slanted words */
}
.slant span {
  position: absolute;
  bottom: 6px;
  left: 50%;
  transform-origin: 0 100%;
  transform: rotate(-52deg);
  white-space: nowrap;
  font-size: 12px;
}
table.grid-lines th.row {
  color: var(--ink);
  border-bottom: 1px solid var(--hair);
  position: static;
  background: none;
  white-space: nowrap;
  padding: 3px 10px 3px 0;
}
table.grid-lines td.cell {
  padding: 3px 2px;
  text-align: center;
}
</style>
