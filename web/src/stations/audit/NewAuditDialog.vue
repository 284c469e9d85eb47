<script setup lang="ts">
import { t } from '@/wording'
import { useQueryCache } from '@pinia/colada'
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, take } from '@/api/client'
import { useAct } from '@/shell/act'
import ModalSheet from '@/shell/ModalSheet.vue'
import ProblemNote from '@/shell/ProblemNote.vue'
import ScopeFields from './ScopeFields.vue'

/** Begins an audit of everything, or of a part. */
defineProps<{ open: boolean }>()
const emit = defineEmits<{ close: [] }>()
const cache = useQueryCache()
const router = useRouter()
const unit = ref('')
const kind = ref('')
const days = ref(90)
const { busy, problem, attempt } = useAct()
async function start() {
  await attempt(async () => {
    const from = new Date()
    const run = await take(
      api.POST('/api/audits', {
        body: {
          from: from.toISOString(),
          to: new Date(from.getTime() + days.value * 864e5).toISOString(),
          scope: { unit: unit.value || null, kind: kind.value || null, host: null },
        },
      }),
    )
    await cache.invalidateQueries({ key: ['audits'] })
    emit('close')
    await router.push(`/audit/${run.id}`)
  })
}
</script>

<template>
  <ModalSheet :open="open" :title="t('audit.audit')" @close="emit('close')">
    <form @submit.prevent="start">
      <ScopeFields v-model:unit="unit" v-model:kind="kind" v-model:days="days" />
      <ProblemNote class="mt-2" :problem="problem" />
      <button class="button button-main mt-3" :disabled="busy">{{ t('audit.begin') }}</button>
    </form>
  </ModalSheet>
</template>
