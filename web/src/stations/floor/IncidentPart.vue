<script setup lang="ts">
import { t } from '@/wording'
import { ref } from 'vue'
import { api, take } from '@/api/client'
import { useSession } from '@/api/session'
import type { Incident } from '@/api/schema'
import { useAct } from '@/shell/act'
import ProblemNote from '@/shell/ProblemNote.vue'
import { fullTime } from '@/shell/times'
import { useUnsaved } from '@/shell/unsaved'

/** Incidents of a session: written once, with what happened as it stood then. */
const props = defineProps<{ session: string; meeting: string; incidents: Incident[] }>()
const emit = defineEmits<{ written: [] }>()
const me = useSession()
const writing = ref(false)
const title = ref('')
const note = ref('')
const { busy, problem, attempt } = useAct()
useUnsaved(() => writing.value && note.value.trim() !== '')
function begin() {
  title.value = t('floor.incidentInMeeting', { meeting: props.meeting })
  writing.value = true
}
async function write() {
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
  <section :aria-label="t('floor.incidents')">
    <div class="flex items-baseline justify-between">
      <h2 class="head">{{ t('floor.incidents') }}</h2>
      <button v-if="!writing && !me.isAuditor" class="button" @click="begin">
        {{ t('floor.writeAnIncident') }}
      </button>
    </div>
    <form v-if="writing" class="mt-2" @submit.prevent="write">
      <label class="block"
        >{{ t('floor.title') }}
        <input
          v-model="title"
          class="field mt-1 w-full"
          maxlength="300"
          required
          :readonly="busy"
        />
      </label>
      <label class="mt-2 block"
        >{{ t('floor.whatHappenedAndWhatWasDone') }}
        <textarea
          v-model="note"
          class="field mt-1 w-full"
          rows="4"
          maxlength="20000"
          :readonly="busy"
        />
      </label>
      <p class="mt-1 text-[12.5px] text-soft">
        {{ t('floor.alertsAttendanceAndTheWholeTimeline') }}
      </p>
      <ProblemNote class="mt-2" :problem="problem" />
      <button class="button button-main mt-2" :disabled="busy || !title.trim()">
        {{ t('floor.keepIt') }}
      </button>
      <button type="button" class="link ml-3" @click="writing = false">
        {{ t('floor.leaveIt') }}
      </button>
    </form>
    <p v-if="!incidents.length && !writing" class="text-soft">{{ t('floor.noneWasWritten') }}</p>
    <ul>
      <li v-for="i in incidents" :key="i.id" class="border-b border-hair py-2">
        <p class="flex items-baseline gap-2">
          <strong class="min-w-0 flex-1" dir="auto">{{ i.title }}</strong>
          <a class="link" :href="`/api/floor/incidents/${i.id}/text`" download>{{
            t('floor.text')
          }}</a>
        </p>
        <p class="whitespace-pre-line">{{ i.note }}</p>
        <p class="text-[12.5px] text-soft">
          {{
            t('floor.splitAtTimelineMomentsKept', {
              split: i.by.split('@')[0],
              at: fullTime(i.at),
              timeline: (i.record as { timeline?: unknown[] }).timeline?.length ?? 0,
            })
          }}
        </p>
      </li>
    </ul>
  </section>
</template>
