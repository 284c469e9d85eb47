<script setup lang="ts">
import { ref } from 'vue'
import { api, take } from '@/api/client'
import { useSession } from '@/api/session'
import type { Incident } from '@/api/schema'
import { useAct } from '@/shell/act'
import ProblemNote from '@/shell/ProblemNote.vue'
import { fullTime } from '@/shell/times'

/** Incidents of a session: written once, with what happened as it stood then. */
const props = defineProps<{ session: string; meeting: string; incidents: Incident[] }>()
const emit = defineEmits<{ written: [] }>()
const me = useSession()
const writing = ref(false)
const title = ref('')
const note = ref('')
const { busy, problem, attempt } = useAct()
function begin() {
  title.value = `Incident in ${props.meeting}`
  writing.value = true
}
async function write() {
  if (busy.value) return
  await attempt(async () => {
    await take(
      api.POST('/api/floor/sessions/{id}/incidents', {
        params: { path: { id: props.session } },
        body: { title: title.value, note: note.value },
      }),
    )
    writing.value = false
    note.value = ''
    emit('written')
  })
}
</script>

<template>
  <section aria-label="Incidents">
    <div class="flex items-baseline justify-between">
      <h2 class="head">Incidents</h2>
      <button v-if="!writing && !me.isAuditor" class="button" @click="begin">
        Write an incident
      </button>
    </div>
    <form v-if="writing" class="mt-2" @submit.prevent="write">
      <label class="block"
        >Title
        <input v-model="title" class="field mt-1 w-full" maxlength="300" required />
      </label>
      <label class="mt-2 block"
        >What happened, and what was done
        <textarea v-model="note" class="field mt-1 w-full" rows="4" maxlength="20000" />
      </label>
      <p class="mt-1 text-[12.5px] text-soft">
        Alerts, attendance and the whole timeline are kept with it as they stand now.
      </p>
      <ProblemNote class="mt-2" :problem="problem" />
      <button class="button button-main mt-2" :disabled="busy || !title.trim()">Keep it</button>
      <button type="button" class="link ml-3" @click="writing = false">Leave it</button>
    </form>
    <p v-if="!incidents.length && !writing" class="text-soft">None was written.</p>
    <ul>
      <li v-for="i in incidents" :key="i.id" class="border-b border-hair py-2">
        <p class="flex items-baseline gap-2">
          <strong class="min-w-0 flex-1" dir="auto">{{ i.title }}</strong>
          <a class="link" :href="`/api/floor/incidents/${i.id}/text`" download>Text</a>
        </p>
        <p class="whitespace-pre-line">{{ i.note }}</p>
        <p class="text-[12.5px] text-soft">
          {{ i.by.split('@')[0] }}, {{ fullTime(i.at) }};
          {{ (i.record as { timeline?: unknown[] }).timeline?.length ?? 0 }} moments kept
        </p>
      </li>
    </ul>
  </section>
</template>
