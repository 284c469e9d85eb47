<script setup lang="ts">
/** Before there is any edition: begin with the starter, or write one's own. */
defineProps<{ editable: boolean }>()
defineEmits<{ begin: [] }>()
</script>

<template>
  <div class="border-b border-line bg-sheet px-5 py-4">
    <p class="head">There is no rulebook yet.</p>
    <p class="max-w-prose">
      Begin with a starter drawn from published guidance on securing online meetings: it comes as a
      draft, each rule says what it follows, and you go through it family by family, keep or change.
      Nothing counts until you publish edition 1. Or write your own, control by control.
    </p>
    <button v-if="editable" class="button button-main mt-2" @click="$emit('begin')">
      Begin with the starter rulebook
    </button>
  </div>
</template>
