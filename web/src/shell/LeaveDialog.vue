<script setup lang="ts">
import { ref } from 'vue'
import ModalSheet from './ModalSheet.vue'
import { isKept, leaving } from './unsaved'

/** Asks before something that is not saved is left. */
const stay = ref<HTMLElement | null>(null)
</script>

<template>
  <ModalSheet
    :open="leaving !== null"
    title="Leave without saving?"
    :first="stay"
    @close="leaving?.(false)"
  >
    <p>
      {{
        isKept
          ? 'What you typed is not saved. It is kept in this browser and offered again.'
          : 'Something on this page is not saved, and would be lost.'
      }}
    </p>
    <div class="mt-4 flex gap-3">
      <button ref="stay" type="button" class="button button-main" @click="leaving?.(false)">
        Stay here
      </button>
      <button type="button" class="button" @click="leaving?.(true)">Leave</button>
    </div>
  </ModalSheet>
</template>
