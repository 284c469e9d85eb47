<script setup lang="ts">
import { t } from '@/wording'
import { useQueryCache } from '@pinia/colada'
import { computed, ref, watch } from 'vue'
import { useOrganisation } from '@/api/catalogue'
import { api, Problem, take } from '@/api/client'
import type { Overview } from '@/api/schema'
import { useSession } from '@/api/session'
import { useAct } from '@/shell/act'
import { useUnsaved } from '@/shell/unsaved'
import ProblemNote from '@/shell/ProblemNote.vue'

/** The organisation's own facts: domains, partners, plan, units and kinds. */
const session = useSession()
const cache = useQueryCache()
const { organisation } = useOrganisation()
const draft = ref<Overview | null>(null)
const said = ref('')
const { busy, problem, attempt } = useAct()
/** As it was when it was read, as text. */
let opened = ''
const touched = () => draft.value !== null && JSON.stringify(draft.value) !== opened
useUnsaved(touched)
function fill(now: Overview) {
  opened = JSON.stringify(now)
  draft.value = JSON.parse(opened) as Overview
}
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
    opened = sent
    await cache.invalidateQueries()
    const now = organisation.value
    // what was typed after it was sent rests on what was sent, unless somebody else has been there too
    if (now && draft.value && touched() && saying(now) === saying(asSent)) {
      opened = JSON.stringify(now)
      draft.value.facts = now.facts
    }
  })
}
/** Somebody else was faster: what they made of it takes the place of what was typed here. */
const isOutdated = computed(
  () => problem.value instanceof Problem && problem.value.code === 'changed-meanwhile',
)
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
          class="field value max-w-md"
          :value="draft.domains.join(' ')"
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
                class="field value -my-1 w-full"
                :aria-label="t('people.domainsOfPartnerI', { i: i + 1 })"
                :value="p.domains.join(' ')"
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
          </tr>
        </thead>
        <tbody>
          <tr v-for="(u, i) in draft.units" :key="i">
            <td>
              <input
                v-model="u.id"
                class="field value -my-1 w-40"
                :aria-label="t('people.idOfUnitI', { i: i + 1 })"
                :readonly="organisation?.units.some((k) => k.id === u.id && k.name)"
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
          </tr>
        </thead>
        <tbody>
          <tr v-for="(k, i) in draft.kinds" :key="i">
            <td>
              <input
                v-model="k.id"
                class="field value -my-1 w-40"
                :aria-label="t('people.idOfKindI', { i: i + 1 })"
                :readonly="organisation?.kinds.some((o) => o.id === k.id && o.name)"
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
    <p v-if="isOutdated" class="mt-2">
      <button type="button" class="link" @click="takeTheirs">
        {{ t('people.showWhatItIsNow') }}
      </button>
      <span class="ml-2 text-soft">{{ t('people.whatYouTypedHereIsGoneThen') }}</span>
    </p>
    <div v-if="session.isWarden" class="mt-4 flex items-center gap-3">
      <button class="button button-main" :disabled="busy">{{ t('people.save') }}</button>
      <span class="text-soft">{{ t('people.unitsAndKindsAreNotRemovedEarlier') }}</span>
      <span role="status">{{ said }}</span>
    </div>
  </form>
</template>
