<script setup lang="ts">
import { t } from '@/wording'
import { useTimeoutFn } from '@vueuse/core'
import { ref } from 'vue'
import { useAct } from './act'
import { copyText } from './copying'

/** Copies a text, and says whether that was done. */
const props = defineProps<{ text: string }>()
defineOptions({ inheritAttrs: false })
const { problem, attempt } = useAct()
const copied = ref('')
const { start } = useTimeoutFn(() => (copied.value = ''), 4000, { immediate: false })
const copy = () =>
  attempt(async () => {
    copied.value = ''
    const text = props.text
    await copyText(text)
    copied.value = text
    start()
  })
</script>

<template>
  <button type="button" v-bind="$attrs" @click="copy">
    <template v-if="copied && copied === text">{{ t('shell.copied') }}</template>
    <slot v-else />
  </button>
  <span v-if="problem" class="ml-2 text-rust" role="alert">{{ problem.message }}</span>
</template>
