<script setup lang="ts">
import { t } from '@/wording'
import { Problem } from '@/api/client'
import { fieldWord } from './fields'

/** A problem beside what caused it: what is wrong, where, and what to do. */
defineProps<{ problem: Error | null | undefined }>()

/** A form's field by its word; a place in a document as it is, so that it is found there. */
function where(pointer: string) {
  if (!pointer) return t('shell.theDocument')
  const field = /^\/([A-Za-z][A-Za-z-]*)$/.exec(pointer)?.[1]
  if (!field) return pointer
  const words = fieldWord(field) ?? field.replace(/-|(?<=[a-z])(?=[A-Z])/g, ' ').toLowerCase()
  return `${words.charAt(0).toUpperCase()}${words.slice(1)}:`
}
</script>

<template>
  <div v-if="problem" class="border-l-4 border-rust bg-rust-wash px-3 py-2" role="alert">
    <p>{{ problem.message }}</p>
    <ul
      v-if="problem instanceof Problem && problem.faults.length"
      class="mt-1 max-h-64 overflow-auto"
    >
      <li v-for="(fault, i) in problem.faults" :key="i" class="py-0.5">
        <span :class="where(fault.pointer) === fault.pointer ? 'value' : ''">{{
          where(fault.pointer)
        }}</span>
        {{ fault.message }}
      </li>
    </ul>
  </div>
</template>
