<script setup lang="ts">
import { t } from '@/wording'
import { computed } from 'vue'

/** Under the ladders: publish, undo, redo, and the ways to compare, look back and print. */
const props = defineProps<{
  editable: boolean
  /** Whether whoever drafts also publishes. */
  publishes: boolean
  publishable: boolean
  canUndo: boolean
  canRedo: boolean
  saving: 'saved' | 'saving' | 'failed' | null
  said: string
  print: {
    of: string
    unit?: string | undefined
    kind?: string | undefined
    person?: string | undefined
  }
}>()
defineEmits<{ publish: []; undo: []; redo: [] }>()

const words = {
  saved: t('rulebook.draftSaved'),
  saving: t('rulebook.saving'),
  failed: t('rulebook.notSaved'),
}
const printed = computed(() => {
  const query = new URLSearchParams()
  for (const [key, value] of Object.entries(props.print)) if (value) query.set(key, value)
  return `/api/rulebook/print?${query}`
})
</script>

<template>
  <div
    class="flex shrink-0 flex-wrap items-center gap-x-3 gap-y-1 border-t border-line px-5 py-2.5"
  >
    <template v-if="editable">
      <button
        v-if="publishes"
        class="button button-main"
        :disabled="!publishable"
        @click="$emit('publish')"
      >
        {{ t('rulebook.compareAndPublish2') }}
      </button>
      <span v-else class="text-soft">{{ t('rulebook.aWardenPublishesIt') }}</span>
      <button class="button" :disabled="!canUndo" @click="$emit('undo')">
        {{ t('rulebook.undo2') }}
      </button>
      <button class="button" :disabled="!canRedo" @click="$emit('redo')">
        {{ t('rulebook.redo2') }}
      </button>
      <span v-if="saving" class="text-soft" role="status">{{ words[saving] }}</span>
    </template>
    <span v-if="said" class="text-kelp" role="status">{{ said }}</span>
    <RouterLink class="link ml-auto" to="/rulebook/compare">{{ t('rulebook.compare') }}</RouterLink>
    <RouterLink class="link" to="/rulebook/editions">{{ t('rulebook.editions') }}</RouterLink>
    <a class="link" target="_blank" :href="printed">{{ t('rulebook.print') }}</a>
  </div>
</template>
