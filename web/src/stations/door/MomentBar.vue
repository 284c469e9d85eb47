<script setup lang="ts">
import { t } from '@/wording'
import { earliest, latest, momentWords } from './door'

/** The moment of the session: minutes around the start, whether a host is in, whether locked. */
defineProps<{ minutes: number; hostIn: boolean; locked: boolean }>()
const emit = defineEmits<{
  minutes: [value: number]
  host: [value: boolean]
  lock: [value: boolean]
}>()
const marks = [-30, -15, 0, 15, 30, 45, 60]
const place = (minute: number) => `${(100 * (minute - earliest)) / (latest - earliest)}%`
</script>

<template>
  <div
    class="flex shrink-0 flex-wrap items-center gap-x-6 gap-y-1 border-b border-line px-5 py-2 phone:px-3"
  >
    <div class="min-w-0 flex-1 phone:min-w-full">
      <input
        class="moment w-full"
        type="range"
        :min="earliest"
        :max="latest"
        step="1"
        :value="minutes"
        :aria-label="t('door.moment2')"
        :aria-valuetext="momentWords(minutes)"
        @input="emit('minutes', Number(($event.target as HTMLInputElement).value))"
      />
      <div class="relative mx-2 h-4 text-[12px] text-soft" aria-hidden="true">
        <span
          v-for="m in marks"
          :key="m"
          class="value absolute -translate-x-1/2"
          :style="{ left: place(m) }"
          >{{ m === 0 ? t('door.start') : m > 0 ? `+${m}` : `−${-m}` }}</span
        >
      </div>
    </div>
    <strong class="w-52" role="status">{{ momentWords(minutes) }}</strong>
    <label class="flex items-center gap-1.5">
      <input
        type="checkbox"
        :checked="hostIn"
        @change="emit('host', ($event.target as HTMLInputElement).checked)"
      />
      {{ t('door.aHostIsIn') }}
    </label>
    <label class="flex items-center gap-1.5">
      <input
        type="checkbox"
        :checked="locked"
        @change="emit('lock', ($event.target as HTMLInputElement).checked)"
      />
      {{ t('door.locked') }}
    </label>
  </div>
</template>

<style scoped>
.moment {
  accent-color: var(--sea);
}
</style>
