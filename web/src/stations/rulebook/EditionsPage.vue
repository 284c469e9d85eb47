<script setup lang="ts">
import { useQuery, useQueryCache } from '@pinia/colada'
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, take } from '@/api/client'
import { useSession } from '@/api/session'
import type { EditionLine } from '@/api/schema'
import ModalSheet from '@/shell/ModalSheet.vue'
import ProblemNote from '@/shell/ProblemNote.vue'
import StatePanel from '@/shell/StatePanel.vue'
import { fullTime } from '@/shell/times'

/** Every edition there was: by whom and why, compared, printed, written out, stepped back to. */
const session = useSession()
const router = useRouter()
const cache = useQueryCache()
const { data, error, refetch } = useQuery({
  key: ['rulebook', 'editions'],
  query: () => take(api.GET('/api/rulebook/editions')),
})
const { data: inForce } = useQuery({
  key: ['rulebook', 'in-force'],
  query: () => take(api.GET('/api/rulebook')),
})
const { data: house, refetch: lookAgain } = useQuery({
  key: ['consent'],
  query: () => take(api.GET('/api/rulebook/drafts/consent')),
  enabled: () => session.isWarden,
})
const problem = ref<Error | null>(null)
const withdrawing = ref<EditionLine | null>(null)

async function attempt(work: () => Promise<unknown>) {
  problem.value = null
  try {
    await work()
  } catch (e) {
    problem.value = e as Error
  }
}
const stepBack = (number: number) =>
  attempt(async () => {
    const body = { name: `Back to edition ${number}`, from: `edition:${number}` }
    const draft = await take(api.POST('/api/rulebook/drafts', { body }))
    await cache.invalidateQueries({ key: ['drafts'] })
    await router.push({ path: '/rulebook', query: { draft: draft.line.id, publish: '1' } })
  })
const withdraw = (number: number) =>
  attempt(async () => {
    const path = { number }
    await take(api.POST('/api/rulebook/editions/{number}/withdraw', { params: { path } }))
    withdrawing.value = null
    await cache.invalidateQueries({ key: ['rulebook'] })
  })
const setConsent = (needed: boolean) =>
  attempt(async () => {
    await take(api.PUT('/api/rulebook/drafts/consent', { params: { query: { needed } } }))
    await lookAgain()
  })
function state(edition: EditionLine): string {
  if (edition.withdrawnAt) return `withdrawn by ${edition.withdrawnBy}`
  if (edition.number === inForce.value?.number) return 'in force'
  return new Date(edition.effectiveAt) > new Date()
    ? `from ${fullTime(edition.effectiveAt)}`
    : 'before'
}
const print = (number: number, format: string) =>
  `/api/rulebook/print?of=edition:${number}&format=${format}`
const file = (number: number, format: string) =>
  `/api/rulebook/file?of=edition:${number}&format=${format}`
</script>

<template>
  <div class="flex h-full flex-col">
    <div class="flex min-h-11 shrink-0 items-center gap-3 border-b border-line px-5">
      <h1 class="head">Editions</h1>
      <span class="text-soft">Once published, an edition is never changed.</span>
      <RouterLink v-if="session.isWarden" class="link ml-auto" to="/outbox"
        >Messages to hosts</RouterLink
      >
      <RouterLink class="link" :class="session.isWarden ? '' : 'ml-auto'" to="/rulebook"
        >Back to the ladders</RouterLink
      >
    </div>
    <ProblemNote v-if="problem" class="mx-5 my-2" :problem="problem" />
    <StatePanel v-if="error" state="failed" :problem="error" @retry="refetch()" />
    <StatePanel v-else-if="!data" state="loading" />
    <StatePanel v-else-if="!data.length" state="empty" title="Nothing has been published yet" />
    <div v-else class="min-h-0 flex-1 overflow-auto px-5 pb-5">
      <table class="grid-lines stack">
        <thead>
          <tr>
            <th>Edition</th>
            <th>State</th>
            <th>Published</th>
            <th>By</th>
            <th>Why</th>
            <th>Read</th>
            <th scope="col"><span class="hidden-label">Acts</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="e in data" :key="e.number">
            <td class="value text-base font-bold">{{ e.number }}</td>
            <td :class="state(e) === 'in force' ? 'font-bold text-kelp' : 'text-soft'">
              {{ state(e) }}
            </td>
            <td class="value whitespace-nowrap">{{ fullTime(e.publishedAt) }}</td>
            <td>
              {{ e.publishedBy.split('@')[0]
              }}<span v-if="e.consentBy" class="text-soft">
                with {{ e.consentBy.split('@')[0] }}</span
              >
            </td>
            <td>{{ e.reason }}</td>
            <td class="whitespace-nowrap">
              <a class="link" :href="print(e.number, 'html')" target="_blank">page</a>
              <a class="link ml-2" :href="print(e.number, 'pdf')">PDF</a>
              <a class="link ml-2" :href="file(e.number, 'json')">JSON</a>
              <a class="link ml-2" :href="file(e.number, 'yaml')">YAML</a>
            </td>
            <td class="whitespace-nowrap text-right">
              <RouterLink
                class="link"
                :to="`/rulebook/compare?from=edition:${e.number - 1}&to=edition:${e.number}`"
                >compare<span class="hidden-label"> with the one before</span></RouterLink
              >
              <template v-if="session.isWarden && !e.withdrawnAt">
                <button v-if="state(e) === 'before'" class="link ml-3" @click="stepBack(e.number)">
                  step back to it
                </button>
                <button
                  v-else-if="state(e) !== 'in force'"
                  class="link ml-3"
                  @click="withdrawing = e"
                >
                  withdraw
                </button>
              </template>
            </td>
          </tr>
        </tbody>
      </table>
      <section v-if="house" class="mt-6 max-w-prose">
        <h2 class="head">A second warden’s consent</h2>
        <p v-if="!house.needsConsent" class="text-soft">
          Every warden publishes, and links conference services, alone. With consent, what one
          proposes counts only after another has agreed. It is switched on by one, and off by two.
        </p>
        <p v-else-if="house.consentOffBy">
          {{ house.consentOffBy }} asks to do without consent again.
        </p>
        <p v-else>Publishing, and linking a conference service, need a second warden’s consent.</p>
        <button v-if="!house.needsConsent" class="button mt-2" @click="setConsent(true)">
          Ask for consent from now on
        </button>
        <template v-else>
          <button
            v-if="house.consentOffBy !== session.who?.email"
            class="button mt-2"
            @click="setConsent(false)"
          >
            {{ house.consentOffBy ? 'Agree: no consent needed' : 'Ask to switch it off' }}
          </button>
          <button v-if="house.consentOffBy" class="button ml-2 mt-2" @click="setConsent(true)">
            Keep consent
          </button>
        </template>
      </section>
    </div>
    <ModalSheet
      :open="!!withdrawing"
      :title="`Withdraw edition ${withdrawing?.number}?`"
      @close="withdrawing = null"
    >
      <p>
        It was to come into force {{ withdrawing ? state(withdrawing) : '' }} and never will. Its
        number stays used. This cannot be undone; publish it anew if you change your mind.
      </p>
      <button class="button button-main mt-3" @click="withdraw(withdrawing?.number ?? 0)">
        Withdraw it
      </button>
    </ModalSheet>
  </div>
</template>
