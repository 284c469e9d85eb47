<script setup lang="ts">
import { t } from '@/wording'
import { useQueryCache } from '@pinia/colada'
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, take } from '@/api/client'
import { useAct } from '@/shell/act'
import ModalSheet from '@/shell/ModalSheet.vue'
import ProblemNote from '@/shell/ProblemNote.vue'

/** Cancelling a meeting: who is told, and that it can be put back. */
const props = defineProps<{ open: boolean; id: string; version: number; title: string }>()
const emit = defineEmits<{ close: [] }>()

const router = useRouter()
const cache = useQueryCache()
const send = ref(true)
const word = ref('')
const { busy, problem, attempt } = useAct()

async function cancel() {
  await attempt(async () => {
    await take(
      api.DELETE('/api/meetings/{id}', {
        params: {
          path: { id: props.id },
          query: { version: props.version, send: send.value, word: word.value },
        },
      }),
    )
    emit('close')
    await router.push('/register/cancelled')
    await cache.invalidateQueries({ key: ['meetings'] })
  })
}
</script>

<template>
  <ModalSheet :open="open" :title="t('register.cancelTitle', { title })" @close="emit('close')">
    <p class="text-soft">
      {{ t('register.itLeavesTheRegisterAllItsDates') }}
    </p>
    <label class="mt-3 flex items-center gap-2">
      <input v-model="send" type="checkbox" /> {{ t('register.tellEverybodyInvited') }}
    </label>
    <label class="mt-2 block">
      <span class="text-soft">{{ t('register.aWordToThem') }}</span>
      <textarea
        v-model="word"
        class="field mt-1 w-full"
        rows="2"
        maxlength="2000"
        :readonly="busy"
      />
    </label>
    <ProblemNote class="mt-2" :problem="problem" />
    <div class="mt-4 flex gap-3">
      <button type="button" class="button button-main" :disabled="busy" @click="cancel">
        {{ busy ? t('register.cancelling') : t('register.cancelTheMeeting') }}
      </button>
      <button type="button" class="button" @click="emit('close')">
        {{ t('register.keepIt') }}
      </button>
    </div>
  </ModalSheet>
</template>
