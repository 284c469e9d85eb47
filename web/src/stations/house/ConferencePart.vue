<script setup lang="ts">
import { t } from '@/wording'
import { useQuery } from '@pinia/colada'
import { useIntervalFn } from '@vueuse/core'
import { computed, ref } from 'vue'
import { api, take } from '@/api/client'
import type { LinkedService } from '@/api/schema'
import { useSession } from '@/api/session'
import { useAct, useRowAct } from '@/shell/act'
import { useKeep } from '@/shell/keep'
import { useAddress } from '@/shell/address'
import { counted } from '@/shell/counted'
import FilterBar from '@/shell/FilterBar.vue'
import FilterChoice from '@/shell/FilterChoice.vue'
import ListFoot from '@/shell/ListFoot.vue'
import ModalSheet from '@/shell/ModalSheet.vue'
import OutdatedNote from '@/shell/OutdatedNote.vue'
import ProblemNote from '@/shell/ProblemNote.vue'
import type { RowAct } from '@/shell/rowActs'
import RowMenu from '@/shell/RowMenu.vue'
import { holds, isWithin, useRows } from '@/shell/rows'
import StatePanel from '@/shell/StatePanel.vue'
import { fullTime, shortTime } from '@/shell/times'
import DefaultsTable from './DefaultsTable.vue'
import { useOrganisation } from '@/api/catalogue'
import MeansTable from './MeansTable.vue'
import ServiceLevel from './ServiceLevel.vue'
import ServiceLinking from './ServiceLinking.vue'
import { backlogWords, levels, stateWords } from './conference'

/** Conference services: linking them, what each can hold, and how it stands with them. */
const session = useSession()
const keep = useKeep()
const { data, error, refetch } = useQuery({
  key: ['services'],
  query: () => take(api.GET('/api/services')),
})
useIntervalFn(() => void refetch(), 5000)

const { problem, attempt: toRow } = useRowAct()
const { busy, problem: declined, attempt } = useAct()
const opened = ref<number | null>(null)
const unlinking = ref<LinkedService | null>(null)
const rekeying = ref<LinkedService | null>(null)
const newKey = ref('')
const shown = computed(() => data.value?.find((s) => s.id === opened.value))

const store = (all: LinkedService[]) => keep(['services'], all)

const { organisation } = useOrganisation()
const unitName = (id: string) =>
  id ? (organisation.value?.units.find((u) => u.id === id)?.name ?? id) : t('house.allOtherUnits')
const homeWords = (s: LinkedService) =>
  s.units.length
    ? t('house.newMeetingsOfJoin', { join: s.units.map(unitName).sort().join(', ') })
    : ''
const homing = ref<LinkedService | null>(null)
const units = ref<string[]>([])
function openUnits(s: LinkedService) {
  declined.value = null
  units.value = [...s.units]
  homing.value = s
}
/** What somebody else made of it takes the place of what was ticked here. */
async function openUnitsAnew() {
  await refetch()
  const now = data.value?.find((s) => s.id === homing.value?.id)
  if (now) openUnits(now)
}
function openKey(s: LinkedService) {
  declined.value = null
  // what was typed for another is nothing that this one may see
  newKey.value = ''
  rekeying.value = s
}
function openUnlinking(s: LinkedService) {
  declined.value = null
  unlinking.value = s
}
const otherHome = (unit: string) =>
  data.value?.find((s) => s.id !== homing.value?.id && s.units.includes(unit))?.name
const of = (s: LinkedService) => ({ params: { path: { id: s.id } } })
const giveUnits = () =>
  attempt(async () => {
    const s = homing.value
    if (!s) return
    const body = { units: units.value, unitsSeen: s.units }
    store(await take(api.PUT('/api/services/{id}', { ...of(s), body })))
    homing.value = null
  })
const pause = (s: LinkedService, paused: boolean) =>
  toRow(s.id, async () => {
    // the rest stays as it is by then, whatever it was when this list was read
    store(await take(api.PUT('/api/services/{id}', { ...of(s), body: { paused } })))
  }).then(() => refetch())
