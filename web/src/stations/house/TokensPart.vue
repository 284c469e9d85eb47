<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { ref } from 'vue'
import { api, take } from '@/api/client'
import type { TokenLine, Issued } from '@/api/schema'
import { useSession } from '@/api/session'
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
const role = ref<'warden' | 'auditor' | 'host' | 'directory'>('auditor')
const actsAs = ref('')
const days = ref(30)
const issued = ref<Issued | null>(null)
const problem = ref<Error | null>(null)
const now = Date.now()

async function issue() {
  problem.value = null
  try {
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
  } catch (e) {
    problem.value = e as Error
  }
}
async function end(token: TokenLine) {
  problem.value = null
  try {
    await take(api.DELETE('/api/tokens/{id}', { params: { path: { id: token.id } } }))
  } catch (e) {
    problem.value = e as Error
  }
  await refetch()
}
const copy = (text: string) => navigator.clipboard.writeText(text)
const isOver = (t: TokenLine) => Boolean(t.endedAt) || new Date(t.expiresAt).getTime() < now
</script>

<template>
  <form v-if="session.isWarden" class="mb-4 flex flex-wrap items-end gap-3" @submit.prevent="issue">
    <label class="flex flex-col gap-1">
      For what <input v-model="purpose" class="field w-64" maxlength="200" required />
    </label>
    <label class="flex flex-col gap-1">
      Role
      <select v-model="role" class="field">
        <option>auditor</option>
        <option>warden</option>
        <option>host</option>
        <option>directory</option>
      </select>
    </label>
    <label v-if="role === 'host'" class="flex flex-col gap-1">
      Acts as <input v-model="actsAs" class="field w-64" type="email" required />
    </label>
    <label class="flex flex-col gap-1">
      Days
      <input v-model.number="days" class="field w-20" type="number" min="1" max="366" required />
    </label>
    <button class="button button-main">Issue a token</button>
  </form>
  <div v-if="issued" role="status" class="mb-4 border border-line bg-sheet px-4 py-3">
    <p>The token, good until {{ fullTime(issued.expiresAt) }}. It is not shown again.</p>
    <p class="value my-2 break-all">{{ issued.token }}</p>
    <button class="button" @click="copy(issued.token)">Copy it</button>
    <button class="link ml-3" @click="issued = null">I have it</button>
  </div>
  <ProblemNote class="mb-3" :problem="problem" />
  <StatePanel v-if="error && !data" state="failed" :problem="error" @retry="refetch()" />
  <StatePanel v-else-if="!data" state="loading" />
  <StatePanel v-else-if="!data.length" state="empty" title="No token was issued yet" />
  <table v-else class="grid-lines stack w-full">
    <thead>
      <tr>
        <th scope="col">For what</th>
        <th scope="col">Role</th>
        <th scope="col">Acts as</th>
        <th scope="col">Issued</th>
        <th scope="col">Last used</th>
        <th scope="col">Until</th>
        <th scope="col"><span class="sr-only">Acts</span></th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="t in data" :key="t.id" :class="isOver(t) ? 'text-soft' : ''">
        <td>{{ t.purpose }}</td>
        <td>{{ t.role }}</td>
        <td class="value">{{ t.actsAs }}</td>
        <td class="value" :title="`by ${t.issuedBy}`">{{ shortTime(t.issuedAt) }}</td>
        <td class="value">{{ t.lastUsed ? shortTime(t.lastUsed) : 'never' }}</td>
        <td class="value">{{ shortTime(t.expiresAt) }}</td>
        <td class="text-right">
          <span v-if="t.endedAt" :title="`by ${t.endedBy}`">ended</span>
          <span v-else-if="isOver(t)">over</span>
          <button v-else-if="session.isWarden" class="link" @click="end(t)">End it</button>
        </td>
      </tr>
    </tbody>
  </table>
</template>
