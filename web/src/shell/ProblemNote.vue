<script setup lang="ts">
import { Problem } from '@/api/client'

/** A problem beside what caused it: what is wrong, where, and what to do. */
defineProps<{ problem: Error | null | undefined }>()
</script>

<template>
  <div v-if="problem" class="border-l-4 border-rust bg-rust-wash px-3 py-2" role="alert">
    <p>{{ problem.message }}</p>
    <ul
      v-if="problem instanceof Problem && problem.faults.length"
      class="mt-1 max-h-64 overflow-auto"
    >
      <li v-for="(fault, i) in problem.faults" :key="i" class="py-0.5">
        <span class="value">{{ fault.pointer || 'the document' }}</span> {{ fault.message }}
      </li>
    </ul>
  </div>
</template>
