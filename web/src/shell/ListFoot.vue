<script setup lang="ts">
import { t } from '@/wording'

/** Under a list: how much there is, its pages, and the keys that every list has. */
defineProps<{
  /** How many rows there are in all, in words. */
  count: string
  /** The page, from 0, and how many there are; left out where all is on one. */
  page?: number
  pages?: number
  opens?: boolean
  /** Without the keys, where those of the page are another list’s. */
  quiet?: boolean
}>()
defineEmits<{ turn: [page: number] }>()
</script>

<template>
  <div
    class="flex shrink-0 flex-wrap items-center gap-x-3 gap-y-1 border-t border-line px-5 py-1.5 text-[12.5px] text-soft"
  >
    <span role="status">{{ count }}</span>
    <template v-if="(pages ?? 1) > 1">
      <button
        type="button"
        class="link"
        :disabled="page === 0"
        @click="$emit('turn', (page ?? 0) - 1)"
      >
        {{ t('shell.back') }}
      </button>
      <span>{{ t('shell.pageOfPages', { page: (page ?? 0) + 1, pages }) }}</span>
      <button
        type="button"
        class="link"
        :disabled="(page ?? 0) + 1 >= (pages ?? 1)"
        @click="$emit('turn', (page ?? 0) + 1)"
      >
        {{ t('shell.onwards') }}
      </button>
    </template>
    <slot />
    <span v-if="!quiet" class="ml-auto flex gap-x-3 phone:hidden">
      <span><strong>j k</strong> {{ t('shell.move') }}</span>
      <span v-if="opens"><strong>↵</strong> {{ t('shell.opens') }}</span>
      <span><strong>f</strong> {{ t('shell.filters') }}</span>
      <span><strong>?</strong> {{ t('shell.allKeys') }}</span>
    </span>
  </div>
</template>
