<script setup lang="ts">
import { t } from '@/wording'
import { useQuery } from '@pinia/colada'
import { useIntervalFn } from '@vueuse/core'
import { computed, ref } from 'vue'
import { api, take } from '@/api/client'
import type { ReadSource, SourceSettings, SourceTried } from '@/api/schema'
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
import { useUnsaved } from '@/shell/unsaved'
import CalendarForm from './CalendarForm.vue'
import { broughtWords, purposes, rhythmWords, sourceWords } from './calendars'

/** Calendars that are read where they are kept: adding them, and how each stands. */
const session = useSession()
const keep = useKeep()
const { data, error, refetch } = useQuery({
  key: ['calendars'],
  query: () => take(api.GET('/api/calendars')),
})
useIntervalFn(() => void refetch(), 5000)
const store = (all: ReadSource[]) => keep(['calendars'], all)
const { busy, problem, attempt } = useAct()
const { underWay, attempt: toRow } = useRowAct(problem)

const address = ref('')
const account = ref('')
const secret = ref('')
const tried = ref<SourceTried | null>(null)
const chosen = ref('')
const here = Intl.DateTimeFormat().resolvedOptions().timeZone
const fresh = () => ({ name: '', purpose: 'meetings', person: '', zone: here, minutes: 60 })
const form = ref(fresh())
const forget = () => (tried.value = null)

const look = () =>
  attempt(async () => {
    const body = { address: address.value, account: account.value || null, secret: secret.value }
    const found = await take(api.POST('/api/calendars/attempt', { body }))
    const isStillAsked =
      body.address === address.value &&
      body.account === (account.value || null) &&
      body.secret === secret.value
    // what was typed meanwhile is to be tried itself
    if (!isStillAsked) return
    const first = found.calendars[0]
    chosen.value = first?.address ?? found.address
    form.value = {
      ...fresh(),
      name: first?.name ?? new URL(found.address).hostname,
      person: session.who?.email ?? '',
      minutes: found.kind === 'caldav' ? 1 : 60,
    }
    tried.value = found
  })
const pick = (at: string) => {
  const name = tried.value?.calendars.find((c) => c.address === at)?.name
  chosen.value = at
  if (name) form.value = { ...form.value, name }
}
const add = () =>
  attempt(async () => {
    if (!tried.value) return
    store(
      await take(
        api.POST('/api/calendars', {
          body: {
            ...form.value,
            kind: tried.value.kind,
            address: chosen.value,
            account: account.value || null,
            secret: secret.value || null,
          },
        }),
      ),
    )
    address.value = account.value = secret.value = ''
    tried.value = null
  })

const setting = ref<ReadSource | null>(null)
const settings = ref(fresh())
const setAccount = ref('')
const setSecret = ref('')
useUnsaved(() => tried.value !== null || setting.value !== null)
function openSettings(s: ReadSource) {
  settings.value = {
    name: s.name,
    purpose: s.purpose,
    person: s.person,
    zone: s.zone,
    minutes: s.minutes,
  }
  setAccount.value = s.account ?? ''
  setSecret.value = ''
  problem.value = null
  setting.value = s
}
const put = (s: ReadSource, body: SourceSettings) =>
  toRow(s.id, async () => {
    store(await take(api.PUT('/api/calendars/{id}', { params: { path: { id: s.id } }, body })))
    if (setting.value?.id === s.id) setting.value = null
  })
const saveSettings = () => {
  const { name, person, zone, minutes } = settings.value
  const s = setting.value
  return (
    s &&
    put(s, {
      name,
      person,
      zone,
      minutes,
      account: setAccount.value || null,
      secret: setSecret.value || null,
      seen: {
        name: s.name,
        account: s.account,
        person: s.person,
        zone: s.zone,
        minutes: s.minutes,
      },
    })
  )
}
/** What somebody else made of it takes the place of what was typed here. */
async function openAnew() {
  const id = setting.value?.id
  await refetch()
  const now = data.value?.find((s) => s.id === id)
  if (now) openSettings(now)
}
const of = (s: ReadSource) => ({ params: { path: { id: s.id } } })
const readNow = (s: ReadSource) =>
  toRow(s.id, () => take(api.POST('/api/calendars/{id}/reading', of(s)))).then(() => refetch())
const agree = (s: ReadSource) =>
  toRow(s.id, () =>
    // as many as the button says, and no more
    take(
      api.POST('/api/calendars/{id}/gone', {
        params: { path: { id: s.id }, query: { gone: s.gone } },
      }),
    ),
  ).then(() => refetch())
const removing = ref<ReadSource | null>(null)
function openRemoving(s: ReadSource) {
  problem.value = null
  removing.value = s
}
const remove = () =>
  attempt(async () => {
    if (!removing.value) return
    store(await take(api.DELETE('/api/calendars/{id}', of(removing.value))))
    removing.value = null
  })
