<script setup lang="ts">
import { locale, t } from '@/wording'
import { nextTick, ref, useTemplateRef, watch } from 'vue'
import { label, useCatalogue } from '@/api/catalogue'
import { api, take } from '@/api/client'
import type { KeptUntil, RecordingLine } from '@/api/schema'
import { useSession } from '@/api/session'
import { useAct } from '@/shell/act'
import ProblemNote from '@/shell/ProblemNote.vue'
import { fullTime } from '@/shell/times'
import { answersOf, answerWords, ended, length } from './recordings'

/** What was recorded, who knew of it, and how long what is known of the session is kept. */
const props = defineProps<{ session: string; recordings: RecordingLine[]; kept: KeptUntil }>()
const emit = defineEmits<{ changed: [] }>()
const me = useSession()
const { controls } = useCatalogue()
const value = (control: string, v: string) => label(controls.value.get(control), v)
const clock = (iso: string) =>
  new Date(iso).toLocaleTimeString(locale, { hour: '2-digit', minute: '2-digit' })
const shown = ref<number | null>(null)
const holding = ref(false)
const reason = ref('')
const field = useTemplateRef<HTMLInputElement>('field')
watch(holding, () => nextTick(() => field.value?.focus()))
const { busy, problem, attempt } = useAct()
async function hold() {
  if (busy.value) return
  await attempt(async () => {
    await take(
      api.POST('/api/floor/sessions/{id}/hold', {
        params: { path: { id: props.session } },
        body: { reason: reason.value },
      }),
    )
    holding.value = false
    reason.value = ''
    emit('changed')
  })
}
async function release() {
  if (busy.value) return
  await attempt(async () => {
    await take(
      api.DELETE('/api/floor/sessions/{id}/hold', { params: { path: { id: props.session } } }),
    )
    emit('changed')
  })
}
</script>

<template>
  <section :aria-label="t('floor.recordings')">
    <h2 class="head">{{ t('floor.recordings') }}</h2>
    <p v-if="!recordings.length" class="text-soft">{{ t('floor.nothingWasRecorded') }}</p>
    <ul>
      <li v-for="r in recordings" :key="r.number" class="border-b border-hair py-2">
        <p>
          <strong dir="auto">{{ r.by }}</strong>, {{ clock(r.from)
          }}<template v-if="r.to"> {{ t('floor.toTo', { to: clock(r.to) }) }}</template
          >, {{ length(r.seconds) }}. <span class="text-soft">{{ ended(r) }}</span>
        </p>
        <p class="text-soft">
          {{
            t('floor.keptValueAskedOfThoseRecordedValue2', {
              value: value('recording-store', r.store),
              value2: value('recording-consent', r.consent),
            })
          }}
        </p>
        <p v-if="r.people">
          <span v-for="a in answersOf(r)" :key="a.words" :class="a.rust ? 'text-rust' : ''"
            >{{ a.words }}{{ ' ' }}</span
          >
          <button
            class="link"
            :aria-expanded="shown === r.number"
            @click="shown = shown === r.number ? null : r.number"
          >
            {{ shown === r.number ? t('floor.hideTheNames') : t('floor.names') }}
          </button>
        </p>
        <ul v-if="shown === r.number" class="mt-1 max-h-56 overflow-auto" tabindex="0">
          <li
            v-for="p in r.recorded"
            :key="p.who"
            class="flex items-baseline justify-between gap-3"
          >
            <span class="truncate" dir="auto">{{ p.name }}</span>
            <span
              class="whitespace-nowrap"
              :class="
                ['declined', 'not-told', 'not-answered'].includes(p.answer)
                  ? 'text-rust'
                  : 'text-soft'
              "
              >{{ answerWords[p.answer] ?? p.answer }} {{ clock(p.at ?? p.since) }}</span
            >
          </li>
          <li v-if="r.people > r.recorded.length" class="text-soft">
            {{ t('floor.andPeopleMore', { people: r.people - r.recorded.length }) }}
          </li>
        </ul>
      </li>
    </ul>
    <h2 class="head mt-4">{{ t('floor.howLongThisIsKept') }}</h2>
    <p v-if="kept.hold">
      {{
        t('floor.heldBySplitSinceAtReason', {
          split: kept.hold.by.split('@')[0],
          at: fullTime(kept.hold.at),
          reason: kept.hold.reason,
        })
      }}
      <span class="block text-soft">{{ t('floor.nothingOfThisSessionIsLetGo') }}</span>
    </p>
    <p v-else-if="kept.until">
      {{ t('floor.whoWasThereAlertsAndWhatHappened', { until: fullTime(kept.until) }) }}
    </p>
    <p v-else>{{ t('floor.whoWasThereAlertsAndWhatHappened2') }}</p>
    <ProblemNote class="mt-2" :problem="problem" />
    <template v-if="me.isWarden">
      <button v-if="kept.hold" class="button mt-1" :disabled="busy" @click="release">
        {{ t('floor.releaseIt') }}
      </button>
      <button v-else-if="!holding" class="link" @click="holding = true">
        {{ t('floor.holdItForALegalReason') }}
      </button>
      <form v-else class="mt-1" @submit.prevent="hold">
        <label class="block"
          >{{ t('floor.whyItIsHeld') }}
          <input
            ref="field"
            v-model="reason"
            class="field mt-1 w-full"
            maxlength="1000"
            required
            @keydown.esc.stop="holding = false"
          />
        </label>
        <p class="mt-1 text-[12.5px] text-soft">
          {{ t('floor.thisHoldsWhatIsKnownHereA') }}
        </p>
        <button class="button button-main mt-2" :disabled="busy || !reason.trim()">
          {{ t('floor.holdIt') }}
        </button>
        <button type="button" class="link ml-3" @click="holding = false">
          {{ t('floor.leaveIt') }}
        </button>
      </form>
    </template>
  </section>
</template>
