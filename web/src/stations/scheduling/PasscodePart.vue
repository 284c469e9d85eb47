<script setup lang="ts">
import { computed, ref } from 'vue'
import { api, take } from '@/api/client'
import type { SchedulingPreview, ServiceOption } from '@/api/schema'
import type { MeetingForm } from './form'

import { useCatalogue } from '@/api/catalogue'

/** Where it is held, number and passcode: made for you, or your own and judged as typed. */
const props = defineProps<{
  form: MeetingForm
  foretaste: SchedulingPreview | null
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
  const rule = props.foretaste?.resolved['passcode-length']
  const length = rule?.limit ?? rule?.start
  return typeof length === 'number' ? length : 0
})
async function make() {
  const made = await take(
    api.GET('/api/scheduling/passcode', { params: { query: { atLeast: wanted.value } } }),
  )
  shown.value = true
  emit('change', { ...props.form, passcode: made.text, phonePasscode: made.digits })
}
const weak: Record<string, string> = {
  common: 'is on the list of common ones',
  run: 'is a run of neighbouring characters',
  repeat: 'is one character over and over',
  'title-word': 'is a word of the title',
  'host-word': 'is a word of the host’s address',
}
/** Whether callers could not type the passcode. */
const byPhone = computed(() => {
  const has = (control: string) => props.foretaste?.controls[control]
  const routes = has('audio-routes')
  const phones = !Array.isArray(routes) || !routes.length || routes.includes('phone')
  return (
    props.foretaste !== null &&
    has('passcode') === 'required' &&
    phones &&
    props.foretaste.passcode?.makeup !== 'digits'
  )
})
const guessing = computed(() => {
  const days = (props.foretaste?.passcode?.minutesToGuess ?? 0) / 1440
  return days < 1
    ? 'guessed in less than a day'
    : days > 36_500
      ? 'more than a century to guess'
      : `about ${Math.round(days)} days to guess`
})
</script>

<template>
  <div class="grid grid-cols-[5.5rem_minmax(0,1fr)] items-center gap-x-3 gap-y-2">
    <template v-if="foretaste?.services.length">
      <label for="service" class="text-soft">held by</label>
      <div class="flex flex-wrap items-center gap-x-3 gap-y-1">
        <select
          id="service"
          class="field w-56"
          :value="home?.id ?? 0"
          @change="emit('choose', Number(($event.target as HTMLSelectElement).value))"
        >
          <option v-for="s in foretaste.services" :key="s.id" :value="s.id">
            {{ s.name }}{{ s.usual ? ' (usual)' : '' }}
          </option>
          <option :value="0">no conference service</option>
        </select>
        <span v-if="cannot" class="text-[12.5px] text-sand"
          >{{ home?.name }} cannot hold what is set for: {{ cannot }}.</span
        >
        <span v-else-if="!home" class="text-[12.5px] text-sand"
          >It has no link then, and nothing that is decided is kept to by itself.</span
        >
      </div>
    </template>
    <label for="number" class="text-soft">number</label>
    <div class="flex items-center gap-2">
      <span v-if="home" id="number" class="text-soft"
        >{{ home.name }} gives it, with the link, when it has made the meeting</span
      >
      <select
        v-else-if="reusable && foretaste?.numbers.length"
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
        <option value="">a new one of your own</option>
        <option v-for="n in foretaste.numbers" :key="n" :value="n">{{ n }}</option>
        <option v-if="form.number && !foretaste.numbers.includes(form.number)" :value="form.number">
          {{ form.number }}
        </option>
      </select>
      <template v-else>
        <span id="number" class="value">{{
          form.number ?? 'a fresh one, made when you save'
        }}</span>
        <button
          v-if="form.number"
          type="button"
          class="link"
          @click="emit('change', { ...form, number: null })"
        >
          take a fresh one
        </button>
      </template>
      <span v-if="reusable" class="text-[12.5px] text-sand"
        >Whoever knew it last time knows it this time.</span
      >
    </div>
    <label for="passcode" class="text-soft">passcode</label>
    <div class="flex flex-wrap items-center gap-2">
      <input
        id="passcode"
        class="field value w-64"
        :type="shown ? 'text' : 'password'"
        autocomplete="off"
        maxlength="128"
        :placeholder="hasStored ? 'stays as it is' : 'made when you save'"
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
        {{ shown ? 'hide' : 'show' }}
      </button>
      <button type="button" class="button" @click="make">Make one</button>
    </div>
    <span />
    <p id="passcode-says" class="min-h-5 text-[12.5px]" role="status">
      <template v-if="foretaste?.passcode">
        <span v-if="foretaste.passcode.weakness !== 'none'" class="text-rust"
          >It {{ weak[foretaste.passcode.weakness] ?? 'is weak' }}.
        </span>
        <span v-if="foretaste.passcode.leaked" class="text-rust"
          >Title or agenda give it away.
        </span>
        <span class="text-soft"
          >{{ foretaste.passcode.length }} characters, {{ foretaste.passcode.makeup }};
          {{ guessing }} at {{ foretaste.passcode.triesAMinute }} tries a minute, an estimate.</span
        >
      </template>
    </p>
    <template v-if="byPhone">
      <span />
      <p class="text-[12.5px] text-soft">
        Letters cannot be typed on a telephone: callers get digits of their own<template
          v-if="form.phonePasscode && shown"
          >, <span class="value">{{ form.phonePasscode }}</span></template
        ><template v-else-if="!form.phonePasscode && !hasStored">, made when you save</template>.
      </p>
    </template>
  </div>
</template>
