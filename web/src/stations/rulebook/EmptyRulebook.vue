<script setup lang="ts">
import { t } from '@/wording'
/** Before there is any edition: begin with the starter, or write one's own. */
defineProps<{ editable: boolean }>()
defineEmits<{ begin: [] }>()
</script>

<template>
  <div class="border-b border-line bg-sheet px-5 py-4">
    <p class="head">{{ t('rulebook.thereIsNoRulebookYet') }}</p>
    <p class="max-w-prose">
      {{ t('rulebook.beginWithAStarterDrawnFromPublished') }}
    </p>
    <button v-if="editable" class="button button-main mt-2" @click="$emit('begin')">
      {{ t('rulebook.beginWithTheStarterRulebook') }}
    </button>
  </div>
</template>
