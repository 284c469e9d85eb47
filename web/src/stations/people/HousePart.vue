<script setup lang="ts">
import { t } from '@/wording'
import { useQueryCache } from '@pinia/colada'
import { ref, watch } from 'vue'
import { useOrganisation } from '@/api/catalogue'
import { api, take } from '@/api/client'
import type { Overview } from '@/api/schema'
import { useSession } from '@/api/session'
import { useAct } from '@/shell/act'
import { useUnsaved } from '@/shell/unsaved'
import OutdatedNote from '@/shell/OutdatedNote.vue'
import ProblemNote from '@/shell/ProblemNote.vue'
import { vShows } from '@/shell/shows'

/** The organisation's own facts: domains, partners, plan, units and kinds. */
const session = useSession()
const cache = useQueryCache()
const { organisation } = useOrganisation()
const draft = ref<Overview | null>(null)
const said = ref('')
const { busy, problem, attempt } = useAct()
/** As it was when it was read, as text. */
let opened = ''
/** The units and kinds that are stored, in the order of the rows; what was added comes behind. */
const stored = ref<Pick<Overview, 'units' | 'kinds'>>({ units: [], kinds: [] })
const touched = () => draft.value !== null && JSON.stringify(draft.value) !== opened
useUnsaved(touched)
function restOn(now: Overview) {
  opened = JSON.stringify(now)
  const { units, kinds } = JSON.parse(opened) as Overview
  stored.value = { units, kinds }
}
function fill(now: Overview) {
  restOn(now)
  draft.value = JSON.parse(opened) as Overview
}
/** An id by which a stored unit or kind is known stays; what is only being added may be renamed. */
const isStored = (of: 'units' | 'kinds', i: number) => stored.value[of][i]?.name
const isAdded = (of: 'units' | 'kinds', i: number) => i >= stored.value[of].length
watch(
  organisation,
  (now) => {
    // it is read anew now and then: what somebody is about to change stays
    if (now && !touched()) fill(now)
  },
  { immediate: true },
)
const words = (text: string) => text.split(/[\s,]+/).filter(Boolean)
const bodyOf = (d: Overview) => ({
  name: d.name,
  domains: d.domains,
  partners: d.partners,
  maxParticipants: d.plan.maxParticipants,
  maxMinutes: d.plan.maxMinutes,
  units: d.units.map((u) => ({ ...u, parent: u.parent || null })),
  kinds: d.kinds,
  facts: d.facts,
})
/** What one would send, but for which of its states it rests on. */
const saying = (d: Overview) => JSON.stringify({ ...bodyOf(d), facts: 0 })
async function save() {
  if (!draft.value) return
  said.value = ''
  const sent = JSON.stringify(draft.value)
  await attempt(async () => {
    const asSent = JSON.parse(sent) as Overview
    await take(api.PUT('/api/people/house', { body: bodyOf(asSent) }))
    said.value = t('people.saved')
    restOn(asSent)
    await cache.invalidateQueries()
    const now = organisation.value
    // what was typed after it was sent rests on what was sent, unless somebody else has been there too
    if (now && draft.value && touched() && saying(now) === saying(asSent)) {
      restOn(now)
      draft.value.facts = now.facts
    }
  })
}
/** What somebody else made of it takes the place of what was typed here. */
async function takeTheirs() {
  await cache.invalidateQueries({ key: ['organisation'] })
  if (organisation.value) fill(organisation.value)
  problem.value = null
}
</script>

