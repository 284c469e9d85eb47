<script setup lang="ts">
import { t } from '@/wording'
import { computed, ref } from 'vue'
import { label, optionsOf, useCatalogue } from '@/api/catalogue'
import type { ControlView, SessionPage } from '@/api/schema'
import { fromStart } from './floor'

/** A session's name and clock, and what can be done to it as a whole. */
const props = defineProps<{ page: SessionPage; now: number; mayAct: boolean }>()
const emit = defineEmits<{
  whole: [act: string, control?: string, value?: string]
  end: []
}>()
const line = computed(() => props.page.line)
const value = (control: string) => String(props.page.controls[control] ?? '')
const { catalogue } = useCatalogue()
const first = ['waiting-room', 'screen-share', 'chat', 'rename-self']
/** What is decided before anybody comes, and is no setting of a running session. */
const before = [
  'passcode',
  'registration',
  'meeting-number',
  'forwarding',
  'listing',
  'early-entry',
  'arrival-notice',
]
const settable = (c: ControlView) =>
  c.scale === 'words' && c.family !== 'passcode' && !before.includes(c.id)
const heads = computed(() =>
  first.flatMap((id) => (catalogue.value?.controls ?? []).filter((c) => c.id === id)),
)
const others = computed(() =>
  (catalogue.value?.controls ?? []).filter((c) => settable(c) && !first.includes(c.id)),
)
const more = ref(false)
const names: Record<string, string> = {
  'screen-share': t('floor.sharing'),
  chat: t('floor.chat'),
  'rename-self': t('floor.renaming'),
}
const nameOf = (c: ControlView) => names[c.id] ?? c.title
const set = (c: ControlView, event: Event) => {
  const select = event.target as HTMLSelectElement
  emit('whole', 'set', c.id, select.value)
  // what is refused stands as it was
  select.value = value(c.id)
}
const over = computed(() => line.value.state === 'ended' || line.value.state === 'lost')
</script>

<template>
  <header
    class="flex shrink-0 flex-wrap items-center gap-x-4 gap-y-1 border-b border-line px-5 py-2"
  >
    <RouterLink class="link" to="/floor">{{ t('floor.sessions') }}</RouterLink>
    <h1 class="max-w-[26rem] truncate text-[17px] font-bold" dir="auto" :title="line.title">
      {{ line.title }}
    </h1>
    <span v-if="line.practice" class="text-soft">
      {{ t('floor.practiceSpaced')
      }}<template v-if="line.speed !== 1">, {{ line.speed }}×</template>
    </span>
    <span class="value">{{
      line.state === 'asked'
        ? t('floor.notOpenYet')
        : line.state === 'lost'
          ? t('floor.brokenOffTheServiceKnowsItNo')
          : over
            ? t('floor.over')
            : fromStart(line, now)
    }}</span>
    <span v-if="!over && !line.hostsIn" class="text-rust">{{ t('floor.noHostIsIn') }}</span>
    <span class="ml-auto flex flex-wrap items-center gap-x-3 gap-y-1">
      <template v-if="mayAct">
        <label v-for="c in heads" :key="c.id" class="flex items-center gap-1">
          <span class="text-soft">{{ nameOf(c) }}</span>
          <select class="field" :value="value(c.id)" @change="set(c, $event)">
            <option v-for="o in optionsOf(c, [])" :key="String(o.value)" :value="String(o.value)">
              {{ o.label }}
            </option>
          </select>
        </label>
        <span class="relative">
          <button
            class="link"
            :aria-expanded="more"
            aria-controls="session-more"
            @click="more = !more"
          >
            {{ t('floor.more') }}
          </button>
          <span
            v-if="more"
            id="session-more"
            class="absolute right-0 z-20 mt-1 block max-h-[60vh] w-96 overflow-auto border border-ink bg-sheet px-3 py-2"
            @keydown.esc.stop="more = false"
          >
            <label
              v-for="c in others"
              :key="c.id"
              class="flex items-center justify-between gap-3 py-0.5"
            >
              <span class="truncate">{{ c.title }}</span>
              <select class="field w-44" :value="value(c.id)" @change="set(c, $event)">
                <option
                  v-for="o in optionsOf(c, [])"
                  :key="String(o.value)"
                  :value="String(o.value)"
                >
                  {{ o.label }}
                </option>
              </select>
            </label>
          </span>
        </span>
        <button class="link" @click="emit('whole', 'silence-all')">
          {{ t('floor.silenceAll') }}
        </button>
        <button
          class="button"
          :aria-pressed="line.locked"
          @click="emit('whole', line.locked ? 'unlock' : 'lock')"
        >
          {{ line.locked ? t('floor.unlock') : t('floor.lock') }}
        </button>
        <button class="button" @click="emit('end')">{{ t('floor.endForAll') }}</button>
      </template>
      <span v-else class="text-soft">
        <template v-for="c in heads" :key="c.id"
          >{{ nameOf(c) }}: {{ label(c, value(c.id)) }} &nbsp;</template
        >
      </span>
      <RouterLink class="link" :to="`/floor/${line.id}/after`">{{
        t('floor.afterwards')
      }}</RouterLink>
    </span>
  </header>
</template>
