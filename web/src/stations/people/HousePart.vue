<script setup lang="ts">
import { useQueryCache } from '@pinia/colada'
import { ref, watch } from 'vue'
import { useOrganisation } from '@/api/catalogue'
import { api, take } from '@/api/client'
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
async function save() {
  const d = draft.value
  if (!d) return
  said.value = ''
  await attempt(async () => {
    await take(
      api.PUT('/api/people/house', {
        body: {
          name: d.name,
          domains: d.domains,
          partners: d.partners,
          maxParticipants: d.plan.maxParticipants,
          maxMinutes: d.plan.maxMinutes,
          units: d.units.map((u) => ({ ...u, parent: u.parent || null })),
          kinds: d.kinds,
        },
      }),
    )
    said.value = 'Saved.'
    opened = JSON.stringify(d)
    await cache.invalidateQueries()
  })
}
</script>

<template>
  <form v-if="draft" class="min-h-0 flex-1 overflow-auto px-5 py-4" @submit.prevent="save">
    <fieldset class="max-w-4xl" :disabled="!session.isWarden">
      <div class="grid grid-cols-[7rem_1fr] items-center gap-x-3 gap-y-2">
        <label for="h-name" class="text-soft">organisation</label>
        <input id="h-name" v-model="draft.name" class="field max-w-md" required />
        <label for="h-domains" class="text-soft">our domains</label>
        <input
          id="h-domains"
          class="field value max-w-md"
          :value="draft.domains.join(' ')"
          @change="draft.domains = words(($event.target as HTMLInputElement).value)"
        />
        <label for="h-people" class="text-soft">plan</label>
        <div class="flex items-center gap-2">
          up to
          <input
            id="h-people"
            v-model.number="draft.plan.maxParticipants"
            class="field value w-24"
            type="number"
            min="1"
          />
          people for
          <input
            v-model.number="draft.plan.maxMinutes"
            class="field value w-24"
            type="number"
            min="1"
            aria-label="Most minutes"
          />
          minutes
        </div>
      </div>
      <h2 class="head mt-5 border-b border-ink pb-1">Partners</h2>
      <table class="grid-lines stack">
        <thead>
          <tr>
            <th>Name</th>
            <th>Domains</th>
            <th scope="col"><span class="hidden-label">Acts</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(p, i) in draft.partners" :key="i">
            <td>
              <input v-model="p.name" class="field -my-1 w-full" :aria-label="`Partner ${i + 1}`" />
            </td>
            <td>
              <input
                class="field value -my-1 w-full"
                :aria-label="`Domains of partner ${i + 1}`"
                :value="p.domains.join(' ')"
                @change="p.domains = words(($event.target as HTMLInputElement).value)"
              />
            </td>
            <td class="text-right">
              <button
                type="button"
                class="link"
                :aria-label="`Remove ${p.name}`"
                @click="draft.partners.splice(i, 1)"
              >
                remove
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
        add a partner
      </button>
      <h2 class="head mt-5 border-b border-ink pb-1">Units</h2>
      <table class="grid-lines stack">
        <thead>
          <tr>
            <th>Id</th>
            <th>Name</th>
            <th>Part of</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(u, i) in draft.units" :key="i">
            <td>
              <input
                v-model="u.id"
                class="field value -my-1 w-40"
                :aria-label="`Id of unit ${i + 1}`"
                :readonly="organisation?.units.some((k) => k.id === u.id && k.name)"
              />
            </td>
            <td>
              <input v-model="u.name" class="field -my-1 w-full" :aria-label="`Unit ${i + 1}`" />
            </td>
            <td>
              <select v-model="u.parent" class="field -my-1" :aria-label="`${u.name} is part of`">
                <option :value="null">none</option>
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
        add a unit
      </button>
      <h2 class="head mt-5 border-b border-ink pb-1">Kinds of meeting</h2>
      <table class="grid-lines stack">
        <thead>
          <tr>
            <th>Id</th>
            <th>Name</th>
            <th>Confidential</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(k, i) in draft.kinds" :key="i">
            <td>
              <input
                v-model="k.id"
                class="field value -my-1 w-40"
                :aria-label="`Id of kind ${i + 1}`"
                :readonly="organisation?.kinds.some((o) => o.id === k.id && o.name)"
              />
            </td>
            <td>
              <input v-model="k.name" class="field -my-1 w-full" :aria-label="`Kind ${i + 1}`" />
            </td>
            <td>
              <input
                v-model="k.confidential"
                type="checkbox"
                :aria-label="`${k.name} is confidential`"
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
        add a kind
      </button>
    </fieldset>
    <ProblemNote class="mt-3 max-w-4xl" :problem="problem" />
    <div v-if="session.isWarden" class="mt-4 flex items-center gap-3">
      <button class="button button-main" :disabled="busy">Save</button>
      <span class="text-soft"
        >Units and kinds are not removed: earlier editions and audits refer to them.</span
      >
      <span role="status">{{ said }}</span>
    </div>
  </form>
</template>
