<script setup lang="ts">
import { t } from '@/wording'
import { computed, ref } from 'vue'
import { api, take } from '@/api/client'
import type { SchedulingPreview, ServiceOption } from '@/api/schema'
import type { MeetingForm } from './form'

import { label, useCatalogue } from '@/api/catalogue'
import { useAct } from '@/shell/act'
import ProblemNote from '@/shell/ProblemNote.vue'

/** Where it is held, number and passcode: made for you, or your own and judged as typed. */
const props = defineProps<{
  form: MeetingForm
  preview: SchedulingPreview | null
  hasStored: boolean
  /** The conference service that is to make it; null for none. */
  home: ServiceOption | null
  chosen: number | null
}>()
const emit = defineEmits<{ change: [form: MeetingForm]; choose: [service: number] }>()
const { controls } = useCatalogue()
const cannot = computed(() =>
  (props.home?.cannot ?? []).map((id) => controls.value.get(id)?.title ?? id).join(', '),
)

const shown = ref(false)
const reusable = computed(() => props.form.controls['meeting-number'] === 'reusable')
const wanted = computed(() => {
  const rule = props.preview?.resolved['passcode-length']
  const length = rule?.limit ?? rule?.start
  return typeof length === 'number' ? length : 0
})
const { problem, attempt } = useAct()
const make = () =>
  attempt(async () => {
    const before = props.form.passcode
    const made = await take(
      api.GET('/api/scheduling/passcode', { params: { query: { atLeast: wanted.value } } }),
    )
    // what somebody has typed meanwhile stays
    if (props.form.passcode !== before) return
    shown.value = true
    emit('change', { ...props.form, passcode: made.text, phonePasscode: made.digits })
  })
const weak: Record<string, string> = {
  common: t('scheduling.isOnTheListOfCommonOnes'),
  run: t('scheduling.isARunOfNeighbouringCharacters'),
  repeat: t('scheduling.isOneCharacterOverAndOver'),
  'title-word': t('scheduling.isAWordOfTheTitle'),
  'host-word': t('scheduling.isAWordOfTheHostsAddress'),
}
/** Whether callers could not type the passcode. */
const byPhone = computed(() => {
  const has = (control: string) => props.preview?.controls[control]
  const routes = has('audio-routes')
  const phones = !Array.isArray(routes) || !routes.length || routes.includes('phone')
  return (
    props.preview !== null &&
    has('passcode') === 'required' &&
    phones &&
    props.preview.passcode?.makeup !== 'digits'
  )
})
const guessing = computed(() => {
  const days = (props.preview?.passcode?.minutesToGuess ?? 0) / 1440
  return days < 1
    ? t('scheduling.guessedInLessThanADay')
    : days > 36_500
      ? t('scheduling.moreThanACenturyToGuess')
      : t('scheduling.aboutDaysDaysToGuess', { days: Math.round(days) })
})
</script>

