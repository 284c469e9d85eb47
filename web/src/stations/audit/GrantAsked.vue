<script setup lang="ts">
import { t } from '@/wording'
import { useQueryCache } from '@pinia/colada'
import { ref } from 'vue'
import { label, useCatalogue } from '@/api/catalogue'
import { api, take } from '@/api/client'
import type { WaiverRequest } from '@/api/schema'
import { useSession } from '@/api/session'
import { useAct } from '@/shell/act'
import ProblemNote from '@/shell/ProblemNote.vue'
import { day } from '@/shell/times'
import { untilFriday } from './wall'

/** A waiver that a host asks for: granted until a time, with the change, or refused. */
const props = defineProps<{ asked: WaiverRequest }>()
const session = useSession()
const cache = useQueryCache()
const { controls } = useCatalogue()
const until = ref(untilFriday(new Date()))
const answer = ref('')
const { busy, problem, attempt } = useAct()
async function give(granted: boolean) {
  await attempt(async () => {
    await take(
      api.POST('/api/host-requests/waivers/{id}/answer', {
        params: { path: { id: props.asked.id } },
        body: {
          granted,
          answer: answer.value,
          ...(granted ? { until: new Date(until.value).toISOString() } : {}),
        },
      }),
    )
    await cache.invalidateQueries({ key: ['waivers'] })
  })
}
</script>

<template>
  <form class="border-t border-hair py-2" @submit.prevent="give(true)">
    <p>
      <strong>{{ asked.askedBy }}</strong>
      {{ t('audit.askedAtAsksFor', { askedAt: day(asked.askedAt) }) }}
      <span class="value"
        >{{ controls.get(asked.control)?.title ?? asked.control }}
        {{ label(controls.get(asked.control), asked.wanted) }}</span
      >
      {{ t('audit.in') }}
      <RouterLink class="link" :to="`/register/${encodeURIComponent(asked.meeting)}`">{{
        asked.title ?? t('audit.aMeetingThatIsGone')
      }}</RouterLink>: “{{ asked.reason }}”
    </p>
    <div v-if="session.isWarden" class="mt-1 flex flex-wrap items-center gap-2">
      <label class="flex items-center gap-1.5"
        >{{ t('audit.until') }} <input v-model="until" type="datetime-local" class="field"
      /></label>
      <input
        v-model="answer"
        class="field w-72"
        :placeholder="t('audit.aWordToTheHost')"
        :aria-label="t('audit.aWordToTheHost')"
        maxlength="2000"
      />
      <button class="button button-main" :disabled="busy">{{ t('audit.grantAndChangeIt') }}</button>
      <button type="button" class="button" :disabled="busy || !answer.trim()" @click="give(false)">
        {{ t('audit.refuse') }}
      </button>
    </div>
    <ProblemNote class="mt-1" :problem="problem" />
  </form>
</template>
