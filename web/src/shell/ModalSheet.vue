<script setup lang="ts">
import { t } from '@/wording'
import { Dialog, DialogPanel, DialogTitle } from '@headlessui/vue'
import { ref, watch } from 'vue'

const props = defineProps<{
  open: boolean
  title: string
  wide?: boolean
  /** What has the focus first; the first button otherwise. */
  first?: HTMLElement | null
}>()
defineEmits<{ close: [] }>()

// pages have many that are never opened
const wasOpened = ref(props.open)
// A sheet opened from the command field would give the focus back to it, and keys would be letters.
watch(
  () => props.open,
  (open) => {
    if (open) {
      wasOpened.value = true
      return
    }
    setTimeout(() => {
      if (document.activeElement?.getAttribute('role') === 'combobox') {
        document.getElementById('work')?.focus({ preventScroll: true })
      }
    })
  },
)
</script>

<template>
  <Dialog
    v-if="wasOpened"
    :open="open"
    class="relative z-40"
    :initial-focus="first ?? null"
    @close="$emit('close')"
  >
    <div class="fixed inset-0 bg-veil" aria-hidden="true" />
    <div class="fixed inset-0 flex items-start justify-center overflow-auto p-10">
      <DialogPanel
        class="w-full border border-ink bg-sheet px-6 py-5"
        :class="wide ? 'max-w-3xl' : 'max-w-lg'"
      >
        <div class="mb-3 flex items-baseline justify-between">
          <DialogTitle class="text-lg font-bold">{{ title }}</DialogTitle>
          <button class="link" @click="$emit('close')">{{ t('shell.close') }}</button>
        </div>
        <slot />
      </DialogPanel>
    </div>
  </Dialog>
</template>
