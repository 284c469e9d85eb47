<script setup lang="ts">
import { t } from '@/wording'
import { useQuery } from '@pinia/colada'
import { computed, ref } from 'vue'
import { useOrganisation } from '@/api/catalogue'
import { api, take } from '@/api/client'
import type { AccountLine, PasswordLink } from '@/api/schema'
import { roleName, useSession } from '@/api/session'
import { useAct, useSetting } from '@/shell/act'
import { useAddress } from '@/shell/address'
import { counted } from '@/shell/counted'
import CopyButton from '@/shell/CopyButton.vue'
import FilterBar from '@/shell/FilterBar.vue'
import FilterChoice from '@/shell/FilterChoice.vue'
import ListFoot from '@/shell/ListFoot.vue'
import type { RowAct } from '@/shell/rowActs'
import RowMenu from '@/shell/RowMenu.vue'
import { holds, useRows } from '@/shell/rows'
import DeputiesPart from './DeputiesPart.vue'
import ModalSheet from '@/shell/ModalSheet.vue'
import OutdatedNote from '@/shell/OutdatedNote.vue'
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
  { id: 'warden', says: t('house.mayDoEverything') },
  { id: 'unit-warden', says: t('house.draftsRulesForAUnitAuditsAnd') },
  { id: 'auditor', says: t('house.readsEverythingButSecrets') },
  { id: 'host', says: t('house.hasTheirOwnMeetings') },
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
          body: {
            role: role.value,
            unit: ofUnit,
            active: active.value,
            // a role of somebody who was let go meanwhile would let them in again
            seen: {
              role: changing.value.role as Role,
              unit: changing.value.unit,
              active: changing.value.active,
            },
          },
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
async function openAnew() {
  const email = changing.value?.email
  await refetch()
  const now = data.value?.find((a) => a.email === email)
  if (now) open(now)
}
const factorFor = useSetting(
  () => setting.value?.factorFor,
  async (whom = 'nobody') => {
    await take(api.PUT('/api/accounts/settings', { body: { factorFor: whom } }))
    await refetchSetting()
  },
  problem,
)
const address = (of: PasswordLink) => `${location.origin}/welcome#token=${of.token}`
const state = (a: AccountLine) =>
  !a.active
    ? t('house.letGo')
    : a.hasPassword
      ? t('house.inUse')
      : a.signsInElsewhere
        ? t('house.signsInElsewhere')
        : a.linkUntil
          ? t('house.invited')
          : t('house.noPassword')
const { query, set, clear, isNarrowedBy } = useAddress()
const isNarrowed = computed(() => isNarrowedBy('role', 'gone'))
const rows = computed(() =>
  (data.value ?? []).filter(
    (a) =>
      (!query('role') || a.role === query('role')) &&
      (!query('gone') || !a.active) &&
      holds(query('text'), a.name, a.email, unitName(a.unit)),
  ),
)
const { look } = useRows({
  name: 'account',
  rows: () => rows.value,
  open: (a) => session.isWarden && open(a),
  keys: session.isWarden
    ? [{ key: 'n', does: t('house.inviteSomebody2'), act: () => open(null) }]
    : [],
})
function acts(a: AccountLine): RowAct[] {
  const all: RowAct[] = [
    { name: t('house.whatTheyDid'), to: { path: '/ledger', query: { who: a.email } } },
    {
      name: t('house.whatWasDoneWithTheAccount'),
      to: { path: '/ledger', query: { object: 'account', objectId: a.email } },
    },
  ]
  if (session.isWarden) {
    all.unshift(
      { name: t('house.changeIt'), act: () => open(a) },
      { name: t('house.aLinkForANewPassword'), act: () => void newLink(a) },
    )
  }
  return all
}
</script>

