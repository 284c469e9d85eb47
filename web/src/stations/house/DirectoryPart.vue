<script setup lang="ts">
import { counted } from '@/shell/counted'
import { useQuery } from '@pinia/colada'
import { computed, ref } from 'vue'
import { api, take } from '@/api/client'
import type { Issued } from '@/api/schema'
import { useSession } from '@/api/session'
import { useAct } from '@/shell/act'
import ProblemNote from '@/shell/ProblemNote.vue'
import StatePanel from '@/shell/StatePanel.vue'
import { fullTime } from '@/shell/times'

/** The directory elsewhere that keeps people and lists up to date here: how to link it, how it is. */
const session = useSession()
const { data, error, refetch } = useQuery({
  key: ['directory-link'],
  query: () => take(api.GET('/api/directory-link')),
})
const { data: tokens, refetch: lookAgain } = useQuery({
  key: ['tokens'],
  query: () => take(api.GET('/api/tokens')),
})
const now = Date.now()
const good = computed(() =>
  (tokens.value ?? []).filter(
    (t) => t.role === 'directory' && !t.endedAt && new Date(t.expiresAt).getTime() > now,
  ),
)
const issued = ref<Issued | null>(null)
const address = computed(() => window.location.origin + (data.value?.path ?? ''))
const { busy, problem, attempt } = useAct()
async function issue() {
  if (busy.value) return
  await attempt(async () => {
    issued.value = await take(
      api.POST('/api/tokens', {
        body: { purpose: 'The directory', role: 'directory', minutes: 365 * 24 * 60 },
      }),
    )
    await lookAgain()
  })
}
const copy = (text: string) => navigator.clipboard.writeText(text)
</script>

<template>
  <StatePanel v-if="error && !data" state="failed" :problem="error" @retry="refetch()" />
  <StatePanel v-else-if="!data" state="loading" />
  <div v-else class="max-w-3xl">
    <h1 class="head">The directory of the organisation</h1>
    <p class="mt-1">
      A directory that speaks SCIM 2.0 keeps people and lists up to date here by itself. Who leaves
      there has left here, and the meetings they host are found within seconds.
    </p>
    <dl class="mt-4 grid grid-cols-[9rem_minmax(0,1fr)] gap-y-2 phone:grid-cols-1">
      <dt class="text-soft">State</dt>
      <dd>
        <template v-if="data.lastChange">
          Last changed something {{ fullTime(data.lastChange) }};
          {{ counted(data.users, 'person', 'people') }} and
          {{ counted(data.groups, 'list', 'lists') }} are kept by it.
        </template>
        <template v-else>No directory has changed anything yet.</template>
      </dd>
      <dt class="text-soft">Address</dt>
      <dd>
        <span class="value break-all">{{ address }}</span>
        <button class="link ml-3" @click="copy(address)">Copy it</button>
      </dd>
      <dt class="text-soft">Token</dt>
      <dd>
        <template v-if="good.length">
          <span v-for="t in good" :key="t.id" class="block">
            {{ t.purpose }}, until {{ fullTime(t.expiresAt) }}
            <span class="text-soft">
              {{ t.lastUsed ? `used last ${fullTime(t.lastUsed)}` : 'never used' }}
            </span>
          </span>
          <RouterLink class="link" to="/house/tokens">All tokens</RouterLink>
        </template>
        <span v-else class="text-soft">There is none yet.</span>
        <button
          v-if="session.isWarden"
          class="button mt-1 block"
          :class="good.length ? '' : 'button-main'"
          :disabled="busy"
          @click="issue"
        >
          Issue a token for a year
        </button>
      </dd>
    </dl>
    <div v-if="issued" role="status" class="mt-4 border border-line bg-sheet px-4 py-3">
      <p>
        Give this to the directory, with the address above. It is not shown again, and does nothing
        but keep people and lists.
      </p>
      <p class="value my-2 break-all">{{ issued.token }}</p>
      <button class="button" @click="copy(issued.token)">Copy it</button>
      <button class="link ml-3" @click="issued = null">I have it</button>
    </div>
    <ProblemNote class="mt-3" :problem="problem" />
    <template v-if="data.circles.length">
      <h2 class="head mt-5 text-rust">Groups that hold each other</h2>
      <p>Each reaches everybody in the circle. That is hardly meant; the directory can mend it.</p>
      <ul>
        <li v-for="c in data.circles" :key="c.join()" class="py-0.5">{{ c.join(' → ') }}</li>
      </ul>
    </template>
  </div>
</template>
