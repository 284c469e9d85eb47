<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { ref } from 'vue'
import { useOrganisation } from '@/api/catalogue'
import { api, take } from '@/api/client'
import type { AccountLine, PasswordLink } from '@/api/schema'
import { roleName, useSession } from '@/api/session'
import { useAct } from '@/shell/act'
import { useKeys } from '@/shell/keys'
import DeputiesPart from './DeputiesPart.vue'
import ModalSheet from '@/shell/ModalSheet.vue'
import ProblemNote from '@/shell/ProblemNote.vue'
import StatePanel from '@/shell/StatePanel.vue'
import { fullTime, shortTime } from '@/shell/times'

/** Accounts: invited, changed, let go. */
const session = useSession()
const { organisation, unitName } = useOrganisation()
const { data, error, refetch } = useQuery({
  key: ['accounts'],
  query: () => take(api.GET('/api/accounts')),
})
const { data: setting, refetch: refetchSetting } = useQuery({
  key: ['accounts', 'settings'],
  query: () => take(api.GET('/api/accounts/settings')),
})

type Role = 'warden' | 'unit-warden' | 'auditor' | 'host'
const roles: { id: Role; says: string }[] = [
  { id: 'warden', says: 'may do everything' },
  { id: 'unit-warden', says: 'drafts rules for a unit, audits and mends it, runs its sessions' },
  { id: 'auditor', says: 'reads everything but secrets' },
  { id: 'host', says: 'has their own meetings' },
]
const isOpen = ref(false)
const changing = ref<AccountLine | null>(null)
const email = ref('')
const name = ref('')
const role = ref<Role>('host')
const unit = ref('')
const active = ref(true)
const link = ref<PasswordLink | null>(null)
const linkFor = ref('')
const { busy, problem, attempt } = useAct()
const addressField = ref<HTMLInputElement | null>(null)

function open(account: AccountLine | null) {
  changing.value = account
  email.value = account?.email ?? ''
  name.value = account?.name ?? ''
  role.value = (account?.role as Role) ?? 'host'
  unit.value = account?.unit ?? ''
  active.value = account?.active ?? true
  problem.value = null
  isOpen.value = true
}

async function tried(work: () => Promise<void>) {
  await attempt(async () => {
    await work()
    await refetch()
  })
}

const save = () =>
  tried(async () => {
    const ofUnit = role.value === 'unit-warden' ? unit.value || null : null
    if (changing.value) {
      await take(
        api.PUT('/api/accounts/{email}', {
          params: { path: { email: changing.value.email } },
          body: { role: role.value, unit: ofUnit, active: active.value },
        }),
      )
    } else {
      linkFor.value = email.value
      link.value = await take(
        api.POST('/api/accounts', {
          body: { email: email.value, name: name.value, role: role.value, unit: ofUnit },
        }),
      )
    }
    isOpen.value = false
  })

const path = (of: AccountLine) => ({ params: { path: { email: of.email } } })
const newLink = (of: AccountLine) =>
  tried(async () => {
    linkFor.value = of.email
    link.value = await take(api.POST('/api/accounts/{email}/link', path(of)))
    isOpen.value = false
  })
const dropFactor = (of: AccountLine) =>
  tried(async () => {
    await take(api.DELETE('/api/accounts/{email}/second-factor', path(of)))
    isOpen.value = false
  })
const endSessions = (of: AccountLine) =>
  tried(async () => {
    await take(api.DELETE('/api/accounts/{email}/sessions', path(of)))
    isOpen.value = false
  })
const setFactorFor = (whom: string) =>
  tried(async () => {
    await take(
      api.PUT('/api/accounts/settings', {
        body: { factorFor: whom as 'nobody' | 'wardens' | 'everybody' },
      }),
    )
    await refetchSetting()
  })
const address = (of: PasswordLink) => `${location.origin}/welcome#token=${of.token}`
const copy = (text: string) => navigator.clipboard.writeText(text)
const state = (a: AccountLine) =>
  !a.active
    ? 'let go'
    : a.hasPassword
      ? 'in use'
      : a.signsInElsewhere
        ? 'signs in elsewhere'
        : a.linkUntil
          ? 'invited'
          : 'no password'
useKeys([{ key: 'n', does: 'invite somebody', act: () => session.isWarden && open(null) }])
</script>