const giveKey = () =>
  attempt(async () => {
    const s = rekeying.value
    if (!s) return
    store(await take(api.PUT('/api/services/{id}/key', { ...of(s), body: { key: newKey.value } })))
    rekeying.value = null
    newKey.value = ''
  })
const unlink = () =>
  attempt(async () => {
    const s = unlinking.value
    if (!s) return
    store(await take(api.DELETE('/api/services/{id}', of(s))))
    unlinking.value = null
  })
const toggle = (s: LinkedService) => (opened.value = opened.value === s.id ? null : s.id)
const { query, clear, days } = useAddress()
const rows = computed(() =>
  (data.value ?? []).filter(
    (s) =>
      (!query('level') || s.level === query('level')) &&
      holds(query('text'), s.name, s.make, s.address) &&
      isWithin(s.since, days.value),
  ),
)
const { look } = useRows({
  name: 'service',
  rows: () => rows.value,
  open: toggle,
  opened: () => rows.value.findIndex((s) => s.id === opened.value),
})
function acts(s: LinkedService): RowAct[] {
  const isPaused = s.state === 'paused'
  const all: RowAct[] = [
    {
      name: t('house.itsMeetings'),
      to: { path: '/register', query: { service: String(s.id) } },
    },
  ]
  if (session.isWarden)
    all.push(
      {
        name: isPaused ? t('house.goOn') : t('house.pause'),
        act: () => void pause(s, !isPaused),
      },
      { name: t('house.units'), act: () => openUnits(s) },
      { name: t('house.newKey'), act: () => openKey(s) },
      { name: t('house.unlink'), act: () => openUnlinking(s) },
    )
  return all
}
</script>

