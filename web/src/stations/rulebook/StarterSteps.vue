<script setup lang="ts">
import { t } from '@/wording'
import { computed } from 'vue'
import type { FamilyView } from '@/api/schema'

/** The way through the starter rulebook: family by family, keep or change, then publish. */
const props = defineProps<{ families: FamilyView[]; family: string }>()
const emit = defineEmits<{ go: [family: string]; finish: []; leave: [] }>()

const steps = computed(() => [...props.families.map((f) => f.id), 'guarantees'])
const here = computed(() => Math.max(0, steps.value.indexOf(props.family)))
const last = computed(() => here.value === steps.value.length - 1)
const title = computed(
  () => props.families.find((f) => f.id === props.family)?.title ?? t('rulebook.guarantees'),
)
const step = (by: number) => emit('go', steps.value[here.value + by] ?? props.family)
</script>

<template>
  <div
    class="flex items-center gap-3 border-b border-line bg-sheet px-5 py-2"
    role="group"
    :aria-label="t('rulebook.starterRulebook')"
  >
    <p class="flex-1">
      <strong>{{
        t('rulebook.stepHereOfStepsTitle', { here: here + 1, steps: steps.length, title })
      }}</strong>
      {{ t('rulebook.keepWhatTheStarterSaysOrChange') }}
    </p>
    <button class="link" @click="emit('leave')">{{ t('rulebook.leaveTheSteps') }}</button>
    <button class="button" :disabled="here === 0" @click="step(-1)">
      {{ t('rulebook.back') }}
    </button>
    <button v-if="!last" class="button" @click="emit('finish')">
      {{ t('rulebook.keepAllOfIt') }}
    </button>
    <button v-if="!last" class="button button-main" @click="step(1)">
      {{ t('rulebook.keepAndGoOn') }}
    </button>
    <button v-else class="button button-main" @click="emit('finish')">
      {{ t('rulebook.compareAndPublishEdition1') }}
    </button>
  </div>
</template>
