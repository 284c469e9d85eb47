<script setup lang="ts">
import { t } from '@/wording'
import { useQuery, useQueryCache } from '@pinia/colada'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, take } from '@/api/client'
import { useSession } from '@/api/session'
import type { EditionLine } from '@/api/schema'
import { useAddress } from '@/shell/address'
import { counted } from '@/shell/counted'
import FilterBar from '@/shell/FilterBar.vue'
import ListFoot from '@/shell/ListFoot.vue'
import type { RowAct } from '@/shell/rowActs'
import RowMenu from '@/shell/RowMenu.vue'
import { holds, isWithin, useRows } from '@/shell/rows'
import ModalSheet from '@/shell/ModalSheet.vue'
import { useAct } from '@/shell/act'
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
const { problem, attempt } = useAct()
const withdrawing = ref<EditionLine | null>(null)

const stepBack = (number: number) =>
  attempt(async () => {
    const body = { name: t('rulebook.backToEditionNumber', { number }), from: `edition:${number}` }
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
type State = 'withdrawn' | 'in-force' | 'coming' | 'before'
function stateOf(edition: EditionLine): State {
  if (edition.withdrawnAt) return 'withdrawn'
  if (edition.number === inForce.value?.number) return 'in-force'
  return new Date(edition.effectiveAt) > new Date() ? 'coming' : 'before'
}
function state(edition: EditionLine): string {
  switch (stateOf(edition)) {
    case 'withdrawn':
      return t('rulebook.withdrawnByWithdrawnBy', { withdrawnBy: edition.withdrawnBy })
    case 'in-force':
      return t('rulebook.inForce')
    case 'coming':
      return t('rulebook.fromEffectiveAt', { effectiveAt: fullTime(edition.effectiveAt) })
    default:
      return t('rulebook.wasInForceBefore')
  }
}
const { query, clear, days, isNarrowedBy } = useAddress()
const isNarrowed = computed(() => isNarrowedBy())
const rows = computed(() =>
  (data.value ?? []).filter(
    (e) =>
      holds(query('text'), String(e.number), e.publishedBy, e.reason) &&
      isWithin(e.publishedAt, days.value),
  ),
)
const { look } = useRows({ name: 'edition', rows: () => rows.value })
function acts(e: EditionLine): RowAct[] {
  const all: RowAct[] = [
    {
      name: t('rulebook.compareWithTheOneInForce'),
      to: {
        path: '/rulebook/compare',
        query: { from: `edition:${e.number}`, to: `edition:${inForce.value?.number ?? e.number}` },
      },
    },
  ]
  if (session.seesAll)
    all.push({
      name: t('rulebook.whatWasDoneWithIt'),
      to: { path: '/ledger', query: { object: 'edition', objectId: String(e.number) } },
    })
  return all
}
const print = (number: number, format: string) =>
  `/api/rulebook/print?of=edition:${number}&format=${format}`
const file = (number: number, format: string) =>
  `/api/rulebook/file?of=edition:${number}&format=${format}`
</script>

<template>
  <div class="flex h-full flex-col">
    <div class="flex min-h-11 shrink-0 items-center gap-3 border-b border-line px-5">
      <h1 class="head">{{ t('rulebook.editions') }}</h1>
      <span class="text-soft">{{ t('rulebook.oncePublishedAnEditionIsNeverChanged') }}</span>
      <RouterLink v-if="session.isWarden" class="link ml-auto" to="/outbox">{{
        t('rulebook.messagesToHosts')
      }}</RouterLink>
      <RouterLink class="link" :class="session.isWarden ? '' : 'ml-auto'" to="/rulebook">{{
        t('rulebook.backToTheLadders')
      }}</RouterLink>
    </div>
    <FilterBar :words="t('rulebook.numberWhyOrByWhom')" :days="t('rulebook.published')" />
    <ProblemNote v-if="problem" class="mx-5 my-2" :problem="problem" />
    <StatePanel v-if="error" state="failed" :problem="error" @retry="refetch()" />
    <StatePanel v-else-if="!data" state="loading" />
    <StatePanel
      v-else-if="!data.length"
      state="empty"
      :title="t('rulebook.nothingHasBeenPublishedYet')"
    />
    <div v-else class="min-h-0 flex-1 overflow-auto px-5 pb-5">
      <StatePanel
        v-if="!rows.length && isNarrowed"
        state="empty"
        :title="t('rulebook.noEditionIsLikeThat')"
      >
        <button class="link" @click="clear()">{{ t('shell.showAllAgain') }}</button>
      </StatePanel>
      <table v-else class="grid-lines stack">
        <thead>
          <tr>
            <th>{{ t('rulebook.edition') }}</th>
            <th>{{ t('rulebook.state') }}</th>
            <th>{{ t('rulebook.published') }}</th>
            <th>{{ t('rulebook.by') }}</th>
            <th>{{ t('rulebook.why') }}</th>
            <th>{{ t('rulebook.read') }}</th>
            <th scope="col">
              <span class="hidden-label">{{ t('rulebook.acts') }}</span>
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(e, i) in rows" :id="`edition-${i}`" :key="e.number" :class="look(i)">
            <td class="value text-base font-bold">{{ e.number }}</td>
            <td :class="stateOf(e) === 'in-force' ? 'font-bold text-kelp' : 'text-soft'">
              {{ state(e) }}
            </td>
            <td class="value whitespace-nowrap">{{ fullTime(e.publishedAt) }}</td>
            <td>
              {{ e.publishedBy.split('@')[0]
              }}<span v-if="e.consentBy" class="text-soft">
                {{ t('rulebook.withSplit', { split: e.consentBy.split('@')[0] }) }}</span
              >
            </td>
            <td>{{ e.reason }}</td>
            <td class="whitespace-nowrap">
              <a class="link" :href="print(e.number, 'html')" target="_blank">{{
                t('rulebook.page')
              }}</a>
              <a class="link ml-2" :href="print(e.number, 'pdf')">{{ t('rulebook.pDF') }}</a>
              <a class="link ml-2" :href="file(e.number, 'json')">{{ t('rulebook.jSON') }}</a>
              <a class="link ml-2" :href="file(e.number, 'yaml')">{{ t('rulebook.yAML') }}</a>
            </td>
            <td class="whitespace-nowrap text-right">
              <RouterLink
                class="link"
                :to="`/rulebook/compare?from=edition:${e.number - 1}&to=edition:${e.number}`"
                >{{ t('rulebook.compare2')
                }}<span class="hidden-label">
                  {{ t('rulebook.withTheOneBefore') }}</span
                ></RouterLink
              >
              <template v-if="session.isWarden && !e.withdrawnAt">
                <button
                  v-if="stateOf(e) === 'before'"
                  class="link ml-3"
                  @click="stepBack(e.number)"
                >
                  {{ t('rulebook.stepBackToIt') }}
                </button>
                <button
                  v-else-if="stateOf(e) === 'coming'"
                  class="link ml-3"
                  @click="withdrawing = e"
                >
                  {{ t('rulebook.withdraw2') }}
                </button>
              </template>
              <RowMenu
                class="ml-2"
                :of="t('rulebook.editionNumber', { number: e.number })"
                :acts="acts(e)"
              />
            </td>
          </tr>
        </tbody>
      </table>
      <section v-if="house" class="mt-6 max-w-prose">
        <h2 class="head">{{ t('rulebook.aSecondWardensConsent') }}</h2>
        <p v-if="!house.needsConsent" class="text-soft">
          {{ t('rulebook.everyWardenPublishesAndLinksConference') }}
        </p>
        <p v-else-if="house.consentOffBy">
          {{
            t('rulebook.consentOffByAsksToDoWithoutConsentAgain', {
              consentOffBy: house.consentOffBy,
            })
          }}
        </p>
        <p v-else>{{ t('rulebook.publishingAndLinkingAConferenceService') }}</p>
        <button v-if="!house.needsConsent" class="button mt-2" @click="setConsent(true)">
          {{ t('rulebook.askForConsentFromNowOn') }}
        </button>
        <template v-else>
          <button
            v-if="house.consentOffBy !== session.who?.email"
            class="button mt-2"
            @click="setConsent(false)"
          >
            {{
              house.consentOffBy
                ? t('rulebook.agreeNoConsentNeeded')
                : t('rulebook.askToSwitchItOff')
            }}
          </button>
          <button v-if="house.consentOffBy" class="button ml-2 mt-2" @click="setConsent(true)">
            {{ t('rulebook.keepConsent') }}
          </button>
        </template>
      </section>
    </div>
    <ListFoot v-if="data?.length" :count="counted(rows.length, 'edition')" />
    <ModalSheet
      :open="!!withdrawing"
      :title="t('rulebook.withdrawEditionNumber', { number: withdrawing?.number })"
      @close="withdrawing = null"
    >
      <p>
        {{
          t('rulebook.itWasToComeIntoForceWithdrawing', {
            withdrawing: withdrawing ? state(withdrawing) : '',
          })
        }}
      </p>
      <button class="button button-main mt-3" @click="withdraw(withdrawing?.number ?? 0)">
        {{ t('rulebook.withdrawIt') }}
      </button>
    </ModalSheet>
  </div>
</template>
