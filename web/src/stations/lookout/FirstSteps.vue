<script setup lang="ts">
import { t } from '@/wording'
import { useQuery } from '@pinia/colada'
import { useLocalStorage } from '@vueuse/core'
import { computed } from 'vue'
import { useOrganisation } from '@/api/catalogue'
import { api, take } from '@/api/client'
import { useSession } from '@/api/session'
import { stepsOf } from './firstSteps'

/** The way from an empty house to the first audit. It goes away by itself once it is walked. */
const props = defineProps<{ edition: boolean; audited: boolean }>()
const session = useSession()
const { organisation } = useOrganisation()
const hidden = useLocalStorage(`warden-steps-${session.who?.email}`, false)
const { data: people } = useQuery({
  key: ['people', 'first'],
  query: () => take(api.GET('/api/people', { params: { query: { size: 1 } } })),
})
const { data: meetings } = useQuery({
  key: ['meetings', 'any'],
  query: () => take(api.GET('/api/meetings', { params: { query: { size: 1 } } })),
})
const steps = computed(() =>
  organisation.value && people.value && meetings.value
    ? stepsOf({
        domains: organisation.value.domains.length,
        people: people.value.total,
        meetings: meetings.value.total,
        edition: props.edition,
        audited: props.audited,
      })
    : [],
)
const next = computed(() => steps.value.find((step) => !step.done))
</script>

<template>
  <section
    v-if="next && !(hidden && edition)"
    class="border-b border-line bg-sheet px-5 py-3"
    aria-labelledby="first-steps"
  >
    <div class="flex items-baseline gap-4">
      <h2 id="first-steps" class="head text-base">
        {{
          t('lookout.firstStepsFilterOfStepsDone', {
            filter: steps.filter((step) => step.done).length,
            steps: steps.length,
          })
        }}
      </h2>
      <button v-if="edition" type="button" class="link ml-auto" @click="hidden = true">
        {{ t('lookout.doNotShowThisAgain') }}
      </button>
    </div>
    <ol class="mt-2 max-w-4xl">
      <li
        v-for="step in steps"
        :key="step.id"
        class="flex gap-3 border-b border-hair py-1.5"
        :aria-current="step === next ? 'step' : undefined"
      >
        <span class="w-5 shrink-0 text-kelp" aria-hidden="true">{{ step.done ? '✓' : '' }}</span>
        <span class="w-40 shrink-0" :class="step === next ? 'font-bold' : ''">
          {{ step.name }}<span v-if="step.done" class="hidden-label">{{ t('lookout.done') }}</span>
        </span>
        <span class="min-w-0">
          <span :class="step.done ? 'text-soft' : ''">{{ step.says }}</span>
          <span v-if="!step.done" class="mt-1 flex flex-wrap gap-x-4 gap-y-1">
            <RouterLink
              v-for="(way, i) in step.ways"
              :key="way.to"
              :to="way.to"
              :class="step === next && i === 0 ? 'button button-main' : 'link py-1'"
              >{{ way.name }}</RouterLink
            >
          </span>
        </span>
      </li>
    </ol>
  </section>
</template>