<template>
  <StatePanel v-if="error && !data" state="failed" :problem="error" @retry="refetch()" />
  <StatePanel v-else-if="!data" state="loading" />
  <template v-else>
    <StatePanel v-if="!data.length" state="empty" :title="t('house.noConferenceServiceIsLinked')">
      {{ t('house.untilOneIsMeetingsComeFromHere') }}
    </StatePanel>
    <FilterBar
      v-if="data.length"
      class="!px-0"
      :words="t('house.serviceOrAddress')"
      :days="t('house.since')"
    >
      <FilterChoice
        name="level"
        :label="t('house.whatWeDoThere')"
        :all="t('house.whateverWeDoThere')"
        :choices="levels.map((l) => ({ id: l.id, name: l.words }))"
      />
    </FilterBar>
    <StatePanel
      v-if="data.length && !rows.length"
      state="empty"
      :title="t('house.noServiceIsLikeThat')"
    >
      <button class="link" @click="clear()">{{ t('shell.showAllAgain') }}</button>
    </StatePanel>
    <table v-else-if="data.length" class="grid-lines stack w-full">
      <thead>
        <tr>
          <th scope="col">{{ t('house.service') }}</th>
          <th scope="col">{{ t('house.howItStands') }}</th>
          <th scope="col" class="text-right">{{ t('house.meetings') }}</th>
          <th scope="col">{{ t('house.whatWasDecided') }}</th>
          <th scope="col">{{ t('house.whatWeDoThere') }}</th>
          <th scope="col">
            <span class="sr-only">{{ t('house.acts') }}</span>
          </th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(s, i) in rows" :id="`service-${i}`" :key="s.id" :class="look(i)">
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
              {{ t('house.sinceSince', { since: shortTime(s.since) })
              }}<template v-if="s.contactAt && stateWords(s).wrong">
                {{ t('house.readUpToContactAt', { contactAt: shortTime(s.contactAt) }) }}</template
              >
            </span>
          </td>
          <td class="value text-right">{{ s.meetings }}</td>
          <td>{{ backlogWords(s) }}</td>
          <td>
            <ServiceLevel v-if="session.isWarden" :service="s" @set="store" />
            <template v-else>{{ levels.find((l) => l.id === s.level)?.words }}</template>
          </td>
          <td class="text-right whitespace-nowrap">
            <button class="link" :aria-expanded="opened === s.id" @click="toggle(s)">
              {{ opened === s.id ? t('house.hide') : t('house.whatItCanHold') }}
            </button>
            <RowMenu class="ml-2" :of="s.name" :acts="acts(s)" />
          </td>
        </tr>
      </tbody>
    </table>
    <ListFoot
      v-if="data.length"
      class="!border-t-0 !px-0"
      :count="counted(rows.length, 'service')"
      opens
    />
    <ProblemNote class="mt-3" :problem="problem" />
    <section v-if="shown" class="mt-4">
      <h2 class="head mb-2 text-base">
        {{ t('house.whatNameCanHold', { name: shown.name }) }}
        <span class="font-normal text-soft">{{
          t('house.perSecondRequestsASecond', { perSecond: shown.perSecond })
        }}</span>
      </h2>
      <MeansTable :means="shown.means" />
      <h2 class="head mt-4 mb-2 text-base">{{ t('house.itsOwnDefaultsAndLocks') }}</h2>
      <DefaultsTable :id="shown.id" :name="shown.name" :level="shown.level" />
    </section>
    <ServiceLinking v-if="session.isWarden" @linked="store" />
    <ModalSheet
      :open="unlinking !== null"
      :title="t('house.unlinkName', { name: unlinking?.name })"
      @close="unlinking = null"
    >
      <p>
        {{ t('house.nothingIsReadFromItOrWritten') }}
      </p>
      <ProblemNote class="mt-2" :problem="declined" />
      <div class="mt-4 flex gap-3">
        <button class="button button-main" :disabled="busy" @click="unlink">
          {{ t('house.unlinkIt') }}
        </button>
        <button class="button" @click="unlinking = null">{{ t('house.keepIt') }}</button>
      </div>
    </ModalSheet>
    <ModalSheet
      :open="homing !== null"
      :title="t('house.whoseNewMeetingsAreMadeInName', { name: homing?.name })"
      @close="homing = null"
    >
      <form @submit.prevent="giveUnits">
        <p v-if="homing?.level !== 'write'" class="mb-2 text-sand">
          {{ t('house.nameIsNotLinkedForWritingUntil', { name: homing?.name }) }}
        </p>
        <fieldset class="max-h-[50vh] overflow-auto">
          <legend class="sr-only">{{ t('house.units2') }}</legend>
          <label
            v-for="u in ['', ...(organisation?.units ?? []).map((u) => u.id)]"
            :key="u"
            class="flex items-center gap-2 py-0.5"
          >
            <input v-model="units" type="checkbox" :value="u" />
            {{ u ? unitName(u) : t('house.allThatHaveNoOther') }}
            <span v-if="otherHome(u)" class="text-[12.5px] text-soft">{{
              t('house.nowU', { u: otherHome(u) })
            }}</span>
          </label>
        </fieldset>
        <ProblemNote class="mt-2" :problem="declined" />
        <OutdatedNote class="mt-1" :problem="declined" @look="openUnitsAnew" />
        <button class="button button-main mt-4" :disabled="busy">{{ t('house.keepItSo') }}</button>
      </form>
    </ModalSheet>
    <ModalSheet
      :open="rekeying !== null"
      :title="t('house.aNewKeyForName', { name: rekeying?.name })"
      @close="rekeying = null"
    >
      <form @submit.prevent="giveKey">
        <label class="flex flex-col gap-1">
          {{ t('house.key') }}
          <input
            v-model.trim="newKey"
            class="field w-full"
            type="password"
            autocomplete="off"
            maxlength="400"
            required
          />
        </label>
        <ProblemNote class="mt-2" :problem="declined" />
        <button class="button button-main mt-4" :disabled="busy">
          {{ busy ? t('house.trying') : t('house.tryItAndKeepIt') }}
        </button>
      </form>
    </ModalSheet>
  </template>
</template>
