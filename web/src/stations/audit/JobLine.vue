<script setup lang="ts">
import { t } from '@/wording'
import { useQuery, useQueryCache } from '@pinia/colada'
import { computed } from 'vue'
import { api, take } from '@/api/client'
import { useSession } from '@/api/session'
import { useAct } from '@/shell/act'
import ProblemNote from '@/shell/ProblemNote.vue'
import { jobWords } from './jobs'

/** How a remedy stands, in a line, with the way to undo it or try it again. */
const props = defineProps<{ job: number }>()
const emit = defineEmits<{ acted: [] }>()
const session = useSession()
const cache = useQueryCache()
const { problem, attempt } = useAct()
const { data } = useQuery({
  key: () => ['remedies', props.job],
  query: () =>
    take(
      api.GET('/api/remedies/{id}', { params: { path: { id: props.job }, query: { most: 5 } } }),
    ),
})
const state = computed(() => (data.value ? jobWords(data.value.job) : null))
const act = (what: 'undo' | 'retry') =>
  attempt(async () => {
    const path = { params: { path: { id: props.job } } }
    await take(
      what === 'undo'
        ? api.POST('/api/remedies/{id}/undo', path)
        : api.POST('/api/remedies/{id}/retry', path),
    )
    emit('acted')
    await cache.invalidateQueries({ key: ['remedies'] })
  })
defineExpose({
  undo: () => (data.value?.job.states.done && !data.value.job.undoneBy ? act('undo') : undefined),
})
</script>

<template>
  <div
    v-if="data && state"
    class="border-l-4 px-3 py-1.5"
    :class="
      state.tone === 'good'
        ? 'border-kelp'
        : state.tone === 'bad'
          ? 'border-rust bg-rust-wash'
          : 'border-sand bg-sand-wash'
    "
    role="status"
  >
    {{ data.job.undoneBy ? t('audit.undone') : state.words }}
    <span v-if="data.job.trouble" class="block text-[12.5px]">{{ data.job.trouble }}</span>
    <template v-if="session.mayMend">
      <button
        v-if="data.job.states.done && !data.job.undoneBy"
        class="link ml-1"
        @click="act('undo')"
      >
        {{ t('audit.undo') }}
      </button>
      <button v-if="state.tone === 'bad'" class="link ml-1" @click="act('retry')">
        {{ t('audit.tryAgain') }}
      </button>
    </template>
    <ProblemNote class="mt-1" :problem="problem" />
  </div>
</template>
