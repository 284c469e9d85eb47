<script setup lang="ts">
import { t } from '@/wording'
import { computed } from 'vue'
import type { FloorAlert } from '@/api/schema'
import TallyMark from '@/marks/TallyMark.vue'
import { actLabel, byCause, type Cause } from './floor'

/** What is wrong, cause by cause: how many alerts it has raised, and the act that ends it. */
const props = defineProps<{ alerts: FloorAlert[]; mayAct: boolean }>()
defineEmits<{
  end: [alert: FloorAlert]
  acknowledge: [cause: Cause]
  word: [cause: Cause]
}>()
const causes = computed(() => byCause(props.alerts))
/** All that is wrong by it, the gravest first. */
const titles = (c: Cause) =>
  [...new Set([c.first.title, ...c.alerts.map((a) => a.title)])].join(' · ')
</script>

<template>
  <section
    v-if="causes.length"
    :aria-label="t('floor.alerts')"
    class="border-b border-rust bg-rust-wash"
  >
    <ul class="max-h-36 overflow-auto">
      <li
        v-for="c in causes"
        :key="c.cause"
        class="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-rust/20 px-5 py-1.5 last:border-0"
      >
        <TallyMark :severity="c.first.severity" />
        <strong class="w-64 shrink-0 truncate text-rust">{{ titles(c) }}</strong>
        <span class="min-w-0 flex-1 truncate" :title="c.alerts.map((a) => a.words).join('\n')"
          >{{ c.first.words
          }}<span v-if="c.alerts.length > 1" class="text-soft">
            {{ t('floor.andAlertsMoreOfThis', { alerts: c.alerts.length - 1 }) }}</span
          ></span
        >
        <span v-if="c.first.state === 'acknowledged'" class="shrink-0 text-soft">
          {{ t('floor.acknowledgedBySplit', { split: c.first.handledBy?.split('@')[0] }) }}
        </span>
        <span v-else-if="c.first.state === 'handed-on'" class="shrink-0 text-soft">
          {{ t('floor.withSplit', { split: c.first.handedTo?.split('@')[0] }) }}
        </span>
        <template v-if="mayAct">
          <button class="button" @click="$emit('end', c.first)">
            {{ actLabel(c.first.end.act) }}
          </button>
          <button
            v-if="c.alerts.some((a) => a.state === 'open')"
            class="link"
            @click="$emit('acknowledge', c)"
          >
            {{ t('floor.acknowledge') }}
          </button>
          <button class="link" @click="$emit('word', c)">{{ t('floor.passOnOrClose') }}</button>
        </template>
      </li>
    </ul>
  </section>
</template>
