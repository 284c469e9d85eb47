<script setup lang="ts">
import { useQuery, useQueryCache } from '@pinia/colada'
import { useIntervalFn } from '@vueuse/core'
import { computed, ref } from 'vue'
import { api, take } from '@/api/client'
import type { ReadSource, SourceTried } from '@/api/schema'
import { useSession } from '@/api/session'
import { useAct } from '@/shell/act'
import ModalSheet from '@/shell/ModalSheet.vue'
import ProblemNote from '@/shell/ProblemNote.vue'
import StatePanel from '@/shell/StatePanel.vue'
import { fullTime, shortTime } from '@/shell/times'
import { useUnsaved } from '@/shell/unsaved'
import CalendarForm from './CalendarForm.vue'
import { broughtWords, purposes, rhythmWords, sourceWords } from './calendars'

/** Calendars that are read where they are kept: adding them, and how each stands. */
const session = useSession()
const cache = useQueryCache()
const { data, error, refetch } = useQuery({
  key: ['calendars'],
  query: () => take(api.GET('/api/calendars')),
})
useIntervalFn(() => void refetch(), 5000)
const store = (all: ReadSource[]) => cache.setQueryData(['calendars'], all)
const { busy, problem, attempt } = useAct()

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
    const found = await take(
      api.POST('/api/calendars/attempt', {
        body: { address: address.value, account: account.value || null, secret: secret.value },
      }),
    )
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
const put = (s: ReadSource, other: object) =>
  attempt(async () => {
    store(
      await take(
        api.PUT('/api/calendars/{id}', {
          params: { path: { id: s.id } },
          body: {
            name: s.name,
            account: s.account,
            secret: null,
            person: s.person,
            zone: s.zone,
            minutes: s.minutes,
            paused: s.state === 'paused',
            ...other,
          },
        }),
      ),
    )
    setting.value = null
  })
const keep = () => {
  const { name, person, zone, minutes } = settings.value
  return (
    setting.value &&
    put(setting.value, {
      name,
      person,
      zone,
      minutes,
      account: setAccount.value || null,
      secret: setSecret.value || null,
    })
  )
}
const of = (s: ReadSource) => ({ params: { path: { id: s.id } } })
const readNow = (s: ReadSource) =>
  attempt(() => take(api.POST('/api/calendars/{id}/reading', of(s)))).then(() => refetch())
const agree = (s: ReadSource) =>
  attempt(() => take(api.POST('/api/calendars/{id}/gone', of(s)))).then(() => refetch())
const removing = ref<ReadSource | null>(null)
const remove = () =>
  attempt(async () => {
    if (!removing.value) return
    store(await take(api.DELETE('/api/calendars/{id}', of(removing.value))))
    removing.value = null
  })
const opened = ref<number | null>(null)
const remarks = computed(() => data.value?.find((s) => s.id === opened.value))
</script>

