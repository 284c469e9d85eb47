<script setup lang="ts">
import { t } from '@/wording'
import { ref, watch } from 'vue'
import { api, take } from '@/api/client'
import type { Cause } from './floor'
import { useAct } from '@/shell/act'
import ModalSheet from '@/shell/ModalSheet.vue'
import ProblemNote from '@/shell/ProblemNote.vue'

/** Passes an alert on, or closes all of its cause with a note. */
const props = defineProps<{ session: string; cause: Cause | null }>()
const emit = defineEmits<{ close: []; done: [] }>()
const state = ref<'closed' | 'handed-on'>('closed')
const to = ref('')
const note = ref('')
const { busy, problem, attempt } = useAct()
watch(
  () => props.cause?.cause,
  () => {
    state.value = 'closed'
    to.value = ''
    note.value = ''
    problem.value = null
  },
)
async function save() {
  const of = props.cause
  if (!of) return
  await attempt(async () => {
    if (state.value === 'handed-on')
      await take(
        api.POST('/api/floor/alerts/{id}', {
          params: { path: { id: of.first.id } },
          body: {
            state: state.value,
            to: to.value,
            ...(note.value ? { note: note.value } : {}),
          },
        }),
      )
    else
      await take(
        api.POST('/api/floor/sessions/{id}/alerts', {
          params: { path: { id: props.session } },
          body: { cause: of.cause, state: 'closed', note: note.value },
        }),
      )
    emit('done')
    emit('close')
  })
}
</script>

<template>
  <ModalSheet :open="!!cause" :title="cause?.first.title ?? ''" @close="emit('close')">
    <form v-if="cause" @submit.prevent="save">
      <p>
        {{ cause.first.words
        }}<template v-if="cause.alerts.length > 1">
          {{ t('floor.itIsOneOfAlertsWithThe', { alerts: cause.alerts.length }) }}</template
        >
      </p>
      <fieldset class="mt-3 flex gap-4">
        <legend class="hidden-label">{{ t('floor.whatBecomesOfIt') }}</legend>
        <label
          ><input v-model="state" type="radio" value="closed" />
          {{
            t('floor.closeX', { x: cause.alerts.length > 1 ? t('floor.allOfThem') : t('floor.it') })
          }}</label
        >
        <label
          ><input v-model="state" type="radio" value="handed-on" /> {{ t('floor.passItOn') }}</label
        >
      </fieldset>
      <label v-if="state === 'handed-on'" class="mt-2 block">
        {{ t('floor.toWhom') }}
        <input v-model="to" class="field mt-1 w-full" type="email" required />
      </label>
      <label class="mt-2 block">
        {{ t('floor.note') }}
        <textarea
          v-model="note"
          class="field mt-1 w-full"
          rows="2"
          maxlength="2000"
          :required="state === 'closed'"
          :readonly="busy"
        />
      </label>
      <ProblemNote class="mt-2" :problem="problem" />
      <button class="button button-main mt-3" :disabled="busy">
        {{ state === 'closed' ? t('floor.closeIt') : t('floor.passItOn2') }}
      </button>
    </form>
  </ModalSheet>
</template>
