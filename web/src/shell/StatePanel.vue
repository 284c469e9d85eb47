<script setup lang="ts">
import { t } from '@/wording'
import type { Problem } from '@/api/client'

/** What a page shows instead of its contents: loading, failed, not allowed, empty. */
defineProps<{
  state: 'loading' | 'failed' | 'empty'
  title?: string
  problem?: Problem | Error | null
}>()
defineEmits<{ retry: [] }>()
</script>

<template>
  <div
    class="mx-auto max-w-md px-6 py-16 text-center"
    :role="state === 'failed' ? 'alert' : 'status'"
  >
    <p v-if="state === 'loading'" class="text-soft">{{ t('shell.readingTheChart') }}</p>
    <template v-else-if="state === 'failed'">
      <p class="head text-base">
        {{
          problem && 'status' in problem && problem.status === 403
            ? t('shell.notForYourAccount')
            : t('shell.thatDidNotWork')
        }}
      </p>
      <p class="mt-1 text-soft">{{ problem?.message }}</p>
      <button class="button mt-4" @click="$emit('retry')">{{ t('shell.tryAgain') }}</button>
    </template>
    <template v-else>
      <p class="head text-base">{{ title }}</p>
      <div class="mt-1 text-soft"><slot /></div>
    </template>
  </div>
</template>
