<script setup lang="ts">
import { useQuery, useQueryCache } from '@pinia/colada'
import { ref } from 'vue'
import { label, useCatalogue } from '@/api/catalogue'
import { api, take } from '@/api/client'
import { useSession } from '@/api/session'
import TallyMark from '@/marks/TallyMark.vue'
import ProblemNote from '@/shell/ProblemNote.vue'
import StatePanel from '@/shell/StatePanel.vue'
import { day } from '@/shell/times'
import PartFrame from './PartFrame.vue'
import { counted } from '@/shell/counted'

/** What hosts have been asked and what they say, until it is mended or closed. */
const session = useSession()
const cache = useQueryCache()
const { controls } = useCatalogue()
const {
  data: requests,
  error,
  refetch,
} = useQuery({ key: ['requests', 'open'], query: () => take(api.GET('/api/host-requests')) })
const { data: settings } = useQuery({
  key: ['requests', 'settings'],
  query: () => take(api.GET('/api/host-requests/settings')),
})
const problem = ref<Error | null>(null)
async function attempt(what: () => Promise<unknown>) {
  problem.value = null
  try {
    await what()
    await cache.invalidateQueries({ key: ['requests'] })
  } catch (e) {
    problem.value = e as Error
  }
}
const accept = (id: number) =>
  attempt(() =>
    take(api.POST('/api/host-requests/items/{id}/accept', { params: { path: { id } } })),
  )
const close = (id: number) =>
  attempt(() => take(api.POST('/api/host-requests/items/{id}/close', { params: { path: { id } } })))
function save(part: { remindDays?: number; applyAfterDays?: number }) {
  if (!settings.value) return
  const body = { ...settings.value, ...part }
  void attempt(() => take(api.PUT('/api/host-requests/settings', { body })))
}
const number = (event: Event) => Number((event.target as HTMLInputElement).value)
</script>

<template>
  <PartFrame title="Asked of hosts">
    <template #head>
      <span v-if="settings" class="flex items-center gap-1.5 text-soft">
        reminded after
        <input
          class="field w-14 text-ink"
          type="number"
          min="1"
          max="60"
          aria-label="Days until a host is reminded"
          :disabled="!session.isWarden"
          :value="settings.remindDays"
          @change="save({ remindDays: number($event) })"
        />
        days, applied without them after
        <input
          class="field w-14 text-ink"
          type="number"
          min="0"
          max="90"
          aria-label="Days until the change may be applied without the host"
          :disabled="!session.isWarden"
          :value="settings.applyAfterDays"
          @change="save({ applyAfterDays: number($event) })"
        />
        days
      </span>
    </template>
    <ProblemNote class="m-4" :problem="problem" />
    <StatePanel v-if="error" state="failed" :problem="error" @retry="refetch()" />
    <StatePanel v-else-if="!requests" state="loading" />
    <StatePanel v-else-if="!requests.length" state="empty" title="No host is asked anything">
      On the wall, <strong>q</strong> asks the host of the finding in hand.
    </StatePanel>
    <section v-for="r in requests" v-else :key="r.id" class="border-b border-line px-5 py-3">
      <h2 class="flex items-baseline gap-3">
        <span class="head">{{ r.host }}</span>
        <span class="text-soft"
          >asked {{ day(r.askedAt) }} by {{ r.askedBy.split('@')[0]
          }}{{ r.reminded ? `, reminded ${counted(r.reminded, 'time')}` : '' }}; may be applied from
          {{ day(r.applyAfter) }}</span
        >
      </h2>
      <ul class="mt-1">
        <li
          v-for="i in r.items"
          :key="i.id"
          class="grid grid-cols-[28px_minmax(0,16rem)_minmax(0,1fr)_auto] items-start gap-3 border-t border-hair py-1.5"
        >
          <TallyMark class="mt-1" :severity="i.severity" />
          <RouterLink
            class="head truncate"
            dir="auto"
            :to="{ path: '/audit', query: { meeting: i.meeting } }"
            >{{ i.title }}</RouterLink
          >
          <div>
            <p>{{ i.sentence }}</p>
            <p v-for="w in i.words" :key="w" class="text-soft">{{ w }}</p>
            <p v-if="i.state === 'reasoned'" class="border-l-4 border-sea bg-sea-wash px-2">
              It has to be so: “{{ i.answer }}”
            </p>
            <p v-if="i.state === 'proposed'" class="border-l-4 border-sea bg-sea-wash px-2">
              Instead:
              <span v-for="(v, c) in i.proposed ?? {}" :key="c" class="value"
                >{{ c }} {{ label(controls.get(String(c)), v) }}
              </span>
              {{ i.answer ? `“${i.answer}”` : '' }}
            </p>
          </div>
          <span class="flex gap-2 whitespace-nowrap">
            <template v-if="i.state === 'open'"
              ><span class="text-soft">no answer yet</span></template
            >
            <template v-else-if="session.mayMend">
              <button v-if="i.state === 'proposed'" class="button" @click="accept(i.id)">
                Apply that
              </button>
              <button class="button" @click="close(i.id)">Close</button>
            </template>
          </span>
        </li>
      </ul>
    </section>
  </PartFrame>
</template>