<template>
  <StatePanel v-if="error && !data" state="failed" :problem="error" @retry="refetch()" />
  <StatePanel v-else-if="!data" state="loading" />
  <template v-else>
    <h1 class="head">Calendars that are read</h1>
    <p class="mt-1 mb-3 max-w-3xl">
      Meetings that are kept in a calendar come into the register by themselves, and go when they go
      there. Nothing is written to a calendar.
    </p>
    <p v-if="!data.length" class="max-w-3xl text-soft">
      No calendar is read yet. Add the address of one: of a file such as team.ics, or of a CalDAV
      server.
    </p>
    <table v-else class="grid-lines stack w-full">
      <thead>
        <tr>
          <th scope="col">Calendar</th>
          <th scope="col">How it stands</th>
          <th scope="col">What it brings</th>
          <th scope="col">Read</th>
          <th scope="col"><span class="sr-only">Acts</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="s in data" :key="s.id">
          <td class="max-w-xs">
            <strong>{{ s.name }}</strong>
            <span class="block truncate text-[12.5px] text-soft" :title="s.address">{{
              s.address
            }}</span>
          </td>
          <td class="max-w-xs">
            <span :class="sourceWords(s).wrong ? 'text-rust' : ''">{{ sourceWords(s).text }}</span>
            <span v-if="s.readAt" class="block text-[12.5px] text-soft" :title="fullTime(s.readAt)">
              last read {{ shortTime(s.readAt) }}
            </span>
            <button
              v-if="s.state === 'asks' && session.isWarden"
              class="button mt-1"
              :disabled="busy"
              @click="agree(s)"
            >
              Cancel these {{ s.gone }} here too
            </button>
          </td>
          <td>
            {{ broughtWords(s) }}
            <span v-if="s.purpose === 'busy'" class="block text-[12.5px] text-soft">
              of {{ s.person }}
            </span>
            <button
              v-if="s.refused"
              class="link block"
              :aria-expanded="opened === s.id"
              @click="opened = opened === s.id ? null : s.id"
            >
              {{ s.refused }} left out
            </button>
          </td>
          <td>{{ rhythmWords(s.minutes) }}</td>
          <td class="text-right whitespace-nowrap">
            <template v-if="session.isWarden">
              <button v-if="s.state !== 'paused'" class="link" :disabled="busy" @click="readNow(s)">
                Read now
              </button>
              <button
                class="link ml-3"
                :disabled="busy"
                @click="put(s, { paused: s.state !== 'paused' })"
              >
                {{ s.state === 'paused' ? 'Go on' : 'Pause' }}
              </button>
              <button class="link ml-3" @click="openSettings(s)">Change…</button>
              <button class="link ml-3" @click="removing = s">Remove…</button>
            </template>
          </td>
        </tr>
      </tbody>
    </table>
    <ProblemNote v-if="!setting && !removing" class="mt-3" :problem="problem" />
    <section v-if="remarks" class="mt-4 max-w-4xl">
      <h2 class="head mb-2 text-base">What of {{ remarks.name }} is no meeting</h2>
      <table class="grid-lines stack w-full">
        <thead>
          <tr>
            <th scope="col">Event</th>
            <th scope="col">Why</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(r, i) in remarks.remarks" :key="i">
            <td dir="auto">{{ r.title || 'without a title' }}</td>
            <td>{{ r.why }}</td>
          </tr>
        </tbody>
      </table>
      <p v-if="remarks.refused > remarks.remarks.length" class="mt-1 text-soft">
        and {{ remarks.refused - remarks.remarks.length }} more
      </p>
    </section>
    <section v-if="session.isWarden" class="mt-6 max-w-3xl">
      <h2 class="head mb-2 text-base">Add a calendar</h2>
      <form @submit.prevent="tried ? add() : look()">
        <div class="flex flex-wrap items-end gap-3">
          <label class="flex flex-col gap-1">
            Address
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
            Account, if it needs one
            <input
              v-model.trim="account"
              class="field w-44"
              autocomplete="off"
              maxlength="120"
              @input="forget"
            />
          </label>
          <label class="flex flex-col gap-1">
            Its password
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
            {{ busy ? 'Trying…' : 'Try it' }}
          </button>
        </div>
        <div v-if="tried" class="mt-4 grid gap-3 border-t border-line pt-3">
          <p v-if="tried.kind === 'icalendar'" role="status">
            It answers: one calendar, with {{ tried.events }}
            {{ tried.events === 1 ? 'event' : 'events' }}.
          </p>
          <label v-else class="flex flex-col gap-1">
            Which of its calendars
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
            <legend class="mb-1">What it is read for</legend>
            <label v-for="p in purposes" :key="p.id" class="flex items-center gap-2">
              <input v-model="form.purpose" type="radio" name="purpose" :value="p.id" />
              {{ p.words }}
            </label>
          </fieldset>
          <CalendarForm v-model="form" is-new />
          <div>
            <button class="button button-main" :disabled="busy">
              {{ busy ? 'Adding…' : 'Read it from now on' }}
            </button>
          </div>
        </div>
      </form>
    </section>
    <ModalSheet :open="setting !== null" :title="`Change ${setting?.name}`" @close="setting = null">
      <form @submit.prevent="keep">
        <CalendarForm v-model="settings" :is-new="false">
          <label class="flex flex-col gap-1">
            Account, if it needs one
            <input
              v-model.trim="setAccount"
              class="field w-full max-w-sm"
              autocomplete="off"
              maxlength="120"
            />
          </label>
          <label class="flex flex-col gap-1">
            A new password; left empty, the old one stays
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
        <button class="button button-main mt-4" :disabled="busy">Keep it so</button>
      </form>
    </ModalSheet>
    <ModalSheet
      :open="removing !== null"
      :title="`Read ${removing?.name} no more?`"
      @close="removing = null"
    >
      <p v-if="removing?.purpose === 'busy'">
        Its busy times and its password are forgotten. {{ removing?.person }} looks free at these
        times then.
      </p>
      <p v-else>
        Its password is forgotten. What it has brought stays in the register and is changed here
        alone from then on.
      </p>
      <ProblemNote class="mt-2" :problem="problem" />
      <div class="mt-4 flex gap-3">
        <button class="button button-main" :disabled="busy" @click="remove">Remove it</button>
        <button class="button" @click="removing = null">Keep it</button>
      </div>
    </ModalSheet>
  </template>
</template>
