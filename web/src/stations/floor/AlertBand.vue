<script setup lang="ts">
import type { FloorAlert } from '@/api/schema'
import TallyMark from '@/marks/TallyMark.vue'
import { actLabel } from './floor'

/** Alerts that are not closed: what is wrong and the act that ends it. */
defineProps<{ alerts: FloorAlert[]; mayAct: boolean }>()
defineEmits<{
  end: [alert: FloorAlert]
  acknowledge: [alert: FloorAlert]
  word: [alert: FloorAlert]
}>()
</script>

<template>
  <section v-if="alerts.length" aria-label="Alerts" class="border-b border-rust bg-rust-wash">
    <ul class="max-h-36 overflow-auto">
      <li
        v-for="a in alerts"
        :key="a.id"
        class="flex items-center gap-3 border-b border-rust/20 px-5 py-1.5 last:border-0"
      >
        <TallyMark :severity="a.severity" />
        <strong class="w-64 shrink-0 truncate text-rust">{{ a.title }}</strong>
        <span class="min-w-0 flex-1 truncate" :title="a.words">{{ a.words }}</span>
        <span v-if="a.state === 'acknowledged'" class="shrink-0 text-soft">
          seen by {{ a.handledBy?.split('@')[0] }}
        </span>
        <span v-else-if="a.state === 'handed-on'" class="shrink-0 text-soft">
          with {{ a.handedTo?.split('@')[0] }}
        </span>
        <template v-if="mayAct">
          <button class="button" @click="$emit('end', a)">{{ actLabel(a.end.act) }}</button>
          <button v-if="a.state === 'open'" class="link" @click="$emit('acknowledge', a)">
            Seen
          </button>
          <button class="link" @click="$emit('word', a)">Hand on or close</button>
        </template>
      </li>
    </ul>
  </section>
</template>
