<script setup lang="ts">
import { t } from '@/wording'
import { computed } from 'vue'
import { Problem } from '@/api/client'

/** Where somebody else was faster: offers what they made of it, in the place of what was typed. */
const props = defineProps<{ problem: Error | null | undefined }>()
defineEmits<{ look: [] }>()
const isOutdated = computed(
  () => props.problem instanceof Problem && props.problem.code === 'changed-meanwhile',
)
</script>

<template>
  <p v-if="isOutdated">
    <button type="button" class="link" @click="$emit('look')">
      {{ t('shell.showWhatItIsNow') }}
    </button>
    <span class="ml-2 text-soft">{{ t('shell.whatYouTypedHereIsGoneThen') }}</span>
  </p>
</template>
