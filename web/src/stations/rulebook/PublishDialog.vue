<script setup lang="ts">
import { ref } from 'vue'
import { label, useCatalogue } from '@/api/catalogue'
import ModalSheet from '@/shell/ModalSheet.vue'
import ProblemNote from '@/shell/ProblemNote.vue'
import type { Rule } from './draft'
import { limitOf, startOf } from './rungs'

/** What publishing would change, and why; then it is published. */
defineProps<{
  open: boolean
  next: number
  overtaken: boolean
  problem: Error | null
  differences: { layer: string; control: string; before?: Rule; after?: Rule }[]
}>()
const emit = defineEmits<{ close: []; publish: [reason: string]; rebase: [] }>()

const { controls } = useCatalogue()
const reason = ref('')

function words(rule: Rule | undefined): string {
  if (!rule) return 'no rule'
  const control = controls.value.get(rule.control)
  const start = label(control, startOf(rule))
  const limit = limitOf(rule)
  const range =
    rule.mode === 'bound'
      ? `bound: start ${start}, limit ${label(control, limit)}`
      : `${rule.mode}: ${start}`
  return `${range}${rule.sealed ? ', sealed' : ''}, importance ${rule.importance ?? 2}`
}
</script>

<template>
  <ModalSheet :open="open" :title="`Publish edition ${next}`" wide @close="emit('close')">
    <p class="text-soft">
      New meetings begin with it. Meetings already scheduled keep their values; an audit shows where
      they fall short.
    </p>
    <table class="grid-lines mt-3">
      <thead>
        <tr>
          <th>Control</th>
          <th>Layer</th>
          <th>In force</th>
          <th>Draft</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="line in differences" :key="line.layer + line.control">
          <td>{{ controls.get(line.control)?.title }}</td>
          <td class="text-soft">{{ line.layer }}</td>
          <td class="value text-soft">{{ words(line.before) }}</td>
          <td class="value font-bold">{{ words(line.after) }}</td>
        </tr>
      </tbody>
    </table>
    <form class="mt-4 flex flex-col gap-3" @submit.prevent="emit('publish', reason)">
      <label class="flex flex-col gap-1">
        Why
        <textarea v-model="reason" class="field" rows="2" maxlength="2000" required />
      </label>
      <ProblemNote :problem="problem" />
      <div class="flex items-center gap-3">
        <button class="button button-main" :disabled="!reason.trim() || overtaken">
          Publish edition {{ next }}
        </button>
        <button v-if="overtaken" type="button" class="button" @click="emit('rebase')">
          Compare with the new edition
        </button>
        <span v-if="overtaken" class="text-rust">
          Somebody published meanwhile. Your draft is kept.
        </span>
      </div>
    </form>
  </ModalSheet>
</template>
