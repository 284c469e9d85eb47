<script setup lang="ts">
import { t } from '@/wording'
import { ref, watch } from 'vue'
import { api, take } from '@/api/client'
import type { Letter } from '@/api/schema'
import CopyButton from '@/shell/CopyButton.vue'
import ModalSheet from '@/shell/ModalSheet.vue'
import ProblemNote from '@/shell/ProblemNote.vue'
import { vShows } from '@/shell/shows'
import { toDocument, type MeetingForm } from './form'

/** The invitation as an invitee will read it, before anything is sent. */
const props = defineProps<{
  open: boolean
  form: MeetingForm
  base: string | null
  /** The conference service chosen for a new meeting. */
  service: number | null
  word: string
  busy: boolean
  problem: Error | null
}>()
const emit = defineEmits<{ close: []; send: []; word: [text: string] }>()

const letter = ref<Letter | null>(null)
const unwritten = ref<Error | null>(null)
const to = ref('')
const side = ref<'text' | 'calendar'>('text')

let asked = 0
/** The letter as it would be now; an answer to an older question says nothing any more. */
async function ask() {
  const mine = ++asked
  unwritten.value = null
  try {
    const answer = await take(
      api.POST('/api/scheduling/letter', {
        body: {
          meeting: toDocument(props.form) as never,
          base: props.base,
          to: to.value || null,
          word: props.word,
          service: props.service,
        },
      }),
    )
    if (mine === asked) letter.value = answer
  } catch (e) {
    if (mine !== asked) return
    letter.value = null
    unwritten.value = e as Error
  }
}
watch(
  () => props.open,
  (open) => {
    if (!open) return
    // what was read before is not what is sent now, and whoever it was for may be invited no more
    letter.value = null
    to.value = ''
    void ask()
  },
)
watch([to, () => props.word], () => {
  if (props.open) void ask()
})
</script>

<template>
  <ModalSheet :open="open" :title="t('scheduling.asTheInviteeReadsIt')" wide @close="emit('close')">
    <ProblemNote :problem="unwritten ?? problem" />
    <p v-if="letter && !letter.all.length" class="text-soft">
      {{ t('scheduling.nobodyIsInvitedYet') }}
    </p>
    <template v-else-if="letter">
      <div class="flex flex-wrap items-center gap-3">
        <label class="flex items-center gap-2">
          <span class="text-soft">{{ t('scheduling.to') }}</span>
          <select v-model="to" class="field value" :aria-label="t('scheduling.invitee')">
            <option value="">{{ letter.to }}</option>
            <option v-for="a in letter.all.filter((a) => a !== letter?.to)" :key="a" :value="a">
              {{ a }}
            </option>
          </select>
        </label>
        <span class="text-soft">{{ t('scheduling.allInAll', { all: letter.all.length }) }}</span>
        <button type="button" class="link" :aria-pressed="side === 'text'" @click="side = 'text'">
          {{ t('scheduling.message') }}
        </button>
        <button
          type="button"
          class="link"
          :aria-pressed="side === 'calendar'"
          @click="side = 'calendar'"
        >
          {{ t('scheduling.calendarPart') }}
        </button>
        <CopyButton class="link ml-auto" :text="letter.text">
          {{ t('scheduling.copyTheText') }}
        </CopyButton>
      </div>
      <article class="mt-3 max-h-80 overflow-auto border border-line bg-paper px-4 py-3">
        <p class="head">{{ letter.subject }}</p>
        <pre
          class="mt-2 whitespace-pre-wrap break-words"
          :class="side === 'text' ? 'font-sans' : 'value'"
          >{{ side === 'text' ? letter.text : letter.calendar }}</pre>
      </article>
      <label class="mt-3 block">
        <span class="text-soft">{{ t('scheduling.aWordToThem') }}</span>
        <textarea
          v-shows="word"
          class="field mt-1 w-full"
          rows="2"
          maxlength="2000"
          :readonly="busy"
          @change="emit('word', ($event.target as HTMLTextAreaElement).value)"
        />
      </label>
    </template>
    <p v-else-if="!unwritten" class="text-soft" role="status">{{ t('scheduling.writingIt') }}</p>
    <div class="mt-4 flex gap-3">
      <button
        class="button button-main"
        :disabled="busy || !letter?.all.length"
        @click="emit('send')"
      >
        {{
          busy
            ? t('scheduling.sending')
            : t('scheduling.saveAndSendToAll', { all: letter?.all.length ?? 0 })
        }}
      </button>
      <button class="button" @click="emit('close')">{{ t('scheduling.backToTheMeeting') }}</button>
    </div>
  </ModalSheet>
</template>
