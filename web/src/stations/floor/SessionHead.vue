<script setup lang="ts">
import { computed } from 'vue'
import type { SessionPage } from '@/api/schema'
import { fromStart } from './floor'

/** A session's name and clock, and what can be done to it as a whole. */
const props = defineProps<{ page: SessionPage; now: number; mayAct: boolean }>()
const emit = defineEmits<{
  whole: [act: string, control?: string, value?: string]
  end: []
}>()
const line = computed(() => props.page.line)
const value = (control: string) => String(props.page.controls[control])
/** What can be closed, and how it stands when it is. */
const closings = [
  { control: 'waiting-room', name: 'Waiting room', on: 'off', off: 'on', isOn: 'on', isOff: 'off' },
  {
    control: 'screen-share',
    name: 'Sharing',
    on: 'hosts',
    off: 'presenters',
    isOn: 'hosts only',
    isOff: 'open',
  },
  { control: 'chat', name: 'Chat', on: 'off', off: 'in-session', isOn: 'closed', isOff: 'open' },
  {
    control: 'rename-self',
    name: 'Renaming',
    on: 'barred',
    off: 'allowed',
    isOn: 'closed',
    isOff: 'open',
  },
]
const isClosed = (c: (typeof closings)[number]) =>
  c.control === 'waiting-room' ? line.value.waitingRoom : value(c.control) === c.on
function toggle(c: (typeof closings)[number]) {
  const strict = c.control === 'waiting-room' ? 'on' : c.on
  const loose = c.control === 'waiting-room' ? 'off' : c.off
  emit('whole', 'set', c.control, isClosed(c) ? loose : strict)
}
const over = computed(() => line.value.state === 'ended' || line.value.state === 'lost')
</script>

<template>
  <header
    class="flex shrink-0 flex-wrap items-center gap-x-4 gap-y-1 border-b border-line px-5 py-2"
  >
    <RouterLink class="link" to="/floor">Sessions</RouterLink>
    <h1 class="max-w-[26rem] truncate text-[17px] font-bold" :title="line.title">
      {{ line.title }}
    </h1>
    <span v-if="line.practice" class="text-soft">
      practice<template v-if="line.speed !== 1">, {{ line.speed }}×</template>
    </span>
    <span class="value">{{
      line.state === 'asked'
        ? 'not open yet'
        : line.state === 'lost'
          ? 'broken off: the service knows it no more'
          : over
            ? 'over'
            : fromStart(line, now)
    }}</span>
    <span v-if="!over && !line.hostsIn" class="text-rust">no host is in</span>
    <span class="ml-auto flex items-center gap-3">
      <template v-if="mayAct">
        <button
          v-for="c in closings"
          :key="c.control"
          class="link"
          :aria-pressed="isClosed(c)"
          @click="toggle(c)"
        >
          {{ c.name }}: <strong>{{ isClosed(c) ? c.isOn : c.isOff }}</strong>
        </button>
        <button class="link" @click="emit('whole', 'silence-all')">Silence all</button>
        <button
          class="button"
          :aria-pressed="line.locked"
          @click="emit('whole', line.locked ? 'unlock' : 'lock')"
        >
          {{ line.locked ? 'Unlock' : 'Lock' }}
        </button>
        <button class="button" @click="emit('end')">End for all</button>
      </template>
      <RouterLink class="link" :to="`/floor/${line.id}/after`">Afterwards</RouterLink>
    </span>
  </header>
</template>
