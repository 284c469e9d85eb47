<script setup lang="ts">
import { ref, watch } from 'vue'
import { api, take } from '@/api/client'
import type { FloorAlert } from '@/api/schema'
import { useAct } from '@/shell/act'
import ModalSheet from '@/shell/ModalSheet.vue'
import ProblemNote from '@/shell/ProblemNote.vue'

/** Hands an alert on, or closes it with a note. */
const props = defineProps<{ alert: FloorAlert | null }>()
const emit = defineEmits<{ close: []; done: [] }>()
const state = ref<'closed' | 'handed-on'>('closed')
const to = ref('')
const note = ref('')
const { busy, problem, attempt } = useAct()
watch(
  () => props.alert?.id,
  () => {
    state.value = 'closed'
    to.value = ''
    note.value = ''
    problem.value = null
  },
)
async function save() {
  const id = props.alert?.id
  if (!id) return
  await attempt(async () => {
    await take(
      api.POST('/api/floor/alerts/{id}', {
        params: { path: { id } },
        body: {
          state: state.value,
          ...(state.value === 'handed-on' ? { to: to.value } : {}),
          ...(note.value ? { note: note.value } : {}),
        },
      }),
    )
    emit('done')
    emit('close')
  })
}
</script>

<template>
  <ModalSheet :open="!!alert" :title="alert?.title ?? ''" @close="emit('close')">
    <form v-if="alert" @submit.prevent="save">
      <p>{{ alert.words }}</p>
      <fieldset class="mt-3 flex gap-4">
        <legend class="hidden-label">What becomes of it</legend>
        <label><input v-model="state" type="radio" value="closed" /> close it</label>
        <label><input v-model="state" type="radio" value="handed-on" /> hand it on</label>
      </fieldset>
      <label v-if="state === 'handed-on'" class="mt-2 block">
        To whom
        <input v-model="to" class="field mt-1 w-full" type="email" required />
      </label>
      <label class="mt-2 block">
        Note
        <textarea
          v-model="note"
          class="field mt-1 w-full"
          rows="2"
          maxlength="2000"
          :required="state === 'closed'"
        />
      </label>
      <ProblemNote class="mt-2" :problem="problem" />
      <button class="button button-main mt-3" :disabled="busy">
        {{ state === 'closed' ? 'Close it' : 'Hand it on' }}
      </button>
    </form>
  </ModalSheet>
</template>
