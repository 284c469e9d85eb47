<script setup lang="ts">
import { t } from '@/wording'
import { useQuery } from '@pinia/colada'
import { computed, ref } from 'vue'
import { api, take } from '@/api/client'
import type { TokenLine, Issued } from '@/api/schema'
import { roleName, useSession } from '@/api/session'
import { useAddress } from '@/shell/address'
import { counted } from '@/shell/counted'
import CopyButton from '@/shell/CopyButton.vue'
import FilterBar from '@/shell/FilterBar.vue'
import ListFoot from '@/shell/ListFoot.vue'
import type { RowAct } from '@/shell/rowActs'
import RowMenu from '@/shell/RowMenu.vue'
import { holds, isWithin, useRows } from '@/shell/rows'
import { useAct, useRowAct } from '@/shell/act'
import ProblemNote from '@/shell/ProblemNote.vue'
import StatePanel from '@/shell/StatePanel.vue'
import { fullTime, shortTime } from '@/shell/times'

/** Access tokens: for programs that work here, with a purpose, a role and an end. */
const session = useSession()
const { data, error, refetch } = useQuery({
  key: ['tokens'],
  query: () => take(api.GET('/api/tokens')),
})
const purpose = ref('')
const roles = ['auditor', 'warden', 'host', 'directory'] as const
const role = ref<(typeof roles)[number]>('auditor')
const actsAs = ref('')
const days = ref(30)
const issued = ref<Issued | null>(null)
const { busy, problem, attempt } = useAct()
const { attempt: toRow } = useRowAct(problem)
const now = Date.now()

const issue = () =>
  attempt(async () => {
    issued.value = await take(
      api.POST('/api/tokens', {
        body: {
          purpose: purpose.value,
          role: role.value,
          actsAs: role.value === 'host' ? actsAs.value : null,
          minutes: Math.round(days.value * 24 * 60),
        },
      }),
    )
    purpose.value = ''
    await refetch()
  })
async function end(token: TokenLine) {
  await toRow(token.id, () =>
    take(api.DELETE('/api/tokens/{id}', { params: { path: { id: token.id } } })),
  )
  await refetch()
}
const isOver = (token: TokenLine) =>
  Boolean(token.endedAt) || new Date(token.expiresAt).getTime() < now
const { query, set, clear, days: endsIn, isNarrowedBy } = useAddress()
const isNarrowed = computed(() => isNarrowedBy())
const rows = computed(() =>
  (data.value ?? []).filter(
    (token) =>
      (!query('over') || isOver(token)) &&
      holds(query('text'), token.purpose, token.actsAs, token.issuedBy) &&
      isWithin(token.expiresAt, endsIn.value),
  ),
)
const { look } = useRows({ name: 'token', rows: () => rows.value })
function acts(token: TokenLine): RowAct[] {
  const all: RowAct[] = [
    {
      name: t('house.whatWasDoneWithIt'),
      to: { path: '/ledger', query: { object: 'token', objectId: String(token.id) } },
    },
  ]
  if (session.isWarden && !isOver(token))
    all.push({ name: t('house.endIt'), act: () => void end(token) })
  return all
}
</script>

<template>
  <form v-if="session.isWarden" class="mb-4 flex flex-wrap items-end gap-3" @submit.prevent="issue">
    <label class="flex flex-col gap-1">
      {{ t('house.forWhat') }}
      <input v-model="purpose" class="field w-64" maxlength="200" required />
    </label>
    <label class="flex flex-col gap-1">
      {{ t('house.role') }}
      <select v-model="role" class="field">
        <option v-for="r in roles" :key="r" :value="r">{{ roleName(r) }}</option>
      </select>
    </label>
    <label v-if="role === 'host'" class="flex flex-col gap-1">
      {{ t('house.actsAs') }} <input v-model="actsAs" class="field w-64" type="email" required />
    </label>
    <label class="flex flex-col gap-1">
      {{ t('house.days') }}
      <input v-model.number="days" class="field w-20" type="number" min="1" max="366" required />
    </label>
    <button class="button button-main" :disabled="busy">{{ t('house.issueAToken') }}</button>
  </form>
  <div v-if="issued" role="status" class="mb-4 border border-line bg-sheet px-4 py-3">
    <p>
      {{ t('house.theTokenGoodUntilExpiresAtItIs', { expiresAt: fullTime(issued.expiresAt) }) }}
    </p>
    <p class="value my-2 break-all">{{ issued.token }}</p>
    <CopyButton class="button" :text="issued.token">{{ t('house.copyIt') }}</CopyButton>
    <button class="link ml-3" @click="issued = null">{{ t('house.iHaveIt') }}</button>
  </div>
  <ProblemNote class="mb-3" :problem="problem" />
  <StatePanel v-if="error && !data" state="failed" :problem="error" @retry="refetch()" />
  <StatePanel v-else-if="!data" state="loading" />
  <StatePanel v-else-if="!data.length" state="empty" :title="t('house.noTokenWasIssuedYet')" />
  <template v-else>
    <FilterBar class="!px-0" :words="t('house.forWhatOrByWhom')" :days="t('house.until')">
      <label class="flex items-center gap-1.5">
        <input
          type="checkbox"
          :checked="query('over') === '1'"
          @change="set({ over: query('over') ? undefined : '1' })"
        />
        {{ t('house.over') }}
      </label>
    </FilterBar>
    <StatePanel
      v-if="!rows.length && (isNarrowed || query('over'))"
      state="empty"
      :title="t('house.noTokenIsLikeThat')"
    >
      <button class="link" @click="clear()">{{ t('shell.showAllAgain') }}</button>
    </StatePanel>
    <table v-else class="grid-lines stack w-full">
      <thead>
        <tr>
          <th scope="col">{{ t('house.forWhat') }}</th>
          <th scope="col">{{ t('house.role') }}</th>
          <th scope="col">{{ t('house.actsAs') }}</th>
          <th scope="col">{{ t('house.issued') }}</th>
          <th scope="col">{{ t('house.lastUsed') }}</th>
          <th scope="col">{{ t('house.until') }}</th>
          <th scope="col">
            <span class="sr-only">{{ t('house.acts') }}</span>
          </th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="(token, i) in rows"
          :id="`token-${i}`"
          :key="token.id"
          :class="[isOver(token) ? 'text-soft' : '', look(i)]"
        >
          <td>{{ token.purpose }}</td>
          <td>{{ roleName(token.role) }}</td>
          <td class="value">{{ token.actsAs }}</td>
          <td class="value" :title="t('house.byIssuedBy', { issuedBy: token.issuedBy })">
            {{ shortTime(token.issuedAt) }}
          </td>
          <td class="value">{{ token.lastUsed ? shortTime(token.lastUsed) : t('house.never') }}</td>
          <td class="value">{{ shortTime(token.expiresAt) }}</td>
          <td class="text-right">
            <span v-if="token.endedAt" :title="t('house.byEndedBy', { endedBy: token.endedBy })">{{
              t('house.ended')
            }}</span>
            <span v-else-if="isOver(token)">{{ t('house.over') }}</span>
            <button v-else-if="session.isWarden" class="link" @click="end(token)">
              {{ t('house.endIt') }}
            </button>
            <RowMenu class="ml-2" :of="token.purpose" :acts="acts(token)" />
          </td>
        </tr>
      </tbody>
    </table>
    <ListFoot class="!border-t-0 !px-0" :count="counted(rows.length, 'token')" />
  </template>
</template>