<template>
  <form v-if="draft" class="min-h-0 flex-1 overflow-auto px-5 py-4" @submit.prevent="save">
    <fieldset class="max-w-4xl" :disabled="!session.isWarden">
      <div class="grid grid-cols-[7rem_1fr] items-center gap-x-3 gap-y-2">
        <label for="h-name" class="text-soft">{{ t('people.organisation') }}</label>
        <input id="h-name" v-model="draft.name" class="field max-w-md" required />
        <label for="h-domains" class="text-soft">{{ t('people.ourDomains') }}</label>
        <input
          id="h-domains"
          v-shows="draft.domains.join(' ')"
          class="field value max-w-md"
          @change="draft.domains = words(($event.target as HTMLInputElement).value)"
        />
        <label for="h-people" class="text-soft">{{ t('people.plan') }}</label>
        <div class="flex items-center gap-2">
          {{ t('people.upTo') }}
          <input
            id="h-people"
            v-model.number="draft.plan.maxParticipants"
            class="field value w-24"
            type="number"
            min="1"
          />
          {{ t('people.peopleFor') }}
          <input
            v-model.number="draft.plan.maxMinutes"
            class="field value w-24"
            type="number"
            min="1"
            :aria-label="t('people.mostMinutes')"
          />
          {{ t('people.minutes') }}
        </div>
      </div>
      <h2 class="head mt-5 border-b border-ink pb-1">{{ t('people.partners') }}</h2>
      <table class="grid-lines stack">
        <thead>
          <tr>
            <th>{{ t('people.name2') }}</th>
            <th>{{ t('people.domains') }}</th>
            <th scope="col">
              <span class="hidden-label">{{ t('people.acts') }}</span>
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(p, i) in draft.partners" :key="i">
            <td>
              <input
                v-model="p.name"
                class="field -my-1 w-full"
                :aria-label="t('people.partnerI', { i: i + 1 })"
              />
            </td>
            <td>
              <input
                v-shows="p.domains.join(' ')"
                class="field value -my-1 w-full"
                :aria-label="t('people.domainsOfPartnerI', { i: i + 1 })"
                @change="p.domains = words(($event.target as HTMLInputElement).value)"
              />
            </td>
            <td class="text-right">
              <button
                type="button"
                class="link"
                :aria-label="t('people.removeName', { name: p.name })"
                @click="draft.partners.splice(i, 1)"
              >
                {{ t('people.remove') }}
              </button>
            </td>
          </tr>
        </tbody>
      </table>
      <button
        type="button"
        class="link mt-1"
        @click="draft.partners.push({ name: '', domains: [] })"
      >
        {{ t('people.addAPartner') }}
      </button>
      <h2 class="head mt-5 border-b border-ink pb-1">{{ t('people.units') }}</h2>
      <table class="grid-lines stack">
        <thead>
          <tr>
            <th>{{ t('people.id2') }}</th>
            <th>{{ t('people.name2') }}</th>
            <th>{{ t('people.partOf') }}</th>
            <th scope="col">
              <span class="hidden-label">{{ t('people.acts') }}</span>
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(u, i) in draft.units" :key="i">
            <td>
              <input
                v-model="u.id"
                class="field value -my-1 w-40"
                :aria-label="t('people.idOfUnitI', { i: i + 1 })"
                :readonly="!!isStored('units', i)"
              />
            </td>
            <td>
              <input
                v-model="u.name"
                class="field -my-1 w-full"
                :aria-label="t('people.unitI', { i: i + 1 })"
              />
            </td>
            <td>
              <select
                v-model="u.parent"
                class="field -my-1"
                :aria-label="t('people.nameIsPartOf', { name: u.name })"
              >
                <option :value="null">{{ t('people.none') }}</option>
                <option
                  v-for="other in draft.units.filter((o) => o.id !== u.id)"
                  :key="other.id"
                  :value="other.id"
                >
                  {{ other.name }}
                </option>
              </select>
            </td>
            <td class="text-right">
              <button
                v-if="isAdded('units', i)"
                type="button"
                class="link"
                :aria-label="t('people.removeName', { name: u.name })"
                @click="draft.units.splice(i, 1)"
              >
                {{ t('people.remove') }}
              </button>
            </td>
          </tr>
        </tbody>
      </table>
      <button
        type="button"
        class="link mt-1"
        @click="draft.units.push({ id: '', name: '', parent: null })"
      >
        {{ t('people.addAUnit') }}
      </button>
      <h2 class="head mt-5 border-b border-ink pb-1">{{ t('people.kindsOfMeeting') }}</h2>
      <table class="grid-lines stack">
        <thead>
          <tr>
            <th>{{ t('people.id2') }}</th>
            <th>{{ t('people.name2') }}</th>
            <th>{{ t('people.confidential') }}</th>
            <th scope="col">
              <span class="hidden-label">{{ t('people.acts') }}</span>
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(k, i) in draft.kinds" :key="i">
            <td>
              <input
                v-model="k.id"
                class="field value -my-1 w-40"
                :aria-label="t('people.idOfKindI', { i: i + 1 })"
                :readonly="!!isStored('kinds', i)"
              />
            </td>
            <td>
              <input
                v-model="k.name"
                class="field -my-1 w-full"
                :aria-label="t('people.kindI', { i: i + 1 })"
              />
            </td>
            <td>
              <input
                v-model="k.confidential"
                type="checkbox"
                :aria-label="t('people.nameIsConfidential', { name: k.name })"
              />
            </td>
            <td class="text-right">
              <button
                v-if="isAdded('kinds', i)"
                type="button"
                class="link"
                :aria-label="t('people.removeName', { name: k.name })"
                @click="draft.kinds.splice(i, 1)"
              >
                {{ t('people.remove') }}
              </button>
            </td>
          </tr>
        </tbody>
      </table>
      <button
        type="button"
        class="link mt-1"
        @click="draft.kinds.push({ id: '', name: '', confidential: false })"
      >
        {{ t('people.addAKind') }}
      </button>
    </fieldset>
    <ProblemNote class="mt-3 max-w-4xl" :problem="problem" />
    <OutdatedNote class="mt-2" :problem="problem" @look="takeTheirs" />
    <div v-if="session.isWarden" class="mt-4 flex items-center gap-3">
      <button class="button button-main" :disabled="busy">{{ t('people.save') }}</button>
      <span class="text-soft">{{ t('people.unitsAndKindsAreNotRemovedEarlier') }}</span>
      <span role="status">{{ said }}</span>
    </div>
  </form>
</template>
