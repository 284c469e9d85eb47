<script setup lang="ts">
import { useCatalogue } from '@/api/catalogue'
import GateMark from '@/marks/GateMark.vue'

/** The exposure matrix: who comes to hold which right, and how freely. */
defineProps<{ matrix: Record<string, Record<string, string>> }>()

const { catalogue } = useCatalogue()
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
  <table class="grid-lines">
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
