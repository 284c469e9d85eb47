<script setup lang="ts">
import { t } from '@/wording'
import { counted } from '@/shell/counted'
import { computed, ref } from 'vue'
import { useCatalogue } from '@/api/catalogue'
import { api, take } from '@/api/client'
import { useAct } from '@/shell/act'
import ProblemNote from '@/shell/ProblemNote.vue'
import PeoplePicker from '@/stations/scheduling/PeoplePicker.vue'

/** One act on the meetings that were chosen: all of them, or none. */
const props = defineProps<{ ids: string[] }>()
const emit = defineEmits<{ done: []; none: [] }>()

const { catalogue } = useCatalogue()
const act = ref<'' | 'control' | 'hand-over' | 'cancel'>('')
const control = ref('')
const value = ref('')
const to = ref('')
const send = ref(true)
const word = ref('')
const { busy, problem, attempt } = useAct()
const said = ref('')
const about = computed(() => catalogue.value?.controls.find((c) => c.id === control.value))
const ready = computed(
  () =>
    (act.value === 'control' && about.value && value.value !== '') ||
    (act.value === 'hand-over' && to.value) ||
    act.value === 'cancel',
)
const words = computed(() => {
  const many = counted(props.ids.length, 'meeting')
  if (act.value === 'control') return t('register.setItInMany', { many })
  if (act.value === 'hand-over') return t('register.handOverMany', { many })
  return t('register.cancelMany', { many })
})

async function go() {
  await attempt(async () => {
    const plain = /^\d+$/.test(value.value) ? Number(value.value) : value.value
    const done = await take(
      api.POST('/api/meetings/many', {
        body: {
          ids: props.ids,
          act: act.value as 'control',
          control: act.value === 'control' ? control.value : null,
          value: act.value === 'control' ? plain : null,
          to: act.value === 'hand-over' ? to.value : null,
          send: send.value,
          word: word.value || null,
        },
      }),
    )
    said.value = t('register.meetingsDoneX', {
      meetings: done.meetings,
      x: done.sent ? t('register.sentMessagesSent', { sent: done.sent }) : '',
    })
    emit('done')
  })
}
</script>

<template>
  <div
    class="flex shrink-0 flex-wrap items-center gap-3 border-b border-ink bg-sea-wash px-5 py-1.5"
    role="region"
    :aria-label="t('register.severalAtOnce')"
  >
    <strong>{{ t('register.idsChosen', { ids: ids.length }) }}</strong>
    <select v-model="act" class="field" :aria-label="t('register.whatToDoWithThem')">
      <option value="">{{ t('register.do') }}</option>
      <option value="control">{{ t('register.changeAControl') }}</option>
      <option value="hand-over">{{ t('register.handOverToAnotherHost') }}</option>
      <option value="cancel">{{ t('register.cancel') }}</option>
    </select>
    <template v-if="act === 'control'">
      <select
        v-model="control"
        class="field"
        :aria-label="t('register.control')"
        @change="value = ''"
      >
        <option value="">{{ t('register.whichControl') }}</option>
        <option
          v-for="c in catalogue?.controls.filter((c) => c.scale !== 'sets') ?? []"
          :key="c.id"
          :value="c.id"
        >
          {{ c.title }}
        </option>
      </select>
      <select
        v-if="about?.scale === 'words'"
        v-model="value"
        class="field value"
        :aria-label="t('register.value')"
      >
        <option value="">{{ t('register.toWhat') }}</option>
        <option v-for="r in about.rungs" :key="r.word" :value="r.word">{{ r.label }}</option>
      </select>
      <input
        v-else-if="about"
        v-model="value"
        class="field value w-28"
        :aria-label="t('register.value')"
        :placeholder="about.unit ?? t('register.aNumber')"
      />
    </template>
    <template v-if="act === 'hand-over'">
      <span v-if="to" class="value">{{ to }}</span>
      <PeoplePicker
        class="w-64"
        :label="t('register.theNewHost')"
        :placeholder="t('register.theNewHost2')"
        @choose="to = $event"
      />
    </template>
    <template v-if="act === 'cancel'">
      <label class="flex items-center gap-1.5">
        <input v-model="send" type="checkbox" /> {{ t('register.tellEverybodyInvited') }}
      </label>
      <input
        v-model="word"
        class="field w-56"
        :placeholder="t('register.aWordToThem2')"
        :aria-label="t('register.aWord')"
        maxlength="2000"
      />
    </template>
    <button v-if="act" type="button" class="button" :disabled="!ready || busy" @click="go">
      {{ busy ? t('register.working') : words }}
    </button>
    <button type="button" class="link" @click="emit('none')">{{ t('register.chooseNone') }}</button>
    <span role="status">{{ said }}</span>
    <ProblemNote class="w-full" :problem="problem" />
  </div>
</template>
