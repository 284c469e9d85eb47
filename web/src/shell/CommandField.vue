<script setup lang="ts">
import { folded } from '@/api/folded'
import { t } from '@/wording'
import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions } from '@headlessui/vue'
import { useQuery } from '@pinia/colada'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { useCatalogue } from '@/api/catalogue'
import { api, take } from '@/api/client'
import { useSession } from '@/api/session'
import { commandsFor, isCalled, type Command } from './commands'
import { toggleTheme } from './theme'
import { mayLeave } from './unsaved'

/** Finds meetings, controls and commands by name, and goes there. */
const emit = defineEmits<{ keys: [] }>()

const router = useRouter()
const session = useSession()
const text = ref('')
// not before something is looked for: it would hold up the first page
const { catalogue } = useCatalogue(() => text.value.trim() !== '')
const wrapper = ref<HTMLElement | null>(null)

const { data: meetings } = useQuery({
  key: () => ['meetings', 'search', text.value],
  query: () => take(api.GET('/api/meetings', { params: { query: { text: text.value, size: 8 } } })),
  enabled: () => text.value.trim().length > 1,
})

const commands = computed(() =>
  commandsFor(session.who?.role ?? '', router, {
    keys: () => emit('keys'),
    theme: toggleTheme,
    signOut: async () => (await mayLeave()) && session.signOut(),
  }),
)

const found = computed<Command[]>(() => {
  const wanted = folded(text.value.trim())
  if (!wanted) return commands.value
  const controls = (catalogue.value?.controls ?? [])
    .filter((c) => folded(`${c.title} ${c.id} ${c.effect} ${c.risk}`).includes(wanted))
    .slice(0, 6)
    .map((c) => ({
      name: c.title,
      sort: 'control',
      go: () => router.push({ path: '/rulebook', query: { control: c.id } }),
    }))
  const lines = (meetings.value?.items ?? []).map((m) => ({
    name: m.title,
    sort: 'meeting',
    go: () => router.push(`/register/${encodeURIComponent(m.id)}`),
  }))
  return [...commands.value.filter((command) => isCalled(command, wanted)), ...lines, ...controls]
})

function choose(entry: Command | null) {
  if (!entry) return
  text.value = ''
  // keys are commands again, and what opens next gives the focus back to the page
  wrapper.value?.querySelector('input')?.blur()
  entry.go()
}

function focus() {
  wrapper.value?.querySelector('input')?.focus()
}
defineExpose({ focus })

const sorts: Record<string, string> = {
  'go to': t('shell.sortGoTo'),
  do: t('shell.sortDo'),
  control: t('shell.sortControl'),
  meeting: t('shell.sortMeeting'),
}
</script>

<template>
  <div ref="wrapper" class="relative">
    <Combobox :model-value="null" nullable @update:model-value="choose">
      <ComboboxInput
        class="field w-full py-1 pr-8"
        :placeholder="t('shell.searchOrDo')"
        :aria-label="t('shell.searchOrDo2')"
        autocomplete="off"
        :display-value="() => text"
        @change="text = ($event.target as HTMLInputElement).value"
        @keydown.esc="($event.target as HTMLInputElement).blur()"
      />
      <kbd
        class="value pointer-events-none absolute right-2 top-1.5 rounded border border-line px-1.5 text-[11px] text-soft"
        >/</kbd
      >
      <ComboboxOptions
        class="absolute right-0 z-30 mt-1 max-h-96 w-full overflow-auto border border-ink bg-sheet py-1 outline-none"
      >
        <li v-if="!found.length" class="px-3 py-1 text-soft">{{ t('shell.nothingOfThatName') }}</li>
        <ComboboxOption
          v-for="(entry, i) in found"
          :key="i"
          v-slot="{ active }"
          :value="entry"
          as="template"
        >
          <li
            class="flex cursor-pointer justify-between gap-3 px-3 py-1"
            :class="active ? 'bg-sea-wash' : ''"
          >
            <span class="truncate" dir="auto">{{ entry.name }}</span>
            <span class="text-soft">{{ sorts[entry.sort] }}</span>
          </li>
        </ComboboxOption>
      </ComboboxOptions>
    </Combobox>
  </div>
</template>
