<script setup lang="ts">
import { t } from '@/wording'
import { api, take } from '@/api/client'
import type { LinkedService } from '@/api/schema'
import { useSetting } from '@/shell/act'
import ProblemNote from '@/shell/ProblemNote.vue'
import { levels } from './conference'

/** What we may do in a service; counts as soon as it is chosen. */
const props = defineProps<{ service: LinkedService }>()
const emit = defineEmits<{ set: [LinkedService[]] }>()
const { shown, problem, set } = useSetting(
  () => props.service.level,
  async (level) => {
    const path = { params: { path: { id: props.service.id } } }
    // the rest stays as it is by then, whatever it was when this list was read
    emit('set', await take(api.PUT('/api/services/{id}', { ...path, body: { level } })))
  },
)
async function choose(event: Event) {
  const field = event.target as HTMLSelectElement
  await set(field.value)
  // the field shows what is in force, not what was tried
  field.value = shown.value
}
</script>

<template>
  <select
    class="field"
    :aria-label="t('house.whatWeDoInName', { name: service.name })"
    :value="shown"
    @change="choose"
  >
    <option v-for="l in levels" :key="l.id" :value="l.id">{{ l.words }}</option>
  </select>
  <ProblemNote v-if="problem" class="mt-1" :problem="problem" />
</template>
