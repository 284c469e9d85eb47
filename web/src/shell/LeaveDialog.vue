<script setup lang="ts">
import ModalSheet from './ModalSheet.vue'
import { leaving } from './unsaved'

/** Asks before something that is not saved is left. */
</script>

<template>
  <ModalSheet :open="leaving !== null" title="Leave without saving?" @close="leaving?.(false)">
    <p>Something on this page is not saved.</p>
    <div class="mt-4 flex gap-3">
      <button type="button" class="button button-main" @click="leaving?.(false)">Stay here</button>
      <button type="button" class="button" @click="leaving?.(true)">Leave, and lose it</button>
    </div>
  </ModalSheet>
</template>
