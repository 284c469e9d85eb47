<script setup lang="ts">
import { useQuery, useQueryCache } from '@pinia/colada'
import { computed, ref } from 'vue'
import { useCatalogue, useOrganisation } from '@/api/catalogue'
import { api, take } from '@/api/client'
import type { GrantedWaiver } from '@/api/schema'
import { useSession } from '@/api/session'
import ProblemNote from '@/shell/ProblemNote.vue'
import StatePanel from '@/shell/StatePanel.vue'
import { fullTime, shortTime } from '@/shell/times'
import GrantAsked from './GrantAsked.vue'
import PartFrame from './PartFrame.vue'

/** What may stand for a while: by whose word, why, until when; and what hosts ask for. */
const session = useSession()
const cache = useQueryCache()
const { unitName } = useOrganisation()
const { controls, checkTitle } = useCatalogue()
const {
  data: waivers,
  error,
  refetch,
} = useQuery({ key: ['waivers', 'all'], query: () => take(api.GET('/api/waivers')) })
const { data: asked } = useQuery({
  key: ['waivers', 'asked'],
  query: () => take(api.GET('/api/waivers/asked')),
})
const { data: settings } = useQuery({
  key: ['waivers', 'settings'],
  query: () => take(api.GET('/api/waivers/settings')),
})
const showOver = ref(false)
const rows = computed(() =>
  (waivers.value ?? []).filter(
    (w) => showOver.value || w.state === 'in-force' || w.state === 'waiting',
  ),
)
const states: Record<string, string> = {
  waiting: 'waits for a second warden',
  'in-force': 'in force',
  lapsed: 'lapsed',
  ended: 'ended early',
  refused: 'refused by the second',
}
const problem = ref<Error | null>(null)
async function attempt(what: () => Promise<unknown>) {
  problem.value = null
  try {
    await what()
    await cache.invalidateQueries({ key: ['waivers'] })
  } catch (e) {
    problem.value = e as Error
  }
}
const end = (id: number) =>
  attempt(() => take(api.POST('/api/waivers/{id}/end', { params: { path: { id } } })))
const second = (id: number, consent: boolean) =>
  attempt(() =>
    take(api.POST('/api/waivers/{id}/second', { params: { path: { id } }, body: { consent } })),
  )
const byTwo = (two: boolean) =>
  attempt(() => take(api.PUT('/api/waivers/settings', { body: { byTwo: two } })))
const upTo = (severity: number) =>
  attempt(() => take(api.PUT('/api/waivers/settings/units', { body: { severity } })))
function what(w: GrantedWaiver): string {
  if (w.scope === 'rule') {
    return `everything on ${about(w.subject)} in ${unitName(w.unit) || w.unit}`
  }
  const of = `in “${w.title ?? w.meeting}”`
  if (w.scope === 'meeting') return `everything ${of}`
  const found = checkTitle(w.check)
  return w.subject ? `${found}: ${about(w.subject)}, ${of}` : `${found}, ${of}`
}
/** A control by its title; people and rooms are called what they are. */
const about = (subject: string | null | undefined) =>
  subject ? (controls.value.get(subject)?.title ?? subject) : ''
</script>

<template>
  <PartFrame title="Waivers">
    <template #head>
      <label class="flex items-center gap-1.5 text-soft"
        ><input v-model="showOver" type="checkbox" /> those that are over, too</label
      >
    </template>
    <template #acts>
      <label v-if="settings && !session.isUnitWarden" class="flex items-center gap-1.5 text-soft">
        a unit’s warden waives
        <select
          class="field"
          :value="settings.unitWaiverSeverity"
          :disabled="!session.isWarden"
          @change="upTo(Number(($event.target as HTMLSelectElement).value))"
        >
          <option :value="0">nothing</option>
          <option :value="1">notes</option>
          <option :value="2">up to minor</option>
          <option :value="3">up to moderate</option>
          <option :value="4">up to serious</option>
          <option :value="5">everything</option>
        </select>
      </label>
      <label v-if="settings" class="flex items-center gap-1.5 text-soft">
        <input
          type="checkbox"
          :checked="settings.byTwo"
          :disabled="!session.isWarden"
          @change="byTwo(($event.target as HTMLInputElement).checked)"
        />
        granted by two
        <span v-if="settings.oneAskedBy" class="text-rust">
          ({{ settings.oneAskedBy.split('@')[0] }} asks to go back to one)</span
        >
      </label>
    </template>
    <ProblemNote class="m-4" :problem="problem" />
    <section v-if="asked?.length" class="border-b border-line px-5 py-3">
      <h2 class="head">Asked for by hosts</h2>
      <GrantAsked v-for="a in asked" :key="a.id" :asked="a" />
    </section>
    <StatePanel v-if="error" state="failed" :problem="error" @retry="refetch()" />
    <StatePanel v-else-if="!waivers" state="loading" />
    <StatePanel v-else-if="!rows.length" state="empty" title="Nothing is waived">
      On the wall, <strong>w</strong> waives the finding in hand until a time, with a reason.
    </StatePanel>
    <table v-else class="grid-lines stack">
      <thead>
        <tr>
          <th class="!pl-5">What may stand</th>
          <th>Why</th>
          <th>By</th>
          <th>Until</th>
          <th scope="col"><span class="hidden-label">Acts</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="w in rows" :key="w.id">
          <td class="!pl-5">
            <RouterLink
              v-if="w.meeting"
              class="head"
              :to="{ path: '/audit', query: { meeting: w.meeting, show: 'all' } }"
              >{{ what(w) }}</RouterLink
            >
            <span v-else class="head">{{ what(w) }}</span>
          </td>
          <td>“{{ w.reason }}”</td>
          <td class="value">
            {{ w.grantedBy.split('@')[0] }}{{ w.secondBy ? `, ${w.secondBy.split('@')[0]}` : '' }}
          </td>
          <td class="whitespace-nowrap" :title="fullTime(w.until)">
            <span class="value">{{ shortTime(w.until) }}</span>
            <span v-if="w.state !== 'in-force'" class="block text-soft">{{ states[w.state] }}</span>
          </td>
          <td class="!pr-5 text-right whitespace-nowrap">
            <template v-if="session.isWarden && w.state === 'waiting'">
              <button class="button" @click="second(w.id, true)">Agree</button>
              <button class="button ml-2" @click="second(w.id, false)">Refuse</button>
            </template>
            <button
              v-if="session.mayMend && w.state === 'in-force'"
              class="link"
              @click="end(w.id)"
            >
              End it now
            </button>
          </td>
        </tr>
      </tbody>
    </table>
  </PartFrame>
</template>