<template>
  <div class="grid grid-cols-[5.5rem_minmax(0,1fr)] items-center gap-x-3 gap-y-2">
    <template v-if="preview?.services.length">
      <label for="service" class="text-soft">{{ t('scheduling.heldBy') }}</label>
      <div class="flex flex-wrap items-center gap-x-3 gap-y-1">
        <select
          id="service"
          class="field w-56"
          :value="home?.id ?? 0"
          @change="emit('choose', Number(($event.target as HTMLSelectElement).value))"
        >
          <option v-for="s in preview.services" :key="s.id" :value="s.id">
            {{ s.name }}{{ s.usual ? t('scheduling.usual') : '' }}
          </option>
          <option :value="0">{{ t('scheduling.noConferenceService') }}</option>
        </select>
        <span v-if="cannot" class="text-[12.5px] text-sand">{{
          t('scheduling.nameCannotHoldWhatIsSetFor', { name: home?.name, cannot })
        }}</span>
        <span v-else-if="!home" class="text-[12.5px] text-sand">{{
          t('scheduling.itHasNoLinkThenAndNothing')
        }}</span>
      </div>
    </template>
    <label for="number" class="text-soft">{{ t('scheduling.number') }}</label>
    <div class="flex items-center gap-2">
      <span v-if="home" id="number" class="text-soft">{{
        t('scheduling.nameGivesItWithTheLinkWhen', { name: home.name })
      }}</span>
      <select
        v-else-if="reusable && preview?.numbers.length"
        id="number"
        class="field value"
        :value="form.number ?? ''"
        @change="
          emit('change', {
            ...form,
            number: ($event.target as HTMLSelectElement).value || null,
          })
        "
      >
        <option value="">{{ t('scheduling.aNewOneOfYourOwn') }}</option>
        <option v-for="n in preview.numbers" :key="n" :value="n">{{ n }}</option>
        <option v-if="form.number && !preview.numbers.includes(form.number)" :value="form.number">
          {{ form.number }}
        </option>
      </select>
      <template v-else>
        <span id="number" class="value">{{
          form.number ?? t('scheduling.aFreshOneMadeWhenYouSave')
        }}</span>
        <button
          v-if="form.number"
          type="button"
          class="link"
          @click="emit('change', { ...form, number: null })"
        >
          {{ t('scheduling.takeAFreshOne') }}
        </button>
      </template>
      <span v-if="reusable" class="text-[12.5px] text-sand">{{
        t('scheduling.whoeverKnewItLastTimeKnowsIt')
      }}</span>
    </div>
    <label for="passcode" class="text-soft">{{ t('scheduling.passcode') }}</label>
    <div class="flex flex-wrap items-center gap-2">
      <input
        id="passcode"
        class="field value w-64"
        :type="shown ? 'text' : 'password'"
        autocomplete="off"
        maxlength="128"
        :placeholder="hasStored ? t('scheduling.staysAsItIs') : t('scheduling.madeWhenYouSave')"
        :value="form.passcode ?? ''"
        aria-describedby="passcode-says"
        @input="
          emit('change', {
            ...form,
            passcode: ($event.target as HTMLInputElement).value || null,
            phonePasscode: null,
          })
        "
      />
      <button type="button" class="link" :aria-pressed="shown" @click="shown = !shown">
        {{ shown ? t('scheduling.hide') : t('scheduling.show') }}
      </button>
      <button type="button" class="button" @click="make">{{ t('scheduling.makeOne') }}</button>
    </div>
    <template v-if="problem">
      <span />
      <ProblemNote :problem="problem" />
    </template>
    <span />
    <p id="passcode-says" class="min-h-5 text-[12.5px]" role="status">
      <template v-if="preview?.passcode">
        <span v-if="preview.passcode.weakness !== 'none'" class="text-rust"
          >{{
            t('scheduling.itWeak', {
              weak: weak[preview.passcode.weakness] ?? t('scheduling.isWeak'),
            })
          }}
        </span>
        <span v-if="preview.passcode.leaked" class="text-rust"
          >{{ t('scheduling.titleOrAgendaGiveItAway') }}
        </span>
        <span class="text-soft">{{
          t('scheduling.passcodeCharactersMakeupGuessingAtTriesAMinute', {
            passcode: preview.passcode.length,
            makeup: label(controls.get('passcode-makeup'), preview.passcode.makeup),
            guessing,
            triesAMinute: preview.passcode.triesAMinute,
          })
        }}</span>
      </template>
    </p>
    <template v-if="byPhone">
      <span />
      <p class="text-[12.5px] text-soft">
        {{ t('scheduling.lettersCannotBeTypedOnATelephone')
        }}<template v-if="form.phonePasscode && shown"
          >, <span class="value">{{ form.phonePasscode }}</span></template
        ><template v-else-if="!form.phonePasscode && !hasStored">{{
          t('scheduling.madeWhenYouSave2')
        }}</template
        >.
      </p>
    </template>
  </div>
</template>