<template>
  <StatePanel v-if="error && !data" state="failed" :problem="error" @retry="refetch()" />
  <StatePanel v-else-if="!data" state="loading" />
  <template v-else>
    <div class="mb-1 flex items-center gap-4">
      <button v-if="session.isWarden" class="button button-main" @click="open(null)">
        {{ t('house.inviteSomebody') }}
      </button>
      <label class="ml-auto flex items-center gap-2">
        {{ t('house.whoMustHaveASecondFactor') }}
        <select
          class="field"
          :disabled="!session.isWarden"
          :value="factorFor.shown.value"
          @change="factorFor.set(($event.target as HTMLSelectElement).value as 'nobody')"
        >
          <option value="nobody">{{ t('house.nobody') }}</option>
          <option value="wardens">{{ t('house.wardens') }}</option>
          <option value="everybody">{{ t('house.everybody') }}</option>
        </select>
      </label>
    </div>
    <div v-if="link" role="status" class="mb-3 border border-line bg-sheet px-4 py-3">
      <p>
        {{ t('house.giveThisLinkTo') }} <strong class="value">{{ linkFor }}</strong>
        {{ t('house.yourselfByAWayYouTrustIt', { until: fullTime(link.until) }) }}
      </p>
      <p class="value my-2 break-all">{{ address(link) }}</p>
      <CopyButton class="button" :text="address(link)">{{ t('house.copyTheLink') }}</CopyButton>
      <button class="link ml-3" @click="link = null">{{ t('house.iHaveIt') }}</button>
    </div>
    <ProblemNote v-if="!isOpen" class="mb-3" :problem="problem" />
    <FilterBar class="!px-0" :words="t('house.nameAddressOrUnit')">
      <FilterChoice
        name="role"
        :label="t('house.role')"
        :all="t('house.everyRole')"
        :choices="roles.map((r) => ({ id: r.id, name: roleName(r.id) }))"
      />
      <label class="flex items-center gap-1.5">
        <input
          type="checkbox"
          :checked="query('gone') === '1'"
          @change="set({ gone: query('gone') ? undefined : '1' })"
        />
        {{ t('house.letGo') }}
      </label>
    </FilterBar>
    <StatePanel
      v-if="!rows.length && isNarrowed"
      state="empty"
      :title="t('house.noAccountIsLikeThat')"
    >
      <button class="link" @click="clear()">{{ t('shell.showAllAgain') }}</button>
    </StatePanel>
    <table v-else class="grid-lines stack w-full">
      <thead>
        <tr>
          <th scope="col">{{ t('house.name') }}</th>
          <th scope="col">{{ t('house.address') }}</th>
          <th scope="col">{{ t('house.role') }}</th>
          <th scope="col">{{ t('house.secondFactor') }}</th>
          <th scope="col">{{ t('house.lastSignedIn') }}</th>
          <th scope="col">{{ t('house.state') }}</th>
          <th scope="col">
            <span class="hidden-label">{{ t('shell.acts') }}</span>
          </th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="(a, i) in rows"
          :id="`account-${i}`"
          :key="a.email"
          :class="[a.active ? '' : 'text-soft', look(i)]"
        >
          <td>
            <button v-if="session.isWarden" class="link" @click="open(a)">{{ a.name }}</button>
            <template v-else>{{ a.name }}</template>
          </td>
          <td class="value">{{ a.email }}</td>
          <td>
            {{ roleName(a.role)
            }}<span v-if="a.unit" class="text-soft">
              {{ t('house.ofUnit', { unit: unitName(a.unit) || a.unit }) }}</span
            >
          </td>
          <td :class="a.secondFactor ? '' : 'text-soft'">
            {{ a.secondFactor ? t('house.on') : t('house.none') }}
          </td>
          <td class="value">{{ a.lastSeen ? shortTime(a.lastSeen) : t('house.never') }}</td>
          <td>{{ state(a) }}</td>
          <td class="text-right"><RowMenu :of="a.name" :acts="acts(a)" /></td>
        </tr>
      </tbody>
    </table>
    <ListFoot
      class="!border-t-0 !px-0"
      :count="counted(rows.length, 'account')"
      :opens="session.isWarden"
    />
    <DeputiesPart class="mt-8" />
    <ModalSheet
      :open="isOpen"
      :title="changing ? changing.name : t('house.inviteSomebody')"
      :first="addressField"
      @close="isOpen = false"
    >
      <form class="flex flex-col gap-3" @submit.prevent="save">
        <template v-if="!changing">
          <label class="flex flex-col gap-1">
            {{ t('house.address') }}
            <input ref="addressField" v-model="email" class="field" type="email" required />
          </label>
          <label class="flex flex-col gap-1">
            {{ t('house.name') }} <input v-model="name" class="field" maxlength="200" required />
          </label>
        </template>
        <fieldset>
          <legend class="mb-1">{{ t('house.role') }}</legend>
          <label v-for="r in roles" :key="r.id" class="flex items-baseline gap-2 py-0.5">
            <input v-model="role" type="radio" name="role" :value="r.id" />
            <span class="w-24">{{ roleName(r.id) }}</span>
            <span class="text-soft">{{ r.says }}</span>
          </label>
        </fieldset>
        <label v-if="role === 'unit-warden'" class="flex flex-col gap-1">
          {{ t('house.unit') }}
          <select v-model="unit" class="field" required>
            <option v-for="u in organisation?.units ?? []" :key="u.id" :value="u.id">
              {{ u.name }}
            </option>
          </select>
        </label>
        <label v-if="changing" class="flex items-center gap-2">
          <input v-model="active" type="checkbox" /> {{ t('house.maySignIn') }}
        </label>
        <ProblemNote :problem="problem" />
        <OutdatedNote :problem="problem" @look="openAnew" />
        <div class="flex flex-wrap items-center gap-3">
          <button class="button button-main" :disabled="busy">
            {{ changing ? t('house.save') : t('house.makeTheInvitation') }}
          </button>
          <template v-if="changing">
            <button type="button" class="link" @click="newLink(changing)">
              {{ t('house.aLinkForANewPassword') }}
            </button>
            <button type="button" class="link" @click="endSessions(changing)">
              {{ t('house.signThemOutEverywhere') }}
            </button>
            <button
              v-if="changing.secondFactor"
              type="button"
              class="link"
              @click="dropFactor(changing)"
            >
              {{ t('house.takeTheSecondFactorAway') }}
            </button>
          </template>
        </div>
        <p v-if="changing" class="text-[12.5px] text-soft">
          {{ t('house.aChangedRoleSignsThemOutEverywhere') }}
        </p>
      </form>
    </ModalSheet>
  </template>
</template>
