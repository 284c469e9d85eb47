<script setup lang="ts">
import { Dialog, DialogPanel, DialogTitle } from '@headlessui/vue'

defineProps<{ open: boolean; title: string; wide?: boolean }>()
defineEmits<{ close: [] }>()
</script>

<template>
  <Dialog :open="open" class="relative z-40" @close="$emit('close')">
    <div class="fixed inset-0 bg-ink/30" aria-hidden="true" />
    <div class="fixed inset-0 flex items-start justify-center overflow-auto p-10">
      <DialogPanel
        class="w-full border border-ink bg-sheet px-6 py-5"
        :class="wide ? 'max-w-3xl' : 'max-w-lg'"
      >
        <div class="mb-3 flex items-baseline justify-between">
          <DialogTitle class="text-lg font-bold">{{ title }}</DialogTitle>
          <button class="link" @click="$emit('close')">Close</button>
        </div>
        <slot />
      </DialogPanel>
    </div>
  </Dialog>
</template>
