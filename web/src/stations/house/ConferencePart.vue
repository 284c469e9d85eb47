<script setup lang="ts">
import { useQuery, useQueryCache } from '@pinia/colada'
import { useIntervalFn } from '@vueuse/core'
import { computed, ref } from 'vue'
import { api, take } from '@/api/client'
import type { LinkedService } from '@/api/schema'
import { useSession } from '@/api/session'
import { useAct } from '@/shell/act'
import ModalSheet from '@/shell/ModalSheet.vue'
import ProblemNote from '@/shell/ProblemNote.vue'
import StatePanel from '@/shell/StatePanel.vue'
import { fullTime, shortTime } from '@/shell/times'
import DefaultsTable from './DefaultsTable.vue'
import { useOrganisation } from '@/api/catalogue'
import MeansTable from './MeansTable.vue'
import ServiceLinking from './ServiceLinking.vue'
import { backlogWords, levels, stateWords } from './conference'

/** Conference services: linking them, what each can hold, and how it stands with them. */
const session = useSession()
const cache = useQueryCache()
const { data, error, refetch } = useQuery({
  key: ['services'],
  query: () => take(api.GET('/api/services')),
})
useIntervalFn(() => void refetch(), 5000)

const { busy, problem, attempt } = useAct()
const opened = ref<number | null>(null)
const unlinking = ref<LinkedService | null>(null)
const rekeying = ref<LinkedService | null>(null)
const newKey = ref('')
const shown = computed(() => data.value?.find((s) => s.id === opened.value))

const store = (all: LinkedService[]) => cache.setQueryData(['services'], all)

type Settings = { name: string; level: string; paused: boolean; units: string[] | null }
const { organisation } = useOrganisation()
const unitName = (id: string) =>
  id ? (organisation.value?.units.find((u) => u.id === id)?.name ?? id) : 'all other units'
const homeWords = (s: LinkedService) =>
  s.units.length ? `new meetings of ${s.units.map(unitName).sort().join(', ')}` : ''
const homing = ref<LinkedService | null>(null)
const units = ref<string[]>([])
function openUnits(s: LinkedService) {
  units.value = [...s.units]
  homing.value = s
}
const otherHome = (unit: string) =>
  data.value?.find((s) => s.id !== homing.value?.id && s.units.includes(unit))?.name
const giveUnits = () =>
  homing.value &&
  set(homing.value, { units: units.value }).then(() => {
    if (!problem.value) homing.value = null
  })
const set = (s: LinkedService, other: Partial<Settings>) =>
  attempt(async () => {
    store(
      await take(
        api.PUT('/api/services/{id}', {
          params: { path: { id: s.id } },
          body: {
            name: s.name,
            level: s.level,
            paused: s.state === 'paused',
            units: null,
            ...other,
          },
        }),
      ),
    )
  }).then(() => refetch())
const giveKey = () =>
  attempt(async () => {
    const s = rekeying.value
    if (!s) return
    store(
      await take(
        api.PUT('/api/services/{id}/key', {
          params: { path: { id: s.id } },
          body: { key: newKey.value },
        }),
      ),
    )
    rekeying.value = null
    newKey.value = ''
  })
const unlink = () =>
  attempt(async () => {
    const s = unlinking.value
    if (!s) return
    store(await take(api.DELETE('/api/services/{id}', { params: { path: { id: s.id } } })))
    unlinking.value = null
  })
</script>

