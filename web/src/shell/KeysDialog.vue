<script setup lang="ts">
import { t } from '@/wording'
import { useSession } from '@/api/session'
import { keysShown } from './keys'
import ModalSheet from './ModalSheet.vue'
import { stationsFor } from './stations'

/** Every key: those of the page that is shown, then those that work everywhere. */
defineProps<{ open: boolean }>()
defineEmits<{ close: [] }>()
const session = useSession()
const stations = () => Math.min(9, stationsFor(session.who?.role ?? '').length)
const everywhere = () => [
  { keys: `1 … ${stations()}`, does: t('shell.goToAStation') },
  { keys: '/', does: t('shell.searchOrDo3') },
  { keys: '?', does: t('shell.theseKeys') },
  { keys: t('shell.esc'), does: t('shell.closeWhatIsOpen') },
]
</script>

<template>
  <ModalSheet :open="open" :title="t('shell.keys')" @close="$emit('close')">
    <template
      v-for="[title, keys] in [
        [t('shell.onThisPage'), keysShown],
        [t('shell.everywhere'), everywhere()],
      ] as const"
      :key="title"
    >
      <h3 v-if="keys.length" class="head mt-2">{{ title }}</h3>
      <dl v-if="keys.length" class="mb-3 grid grid-cols-[6rem_1fr] gap-y-1.5">
        <template v-for="key in keys" :key="key.does">
          <dt class="value font-bold">{{ key.keys }}</dt>
          <dd>{{ key.does }}</dd>
        </template>
      </dl>
    </template>
  </ModalSheet>
</template>
