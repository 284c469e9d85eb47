<script setup lang="ts">
import { t } from '@/wording'
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
  listen: t('register.listen'),
  'share-screen': t('register.shareScreen'),
  'remove-others': t('register.remove'),
  speak: t('register.speak'),
  annotate: t('register.draw'),
  camera: t('register.camera'),
  'admit-others': t('register.admit'),
  'take-control': t('register.control2'),
  record: t('register.record'),
  'mute-others': t('register.silence'),
  chat: t('register.chat'),
  whiteboard: t('register.board'),
  'private-chat': t('register.private'),
  'rename-self': t('register.rename'),
  'page-slides': t('register.slides'),
  react: t('register.react'),
}
</script>

<template>
  <dl class="hidden mid:block">
    <template v-for="p in catalogue?.personas ?? []" :key="p.id">
      <dt class="head mt-2">{{ t('register.someoneWhoPhrase', { phrase: p.phrase }) }}</dt>
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
      {{
        t('register.whoComesToHoldWhichRight')
      }}
    </caption>
    <thead>
      <tr>
        <th scope="col">{{ t('register.someoneWho') }}</th>
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
