<script setup lang="ts">
import { t } from '@/wording'
import { ref } from 'vue'
import { api, take } from '@/api/client'
import { useAct } from '@/shell/act'
import MeetingPicker from '@/stations/door/MeetingPicker.vue'
import ModalSheet from '@/shell/ModalSheet.vue'
import ProblemNote from '@/shell/ProblemNote.vue'

/** Opens a practice session: played by the stand-in, with the meeting's real settings. */
const props = defineProps<{ open: boolean; beginWith: string }>()
const emit = defineEmits<{ close: []; opened: [id: string] }>()
const meeting = ref('')
const title = ref('')
const script = ref<'usual' | 'strangers' | 'storm'>('strangers')
const speed = ref(6)
const { busy, problem, attempt } = useAct()
const scripts = [
  { id: 'usual', name: t('floor.theUsual'), words: t('floor.thoseWhoAreExpectedComeOneShares') },
  {
    id: 'strangers',
    name: t('floor.strangersCome'),
    words: t('floor.someComeWhoWereNotAskedBefore'),
  },
  { id: 'storm', name: t('floor.aStorm'), words: t('floor.fortyComeAtOnceWhoWereNot') },
] as const
async function pick(id: string | null) {
  meeting.value = id ?? ''
  title.value = id ?? ''
  if (!id) return
  try {
    const found = await take(api.GET('/api/meetings/{id}', { params: { path: { id } } }))
    if (meeting.value === id) title.value = found.title
  } catch {
    // its id names it well enough
  }
}
if (props.beginWith) void pick(props.beginWith)
async function openIt() {
  if (!meeting.value || busy.value) return
  await attempt(async () => {
    const { id } = await take(
      api.POST('/api/floor/sessions', {
        body: { meeting: meeting.value, script: script.value, speed: speed.value, strangers: 0 },
      }),
    )
    emit('close')
    emit('opened', id)
  })
}
</script>

<template>
  <ModalSheet :open="open" :title="t('floor.practiseASession')" @close="emit('close')">
    <form @submit.prevent="openIt">
      <p class="text-soft">
        {{ t('floor.theStandInPlaysTheMeetingsNext') }}
      </p>
      <div class="mt-3">
        <span class="block text-soft">{{ t('floor.meeting') }}</span>
        <MeetingPicker :title="title" only-saved @pick="pick" />
      </div>
      <fieldset class="mt-3">
        <legend class="text-soft">{{ t('floor.whoComes') }}</legend>
        <label v-for="s in scripts" :key="s.id" class="flex gap-2">
          <input v-model="script" type="radio" :value="s.id" />
          <span
            ><strong>{{ s.name }}:</strong> {{ s.words }}</span
          >
        </label>
      </fieldset>
      <label class="mt-3 flex items-center gap-2">
        {{ t('floor.itsClockRuns') }}
        <select v-model.number="speed" class="field">
          <option :value="1">{{ t('floor.asFastAsYours') }}</option>
          <option :value="6">{{ t('floor.n6TimesAsFast') }}</option>
          <option :value="20">{{ t('floor.n20TimesAsFast') }}</option>
          <option :value="60">{{ t('floor.n60TimesAsFast') }}</option>
        </select>
      </label>
      <ProblemNote class="mt-2" :problem="problem" />
      <button class="button button-main mt-4" :disabled="busy || !meeting">
        {{ busy ? t('floor.opening') : t('floor.openIt') }}
      </button>
    </form>
  </ModalSheet>
</template>
