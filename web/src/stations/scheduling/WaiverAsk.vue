<script setup lang="ts">
import { t } from '@/wording'
import { computed, ref } from 'vue'
import { label, useCatalogue, type Plain } from '@/api/catalogue'
import { api, take } from '@/api/client'
import type { BeyondView } from '@/api/schema'
import { useAct } from '@/shell/act'
import ProblemNote from '@/shell/ProblemNote.vue'

/** A host's way to what the rulebook does not allow them: asking, with a reason. */
const props = defineProps<{
  beyond: BeyondView[]
  values: Record<string, Plain | null>
  /** The saved meeting it is asked for; a new one is saved within the limits first. */
  meeting: string | null
}>()
const emit = defineEmits<{ back: [control: string] }>()

const { controls } = useCatalogue()
const reason = ref('')
const said = ref('')
const { busy, problem, attempt } = useAct()
const first = computed(() => props.beyond[0])

async function ask() {
  const id = props.meeting
  const control = first.value?.control
  if (!id || !control) return
  await attempt(async () => {
    const told = await take(
      api.POST('/api/meetings/{id}/waiver-requests', {
        params: { path: { id } },
        body: {
          control,
          wanted: props.values[control] ?? '',
          reason: reason.value,
        },
      }),
    )
    said.value = t('scheduling.sentWardensHaveBeenAskedTheMeeting', { sent: told.sent })
    emit('back', control)
  })
}
</script>

<template>
  <section v-if="first || said" class="border-l-4 border-rust bg-rust-wash px-3 py-2" role="status">
    <p v-if="said">{{ said }}</p>
    <template v-if="first">
      <p>
        <strong>{{ controls.get(first.control)?.title }}</strong>{{
          t('scheduling.wordsAsAHostYouCannotSave', {
            words: first.words,
            label: label(controls.get(first.control), values[first.control] as Plain),
          })
        }}
      </p>
      <button type="button" class="link" @click="emit('back', first.control)">
        {{ t('scheduling.putItBackToWhatIsAllowed') }}
      </button>
      <template v-if="meeting">
        <label class="mt-1 block">
          <span class="hidden-label">{{ t('scheduling.whyYouNeedIt') }}</span>
          <textarea
            v-model="reason"
            class="field w-full"
            rows="2"
            maxlength="2000"
            :placeholder="t('scheduling.whyYouNeedIt')"
          />
        </label>
        <button type="button" class="button mt-1" :disabled="busy || !reason.trim()" @click="ask">
          {{ t('scheduling.askForAWaiver') }}
        </button>
      </template>
      <p v-else class="text-[12.5px]">
        {{ t('scheduling.saveItWithinTheLimitsFirstThen') }}
      </p>
      <ProblemNote :problem="problem" />
    </template>
  </section>
</template>
