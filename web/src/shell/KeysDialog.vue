<script setup lang="ts">
import ModalSheet from './ModalSheet.vue'

defineProps<{ open: boolean }>()
defineEmits<{ close: [] }>()

const keys = [
  ['1 … 3', 'go to a station'],
  ['/', 'search or do'],
  ['?', 'these keys'],
  ['j k', 'next and previous row'],
  ['h l', 'next and previous cell on the wall'],
  ['↵', 'open'],
  ['Esc', 'close what is open'],
  ['← →', 'on a ladder: move the peg or the bar'],
  ['a', 'on the wall: apply the least change'],
  ['m s', 'in the rulebook: another mode; seal or unseal'],
  ['u r', 'in the rulebook: undo and redo'],
  ['p', 'in the rulebook: compare and publish'],
  ['x', 'comparing rulebooks: swap the two'],
]
</script>

<template>
  <ModalSheet :open="open" title="Keys" @close="$emit('close')">
    <dl class="grid grid-cols-[6rem_1fr] gap-y-1.5">
      <template v-for="[key, does] in keys" :key="key">
        <dt class="value font-bold">{{ key }}</dt>
        <dd>{{ does }}</dd>
      </template>
    </dl>
  </ModalSheet>
</template>
