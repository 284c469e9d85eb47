<script setup lang="ts">
import { t } from '@/wording'
import { computed, ref } from 'vue'
import { label, useCatalogue, type Plain } from '@/api/catalogue'
import { api, take } from '@/api/client'
import type { BeyondView } from '@/api/schema'

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
const problem = ref('')
const first = computed(() => props.beyond[0])

async function ask() {
  if (!props.meeting || !first.value) return
  problem.value = ''
  try {
    const told = await take(
      api.POST('/api/meetings/{id}/waiver-requests', {
        params: { path: { id: props.meeting } },
        body: {
          control: first.value.control,
          wanted: props.values[first.value.control] ?? '',
          reason: reason.value,
        },
      }),
    )
    said.value = t('scheduling.sentWardensHaveBeenAskedTheMeeting', { sent: told.sent })
    emit('back', first.value.control)
  } catch (e) {
    problem.value = (e as Error).message
  }
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
            :placeholder="t('scheduling.whyYouNeedIt')"
          />
        </label>
        <button type="button" class="button mt-1" :disabled="!reason.trim()" @click="ask">
          {{ t('scheduling.askForAWaiver') }}
        </button>
      </template>
      <p v-else class="text-[12.5px]">
        {{ t('scheduling.saveItWithinTheLimitsFirstThen') }}
      </p>
      <p v-if="problem" class="text-rust" role="alert">{{ problem }}</p>
    </template>
  </section>
</template>