<template>
  <StatePanel v-if="error && !data" state="failed" :problem="error" @retry="refetch()" />
  <StatePanel v-else-if="!data" state="loading" />
  <template v-else>
    <StatePanel v-if="!data.length" state="empty" title="No conference service is linked">
      Until one is, meetings come from here, from files and from calendars, and nothing that is
      decided goes anywhere.
    </StatePanel>
    <table v-else class="grid-lines stack w-full">
      <thead>
        <tr>
          <th scope="col">Service</th>
          <th scope="col">How it stands</th>
          <th scope="col" class="text-right">Meetings</th>
          <th scope="col">What was decided</th>
          <th scope="col">What we do there</th>
          <th scope="col"><span class="sr-only">Acts</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="s in data" :key="s.id">
          <td>
            <strong>{{ s.name }}</strong>
            <span class="block text-[12.5px] text-soft">{{ s.make }} · {{ s.address }}</span>
            <span v-if="homeWords(s)" class="block text-[12.5px] text-soft">{{
              homeWords(s)
            }}</span>
          </td>
          <td>
            <span :class="stateWords(s).wrong ? 'text-rust' : ''">{{ stateWords(s).text }}</span>
            <span class="block text-[12.5px] text-soft" :title="fullTime(s.since)">
              since {{ shortTime(s.since)
              }}<template v-if="s.contactAt && stateWords(s).wrong">
                · read up to {{ shortTime(s.contactAt) }}</template
              >
            </span>
          </td>
          <td class="value text-right">{{ s.meetings }}</td>
          <td>{{ backlogWords(s) }}</td>
          <td>
            <select
              v-if="session.isWarden"
              class="field"
              :aria-label="`What we do in ${s.name}`"
              :value="s.level"
              :disabled="busy"
              @change="set(s, { level: ($event.target as HTMLSelectElement).value })"
            >
              <option v-for="l in levels" :key="l.id" :value="l.id">{{ l.words }}</option>
            </select>
            <template v-else>{{ levels.find((l) => l.id === s.level)?.words }}</template>
          </td>
          <td class="text-right whitespace-nowrap">
            <button class="link" @click="opened = opened === s.id ? null : s.id">
              {{ opened === s.id ? 'Hide' : 'What it can hold' }}
            </button>
            <template v-if="session.isWarden">
              <button
                class="link ml-3"
                :disabled="busy"
                @click="set(s, { paused: s.state !== 'paused' })"
              >
                {{ s.state === 'paused' ? 'Go on' : 'Pause' }}
              </button>
              <button class="link ml-3" @click="openUnits(s)">Units…</button>
              <button class="link ml-3" @click="rekeying = s">New key…</button>
              <button class="link ml-3" @click="unlinking = s">Unlink…</button>
            </template>
          </td>
        </tr>
      </tbody>
    </table>
    <ProblemNote class="mt-3" :problem="problem" />
    <section v-if="shown" class="mt-4">
      <h2 class="head mb-2 text-base">
        What {{ shown.name }} can hold
        <span class="font-normal text-soft">· {{ shown.perSecond }} requests a second</span>
      </h2>
      <MeansTable :means="shown.means" />
      <h2 class="head mt-4 mb-2 text-base">Its own defaults and locks</h2>
      <DefaultsTable :id="shown.id" :name="shown.name" :level="shown.level" />
    </section>
    <ServiceLinking v-if="session.isWarden" @linked="store" />
    <ModalSheet
      :open="unlinking !== null"
      :title="`Unlink ${unlinking?.name}?`"
      @close="unlinking = null"
    >
      <p>
        Nothing is read from it or written to it any more, and its key is forgotten. What was read
        stays in the register. What was decided and not confirmed stays undone there.
      </p>
      <ProblemNote class="mt-2" :problem="problem" />
      <div class="mt-4 flex gap-3">
        <button class="button button-main" :disabled="busy" @click="unlink">Unlink it</button>
        <button class="button" @click="unlinking = null">Keep it</button>
      </div>
    </ModalSheet>
    <ModalSheet
      :open="homing !== null"
      :title="`Whose new meetings are made in ${homing?.name}?`"
      @close="homing = null"
    >
      <form @submit.prevent="giveUnits">
        <p v-if="homing?.level !== 'write'" class="mb-2 text-sand">
          {{ homing?.name }} is not linked for writing: until it is, none are made there.
        </p>
        <fieldset class="max-h-[50vh] overflow-auto">
          <legend class="sr-only">Units</legend>
          <label
            v-for="u in ['', ...(organisation?.units ?? []).map((u) => u.id)]"
            :key="u"
            class="flex items-center gap-2 py-0.5"
          >
            <input v-model="units" type="checkbox" :value="u" />
            {{ u ? unitName(u) : 'All that have no other' }}
            <span v-if="otherHome(u)" class="text-[12.5px] text-soft">now {{ otherHome(u) }}</span>
          </label>
        </fieldset>
        <ProblemNote class="mt-2" :problem="problem" />
        <button class="button button-main mt-4" :disabled="busy">Keep it so</button>
      </form>
    </ModalSheet>
    <ModalSheet
      :open="rekeying !== null"
      :title="`A new key for ${rekeying?.name}`"
      @close="rekeying = null"
    >
      <form @submit.prevent="giveKey">
        <label class="flex flex-col gap-1">
          Key
          <input
            v-model.trim="newKey"
            class="field w-full"
            type="password"
            autocomplete="off"
            maxlength="400"
            required
          />
        </label>
        <ProblemNote class="mt-2" :problem="problem" />
        <button class="button button-main mt-4" :disabled="busy">
          {{ busy ? 'Trying…' : 'Try it and keep it' }}
        </button>
      </form>
    </ModalSheet>
  </template>
</template>
