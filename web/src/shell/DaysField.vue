<script setup lang="ts">
import { vShows } from '@/shell/shows'
import { locale, t } from '@/wording'
import { Popover, PopoverButton, PopoverPanel } from '@headlessui/vue'
import { computed } from 'vue'
import { isDay } from './rows'

/** From a day to a day, both in it; each as `2026-05-01` or empty. */
const props = defineProps<{
  from: string
  to: string
  /** What of a row the days are of. */
  of: string
}>()
const emit = defineEmits<{ set: [part: { from?: string; to?: string }] }>()
const value = (event: Event) => (event.target as HTMLInputElement).value || undefined
const form = new Intl.DateTimeFormat(locale, { day: 'numeric', month: 'short' })
const short = (day: string) => (isDay(day) ? form.format(new Date(`${day}T00:00`)) : '…')
const chosen = computed(() =>
  props.from || props.to
    ? props.from === props.to
      ? short(props.from)
      : `${short(props.from)} – ${short(props.to)}`
    : t('shell.anyDay'),
)
</script>

<template>
  <Popover class="relative">
    <PopoverButton class="field whitespace-nowrap">{{ of }}: {{ chosen }}</PopoverButton>
    <PopoverPanel class="absolute left-0 z-30 mt-1 w-max border border-ink bg-sheet px-4 py-3">
      <div class="grid grid-cols-[auto_auto] items-center gap-x-3 gap-y-2">
        <label :for="`from-${of}`">{{ t('shell.daysFrom') }}</label>
        <input
          :id="`from-${of}`"
          v-shows="from"
          class="field"
          type="date"
          @change="emit('set', { from: value($event) })"
        />
        <label :for="`to-${of}`">{{ t('shell.daysTo') }}</label>
        <input
          :id="`to-${of}`"
          v-shows="to"
          class="field"
          type="date"
          @change="emit('set', { to: value($event) })"
        />
        <button
          type="button"
          class="link col-span-2 justify-self-start"
          @click="emit('set', { from: undefined, to: undefined })"
        >
          {{ t('shell.anyDay') }}
        </button>
      </div>
    </PopoverPanel>
  </Popover>
</template>
