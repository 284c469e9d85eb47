<script setup lang="ts">
import { language, t } from '@/wording'
import { LANGUAGES } from '@/wording/language'

/** Which language the pages speak; each stands there by its own name. */
defineProps<{ busy?: boolean }>()
const emit = defineEmits<{ choose: [tag: 'en' | 'de'] }>()
</script>

<template>
  <select
    class="field"
    :aria-label="t('shell.language')"
    :value="language"
    :disabled="busy"
    @change="emit('choose', ($event.target as HTMLSelectElement).value as 'en')"
  >
    <option v-for="l in LANGUAGES" :key="l.tag" :value="l.tag" :lang="l.tag">{{ l.name }}</option>
  </select>
</template>
