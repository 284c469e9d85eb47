<script setup lang="ts">
import { nextTick, ref, useTemplateRef, watch } from 'vue'
import { label, useCatalogue } from '@/api/catalogue'
import { api, take } from '@/api/client'
import type { KeptUntil, RecordingLine } from '@/api/schema'
import { useSession } from '@/api/session'
import { useAct } from '@/shell/act'
import ProblemNote from '@/shell/ProblemNote.vue'
import { fullTime } from '@/shell/times'
import { answersOf, ended, length } from './recordings'

/** What was recorded, who knew of it, and how long what is known of the session is kept. */
const props = defineProps<{ session: string; recordings: RecordingLine[]; kept: KeptUntil }>()
const emit = defineEmits<{ changed: [] }>()
const me = useSession()
const { controls } = useCatalogue()
const value = (control: string, v: string) => label(controls.value.get(control), v)
const clock = (iso: string) =>
  new Date(iso).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })
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
  <section aria-label="Recordings">
    <h2 class="head">Recordings</h2>
    <p v-if="!recordings.length" class="text-soft">Nothing was recorded.</p>
    <ul>
      <li v-for="r in recordings" :key="r.number" class="border-b border-hair py-2">
        <p>
          <strong dir="auto">{{ r.by }}</strong>, {{ clock(r.from)
          }}<template v-if="r.to"> to {{ clock(r.to) }}</template
          >, {{ length(r.seconds) }}. <span class="text-soft">{{ ended(r) }}</span>
        </p>
        <p class="text-soft">
          Kept: {{ value('recording-store', r.store) }}. Asked of those recorded:
          {{ value('recording-consent', r.consent) }}.
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
            {{ shown === r.number ? 'Hide the names' : 'Names' }}
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
              >{{ p.answer.replace('-', ' ').replace('given', 'agreed') }}
              {{ clock(p.at ?? p.since) }}</span
            >
          </li>
          <li v-if="r.people > r.recorded.length" class="text-soft">
            and {{ r.people - r.recorded.length }} more
          </li>
        </ul>
      </li>
    </ul>
    <h2 class="head mt-4">How long this is kept</h2>
    <p v-if="kept.hold">
      Held by {{ kept.hold.by.split('@')[0] }} since {{ fullTime(kept.hold.at) }}:
      {{ kept.hold.reason }}
      <span class="block text-soft">Nothing of this session is let go until it is released.</span>
    </p>
    <p v-else-if="kept.until">
      Who was there, alerts and what happened: until {{ fullTime(kept.until) }}.
    </p>
    <p v-else>Who was there, alerts and what happened: for ever.</p>
    <ProblemNote class="mt-2" :problem="problem" />
    <template v-if="me.isWarden">
      <button v-if="kept.hold" class="button mt-1" :disabled="busy" @click="release">
        Release it
      </button>
      <button v-else-if="!holding" class="link" @click="holding = true">
        Hold it for a legal reason…
      </button>
      <form v-else class="mt-1" @submit.prevent="hold">
        <label class="block"
          >Why it is held
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
          This holds what is known here. A file in a conference service is held there, by whoever
          looks after it.
        </p>
        <button class="button button-main mt-2" :disabled="busy || !reason.trim()">Hold it</button>
        <button type="button" class="link ml-3" @click="holding = false">Leave it</button>
      </form>
    </template>
  </section>
</template>
