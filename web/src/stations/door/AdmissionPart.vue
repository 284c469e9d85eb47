<script setup lang="ts">
import { t } from '@/wording'
import { useQuery } from '@pinia/colada'
import { computed, ref, watch } from 'vue'
import { label, useCatalogue, type Plain } from '@/api/catalogue'
import { api, take } from '@/api/client'
import type { Comer, RehearsalAsked } from '@/api/schema'
import ProblemNote from '@/shell/ProblemNote.vue'
import { actWords } from './door'

/** What it would take to let somebody in, or to keep them out. */
const props = defineProps<{ rehearsal: RehearsalAsked; comer: Comer }>()
const emit = defineEmits<{ pencil: [changes: Record<string, Plain>] }>()

const { catalogue, controls, controlTitle } = useCatalogue()
type Goal = 'in' | 'not-in' | 'refused'
const goal = ref<Goal>('in')
// the question that lies near: the other of what is
watch(
  () => props.comer.key,
  () => (goal.value = props.comer.then.outcome === 'in' ? 'not-in' : 'in'),
  { immediate: true },
)
const goals: { id: Goal; words: string }[] = [
  { id: 'in', words: t('door.straightIn') },
  { id: 'not-in', words: t('door.atLeastHeld') },
  { id: 'refused', words: t('door.refused') },
]
const { data, error } = useQuery({
  key: () => ['admission', JSON.stringify(props.rehearsal), props.comer.key, goal.value],
  query: () =>
    take(
      api.POST('/api/door/admission', {
        body: { rehearsal: props.rehearsal, who: props.comer.key, goal: goal.value },
      }),
    ),
})
const phrase = (id: string) => catalogue.value?.personas.find((p) => p.id === id)?.phrase ?? id
const none = computed(() => data.value && !data.value.already && !data.value.ways.length)
</script>

<template>
  <section class="mt-4" :aria-label="t('door.whatItWouldTake')">
    <div class="flex items-baseline justify-between gap-2 border-b border-line pb-1">
      <h2 class="head">{{ t('door.whatItWouldTake') }}</h2>
      <label class="flex items-center gap-1.5 text-soft">
        {{ t('door.toHaveThem') }}
        <select v-model="goal" class="field" :aria-label="t('door.toHaveThem2')">
          <option v-for="g in goals" :key="g.id" :value="g.id">{{ g.words }}</option>
        </select>
      </label>
    </div>
    <ProblemNote class="mt-2" :problem="error" />
    <p v-if="data?.already" class="mt-1.5 text-soft">{{ t('door.theyAre') }}</p>
    <p v-else-if="none" class="mt-1.5 text-soft">
      {{ t('door.noChangeOfUpToThreeControls') }}
    </p>
    <ul v-else>
      <li
        v-for="(way, i) in data?.ways ?? []"
        :key="i"
        class="flex items-start justify-between gap-2 border-b border-hair py-1.5"
      >
        <span class="value min-w-0">
          <span v-for="c in way.changes" :key="c.control" class="block">
            <strong>{{ controlTitle(c.control) }}</strong>
            <span class="ml-1.5 text-soft">{{ label(controls.get(c.control), c.from) }}</span> →
            {{ label(controls.get(c.control), c.to) }}
          </span>
          <span v-for="b in way.beyond" :key="b.control" class="block text-rust">
            {{ b.words }}
          </span>
          <span v-if="way.beside.length" class="block text-rust">
            {{
              t('door.xWhoeverJoin', {
                x: goal === 'in' ? t('door.alsoIn') : t('door.alsoKeptOut'),
                join: way.beside.map(phrase).join(', '),
              })
            }}
          </span>
          <span class="text-soft">{{
            t('door.inconvenienceFrictionExposureExposure', {
              friction: way.friction,
              exposure: way.exposure,
            })
          }}</span>
        </span>
        <button
          class="button shrink-0"
          @click="emit('pencil', Object.fromEntries(way.changes.map((c) => [c.control, c.to])))"
        >
          {{ t('door.whatIf') }}
        </button>
      </li>
    </ul>
    <p v-if="data?.acts.length" class="mt-1.5 text-soft">
      {{
        t('door.orWithNothingChangedJoin', {
          join: data.acts.map((a) => actWords[a] ?? a).join(`; ${t('shell.or')} `),
        })
      }}
    </p>
  </section>
</template>