<template>
  <StatePanel v-if="error && !data" state="failed" :problem="error" @retry="refetch()" />
  <StatePanel v-else-if="!data" state="loading" />
  <template v-else>
    <div class="mb-3 flex items-center gap-4">
      <button v-if="session.isWarden" class="button button-main" @click="open(null)">
        Invite somebody
      </button>
      <label class="ml-auto flex items-center gap-2">
        Who must have a second factor
        <select
          class="field"
          :disabled="!session.isWarden"
          :value="setting?.factorFor"
          @change="setFactorFor(($event.target as HTMLSelectElement).value)"
        >
          <option value="nobody">nobody</option>
          <option value="wardens">wardens</option>
          <option value="everybody">everybody</option>
        </select>
      </label>
    </div>
    <div v-if="link" role="status" class="mb-3 border border-line bg-sheet px-4 py-3">
      <p>
        Give this link to <strong class="value">{{ linkFor }}</strong> yourself, by a way you trust.
        It sets their password once, until {{ fullTime(link.until) }}, and is not shown again.
      </p>
      <p class="value my-2 break-all">{{ address(link) }}</p>
      <button class="button" @click="copy(address(link))">Copy the link</button>
      <button class="link ml-3" @click="link = null">I have it</button>
    </div>
    <ProblemNote v-if="!isOpen" class="mb-3" :problem="problem" />
    <table class="grid-lines stack w-full">
      <thead>
        <tr>
          <th scope="col">Name</th>
          <th scope="col">Address</th>
          <th scope="col">Role</th>
          <th scope="col">Second factor</th>
          <th scope="col">Last signed in</th>
          <th scope="col">State</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="a in data" :key="a.email" :class="a.active ? '' : 'text-soft'">
          <td>
            <button v-if="session.isWarden" class="link" @click="open(a)">{{ a.name }}</button>
            <template v-else>{{ a.name }}</template>
          </td>
          <td class="value">{{ a.email }}</td>
          <td>
            {{ roleName(a.role)
            }}<span v-if="a.unit" class="text-soft"> of {{ unitName(a.unit) || a.unit }}</span>
          </td>
          <td :class="a.secondFactor ? '' : 'text-soft'">{{ a.secondFactor ? 'on' : 'none' }}</td>
          <td class="value">{{ a.lastSeen ? shortTime(a.lastSeen) : 'never' }}</td>
          <td>{{ state(a) }}</td>
        </tr>
      </tbody>
    </table>
    <DeputiesPart class="mt-8" />
    <ModalSheet
      :open="isOpen"
      :title="changing ? changing.name : 'Invite somebody'"
      :first="addressField"
      @close="isOpen = false"
    >
      <form class="flex flex-col gap-3" @submit.prevent="save">
        <template v-if="!changing">
          <label class="flex flex-col gap-1">
            Address
            <input ref="addressField" v-model="email" class="field" type="email" required />
          </label>
          <label class="flex flex-col gap-1">
            Name <input v-model="name" class="field" required />
          </label>
        </template>
        <fieldset>
          <legend class="mb-1">Role</legend>
          <label v-for="r in roles" :key="r.id" class="flex items-baseline gap-2 py-0.5">
            <input v-model="role" type="radio" name="role" :value="r.id" />
            <span class="w-24">{{ roleName(r.id) }}</span>
            <span class="text-soft">{{ r.says }}</span>
          </label>
        </fieldset>
        <label v-if="role === 'unit-warden'" class="flex flex-col gap-1">
          Unit
          <select v-model="unit" class="field" required>
            <option v-for="u in organisation?.units ?? []" :key="u.id" :value="u.id">
              {{ u.name }}
            </option>
          </select>
        </label>
        <label v-if="changing" class="flex items-center gap-2">
          <input v-model="active" type="checkbox" /> may sign in
        </label>
        <ProblemNote :problem="problem" />
        <div class="flex flex-wrap items-center gap-3">
          <button class="button button-main" :disabled="busy">
            {{ changing ? 'Save' : 'Make the invitation' }}
          </button>
          <template v-if="changing">
            <button type="button" class="link" @click="newLink(changing)">
              A link for a new password
            </button>
            <button type="button" class="link" @click="endSessions(changing)">
              Sign them out everywhere
            </button>
            <button
              v-if="changing.secondFactor"
              type="button"
              class="link"
              @click="dropFactor(changing)"
            >
              Take the second factor away
            </button>
          </template>
        </div>
        <p v-if="changing" class="text-[12.5px] text-soft">
          A changed role signs them out everywhere and ends the access tokens that act as them.
        </p>
      </form>
    </ModalSheet>
  </template>
</template>
