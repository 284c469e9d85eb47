<script setup lang="ts">
import { t } from '@/wording'
import { computed } from 'vue'

/** How freely somebody comes in, as a gate: our code, the same everywhere. */
const props = defineProps<{ level: string; word?: boolean }>()

const words: Record<string, string> = {
  never: t('shell.never'),
  'host-lets-in': t('shell.aHostLetsIn'),
  'peer-lets-in': t('shell.anyoneLetsIn'),
  free: t('shell.straightIn'),
  unattended: t('shell.unattended'),
}
const text = computed(() => words[props.level] ?? props.level)
const tone = computed(() =>
  props.level === 'free' || props.level === 'unattended'
    ? 'var(--rust)'
    : props.level === 'peer-lets-in'
      ? 'var(--sand-mark)'
      : 'var(--ink)',
)
</script>

<template>
  <span class="inline-flex items-center gap-1.5" :title="text">
    <svg width="26" height="10" viewBox="0 0 26 10" role="img" :aria-label="text">
      <g :fill="tone">
        <rect v-if="level === 'never'" x="1" y="3" width="24" height="4" />
        <path v-else-if="level === 'host-lets-in'" d="M1 3h10v2h4v-2h10v4h-24z" />
        <path
          v-else-if="level === 'peer-lets-in'"
          d="M1 3h3v2h3v-2h4.5v2h3v-2h4.5v2h3v-2h3v4h-24z"
        />
        <path v-else-if="level === 'free'" d="M1 3h8v4h-8zM17 3h8v4h-8z" />
        <path v-else d="M1 1h3v8h-3zM22 1h3v8h-3z" />
      </g>
    </svg>
    <span v-if="word" class="text-[12.5px]">{{ text }}</span>
  </span>
</template>