const opened = ref<number | null>(null)
const remarks = computed(() => data.value?.find((s) => s.id === opened.value))
const { query, clear, days } = useAddress()
const rows = computed(() =>
  (data.value ?? []).filter(
    (s) =>
      (!query('purpose') || s.purpose === query('purpose')) &&
      holds(query('text'), s.name, s.address, s.person) &&
      isWithin(s.readAt, days.value),
  ),
)
const { look: lookOf } = useRows({ name: 'calendar', rows: () => rows.value })
function acts(s: ReadSource): RowAct[] {
  if (!session.isWarden) return []
  const isPaused = s.state === 'paused'
  const all: RowAct[] = [
    {
      name: isPaused ? t('house.goOn') : t('house.pause'),
      act: () => void put(s, { paused: !isPaused }),
    },
    { name: t('house.change'), act: () => openSettings(s) },
    { name: t('house.remove'), act: () => openRemoving(s) },
  ]
  if (!isPaused) all.unshift({ name: t('house.readNow'), act: () => void readNow(s) })
  return all
}
</script>

<template>
  <StatePanel v-if="error && !data" state="failed" :problem="error" @retry="refetch()" />
  <StatePanel v-else-if="!data" state="loading" />
  <template v-else>
    <h1 class="head">{{ t('house.calendarsThatAreRead') }}</h1>
    <p class="mt-1 mb-3 max-w-3xl">
      {{ t('house.meetingsThatAreKeptInACalendar') }}
    </p>
    <p v-if="!data.length" class="max-w-3xl text-soft">
      {{ t('house.noCalendarIsReadYetAddThe') }}
    </p>
    <FilterBar
      v-if="data.length"
      class="!px-0"
      :words="t('house.calendarOrAddress')"
      :days="t('house.lastRead')"
    >
      <FilterChoice
        name="purpose"
        :label="t('house.whatItIsReadFor')"
        :all="t('house.forWhateverItIsRead')"
        :choices="purposes.map((p) => ({ id: p.id, name: p.words }))"
      />
    </FilterBar>
    <StatePanel
      v-if="data.length && !rows.length"
      state="empty"
      :title="t('house.noCalendarIsLikeThat')"
    >
      <button class="link" @click="clear()">{{ t('shell.showAllAgain') }}</button>
    </StatePanel>
    <table v-else-if="data.length" class="grid-lines stack w-full">
      <thead>
        <tr>
          <th scope="col">{{ t('house.calendar') }}</th>
          <th scope="col">{{ t('house.howItStands') }}</th>
          <th scope="col">{{ t('house.whatItBrings') }}</th>
          <th scope="col">{{ t('house.read') }}</th>
          <th scope="col">
            <span class="sr-only">{{ t('house.acts') }}</span>
          </th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(s, i) in rows" :id="`calendar-${i}`" :key="s.id" :class="lookOf(i)">
          <td class="max-w-xs">
            <strong>{{ s.name }}</strong>
            <span class="block truncate text-[12.5px] text-soft" :title="s.address">{{
              s.address
            }}</span>
          </td>
          <td class="max-w-xs">
            <span :class="sourceWords(s).wrong ? 'text-rust' : ''">{{ sourceWords(s).text }}</span>
            <span v-if="s.readAt" class="block text-[12.5px] text-soft" :title="fullTime(s.readAt)">
              {{ t('house.lastReadReadAt', { readAt: shortTime(s.readAt) }) }}
            </span>
            <button
              v-if="s.state === 'asks' && session.isWarden"
              class="button mt-1"
              :disabled="underWay.has(s.id)"
              @click="agree(s)"
            >
              {{ t('house.cancelTheseGoneHereToo', { gone: s.gone }) }}
            </button>
          </td>
          <td>
            {{ broughtWords(s) }}
            <span v-if="s.purpose === 'busy'" class="block text-[12.5px] text-soft">
              {{ t('house.ofPerson', { person: s.person }) }}
            </span>
            <button
              v-if="s.refused"
              class="link block"
              :aria-expanded="opened === s.id"
              @click="opened = opened === s.id ? null : s.id"
            >
              {{ t('house.refusedLeftOut', { refused: s.refused }) }}
            </button>
          </td>
          <td>{{ rhythmWords(s.minutes) }}</td>
          <td class="text-right whitespace-nowrap">
            <button
              v-if="session.isWarden && s.state !== 'paused'"
              class="link"
              :disabled="underWay.has(s.id)"
              @click="readNow(s)"
            >
              {{ t('house.readNow') }}
            </button>
            <RowMenu class="ml-2" :of="s.name" :acts="acts(s)" />
          </td>
        </tr>
      </tbody>
    </table>
    <ListFoot
      v-if="data.length"
      class="!border-t-0 !px-0"
      :count="counted(rows.length, 'calendar')"
    />
    <ProblemNote v-if="!setting && !removing" class="mt-3" :problem="problem" />
    <section v-if="remarks" class="mt-4 max-w-4xl">
      <h2 class="head mb-2 text-base">
        {{ t('house.whatOfNameIsNoMeeting', { name: remarks.name }) }}
      </h2>
      <table class="grid-lines stack w-full">
        <thead>
          <tr>
            <th scope="col">{{ t('house.event') }}</th>
            <th scope="col">{{ t('house.why') }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(r, i) in remarks.remarks" :key="i">
            <td dir="auto">{{ r.title || t('house.withoutATitle') }}</td>
            <td>{{ r.why }}</td>
          </tr>
        </tbody>
      </table>
      <p v-if="remarks.refused > remarks.remarks.length" class="mt-1 text-soft">
        {{ t('house.andRefusedMore', { refused: remarks.refused - remarks.remarks.length }) }}
      </p>
    </section>
    <section v-if="session.isWarden" class="mt-6 max-w-3xl">
      <h2 class="head mb-2 text-base">{{ t('house.addACalendar') }}</h2>
      <form @submit.prevent="tried ? add() : look()">
        <div class="flex flex-wrap items-end gap-3">
          <label class="flex flex-col gap-1">
            {{ t('house.address') }}
            <input
              v-model.trim="address"
              class="field w-96 max-w-full"
              maxlength="500"
              placeholder="https://calendar.example.org/team.ics"
              required
              @input="forget"
            />
          </label>
          <label class="flex flex-col gap-1">
            {{ t('house.accountIfItNeedsOne') }}
            <input
              v-model.trim="account"
              class="field w-44"
              autocomplete="off"
              maxlength="120"
              @input="forget"
            />
          </label>
          <label class="flex flex-col gap-1">
            {{ t('house.itsPassword') }}
            <input
              v-model="secret"
              class="field w-44"
              type="password"
              autocomplete="off"
              maxlength="400"
              @input="forget"
            />
          </label>
          <button v-if="!tried" class="button" :disabled="busy">
            {{ busy ? t('house.trying') : t('house.tryIt') }}
          </button>
        </div>
        <div v-if="tried" class="mt-4 grid gap-3 border-t border-line pt-3">
          <p v-if="tried.kind === 'icalendar'" role="status">
            {{
              t('house.itAnswersOneCalendarWithEventsX', {
                events: tried.events,
                x: tried.events === 1 ? t('house.event2') : t('house.events'),
              })
            }}
          </p>
          <label v-else class="flex flex-col gap-1">
            {{ t('house.whichOfItsCalendars') }}
            <select
              class="field w-full max-w-sm"
              :value="chosen"
              @change="pick(($event.target as HTMLSelectElement).value)"
            >
              <option v-for="c in tried.calendars" :key="c.address" :value="c.address">
                {{ c.name }}
              </option>
            </select>
          </label>
          <fieldset class="grid gap-1">
            <legend class="mb-1">{{ t('house.whatItIsReadFor') }}</legend>
            <label v-for="p in purposes" :key="p.id" class="flex items-center gap-2">
              <input v-model="form.purpose" type="radio" name="purpose" :value="p.id" />
              {{ p.words }}
            </label>
          </fieldset>
          <CalendarForm v-model="form" is-new />
          <div>
            <button class="button button-main" :disabled="busy">
              {{ busy ? t('house.adding') : t('house.readItFromNowOn') }}
            </button>
          </div>
        </div>
      </form>
    </section>
    <ModalSheet
      :open="setting !== null"
      :title="t('house.changeName', { name: setting?.name })"
      @close="setting = null"
    >
      <form @submit.prevent="saveSettings">
        <CalendarForm v-model="settings" :is-new="false">
          <label class="flex flex-col gap-1">
            {{ t('house.accountIfItNeedsOne') }}
            <input
              v-model.trim="setAccount"
              class="field w-full max-w-sm"
              autocomplete="off"
              maxlength="120"
            />
          </label>
          <label class="flex flex-col gap-1">
            {{ t('house.aNewPasswordLeftEmptyTheOld') }}
            <input
              v-model="setSecret"
              class="field w-full max-w-sm"
              type="password"
              autocomplete="off"
              maxlength="400"
            />
          </label>
        </CalendarForm>
        <ProblemNote class="mt-2" :problem="problem" />
        <OutdatedNote class="mt-1" :problem="problem" @look="openAnew" />
        <button
          class="button button-main mt-4"
          :disabled="setting !== null && underWay.has(setting.id)"
        >
          {{ t('house.keepItSo') }}
        </button>
      </form>
    </ModalSheet>
    <ModalSheet
      :open="removing !== null"
      :title="t('house.readNameNoMore', { name: removing?.name })"
      @close="removing = null"
    >
      <p v-if="removing?.purpose === 'busy'">
        {{ t('house.itsBusyTimesAndItsPasswordAre', { person: removing?.person }) }}
      </p>
      <p v-else>
        {{ t('house.itsPasswordIsForgottenWhatItHas') }}
      </p>
      <ProblemNote class="mt-2" :problem="problem" />
      <div class="mt-4 flex gap-3">
        <button class="button button-main" :disabled="busy" @click="remove">
          {{ t('house.removeIt') }}
        </button>
        <button class="button" @click="removing = null">{{ t('house.keepIt') }}</button>
      </div>
    </ModalSheet>
  </template>
</template>
