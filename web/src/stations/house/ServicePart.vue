<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { useIntervalFn } from '@vueuse/core'
import { computed, ref } from 'vue'
import { api, take } from '@/api/client'
import type { JobInTrouble, Standing } from '@/api/schema'
import { useSession } from '@/api/session'
import ProblemNote from '@/shell/ProblemNote.vue'
import StatePanel from '@/shell/StatePanel.vue'
import { fullTime, shortTime } from '@/shell/times'

/** How the service is: servers, what waits, what ran last, sizes, keys. */
const session = useSession()
const { data, error, refetch } = useQuery({
  key: ['service'],
  query: () => take(api.GET('/api/service')),
})
const { data: keys, refetch: refetchKeys } = useQuery({
  key: ['service', 'keys'],
  query: () => take(api.GET('/api/service/keys')),
})
const behind = computed(() => Object.values(keys.value?.behind ?? {}).reduce((a, b) => a + b, 0))
useIntervalFn(() => {
  void refetch()
  void refetchKeys()
  void refetchWork()
}, 5000)
const problem = ref<Error | null>(null)
async function tried(work: () => Promise<Standing>) {
  problem.value = null
  try {
    await work()
  } catch (e) {
    problem.value = e as Error
  }
  await refetchKeys()
}
const { data: work, refetch: refetchWork } = useQuery({
  key: ['service', 'work'],
  query: () => take(api.GET('/api/service/work')),
})
const underWay = ref('')
async function act(job: JobInTrouble, call: () => Promise<unknown>) {
  problem.value = null
  underWay.value = `${job.kind} ${job.item}`
  try {
    await call()
  } catch (e) {
    problem.value = e as Error
  }
  await refetchWork()
  underWay.value = ''
}
const of = (job: JobInTrouble) => ({ params: { path: { kind: job.kind, item: job.item } } })
const tryAgain = (job: JobInTrouble) =>
  act(job, () => take(api.POST('/api/service/work/{kind}/{item}/again', of(job))))
const giveUp = (job: JobInTrouble) =>
  act(job, () => take(api.DELETE('/api/service/work/{kind}/{item}', of(job))))
const rotate = () => tried(() => take(api.POST('/api/service/keys')))
const forget = () => tried(() => take(api.DELETE('/api/service/keys/old')))
const facts = computed(() => {
  const s = data.value
  return s
    ? [
        ['Version', s.version],
        ['Database', `${s.database}, schema ${s.schema}`],
        ['Java', s.java],
        ['Memory', `${s.heapMegabytes} of ${s.heapMost} MB`],
        ['Free disk', `${Math.round(s.diskFreeMegabytes / 1024)} GB`],
        ['Sign-in elsewhere', s.provider || 'not configured'],
      ]
    : []
})
</script>

<template>
  <StatePanel v-if="error && !data" state="failed" :problem="error" @retry="refetch()" />
  <StatePanel v-else-if="!data" state="loading" />
  <div v-else class="grid max-w-6xl grid-cols-2 gap-x-10 gap-y-6">
    <section v-if="work?.total" class="col-span-2" aria-labelledby="in-trouble">
      <h2 id="in-trouble" class="head mb-2 text-base">Work in trouble</h2>
      <table class="grid-lines stack w-full">
        <thead>
          <tr>
            <th scope="col">What</th>
            <th scope="col">Why</th>
            <th scope="col" class="text-right">Tries</th>
            <th scope="col">Next try</th>
            <th v-if="session.isWarden" scope="col"><span class="sr-only">What to do</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="j in work.items" :key="`${j.kind} ${j.item}`">
            <td>{{ j.title }}</td>
            <td class="max-w-md break-words">{{ j.reason }}</td>
            <td class="value text-right">{{ j.tries }}</td>
            <td class="value whitespace-nowrap">
              <span v-if="j.failed" class="text-rust">failed</span>
              <template v-else-if="j.next">{{ shortTime(j.next) }}</template>
            </td>
            <td v-if="session.isWarden" class="text-right whitespace-nowrap">
              <button
                class="button"
                :disabled="underWay === `${j.kind} ${j.item}`"
                @click="tryAgain(j)"
              >
                Try again
              </button>
              <button
                v-if="j.failed"
                class="button ml-2"
                :disabled="underWay === `${j.kind} ${j.item}`"
                @click="giveUp(j)"
              >
                Give up
              </button>
            </td>
          </tr>
        </tbody>
      </table>
      <p v-if="work.total > work.items.length" class="mt-1 text-soft">
        and {{ work.total - work.items.length }} more
      </p>
    </section>
    <section>
      <h2 class="head mb-2 text-base">The service</h2>
      <dl class="grid grid-cols-[9rem_1fr] gap-y-1">
        <template v-for="[name, value] in facts" :key="name">
          <dt class="text-soft">{{ name }}</dt>
          <dd class="value">{{ value }}</dd>
        </template>
        <dt class="text-soft">Clock</dt>
        <dd :class="Math.abs(data.clockSkewSeconds) > 5 ? 'text-rust' : ''">
          <span class="value">{{ data.clockSkewSeconds.toFixed(1) }} s</span> from the database’s
          <template v-if="Math.abs(data.clockSkewSeconds) > 5">
            · set it right: codes and times depend on it</template
          >
        </dd>
      </dl>
    </section>
    <section>
      <h2 class="head mb-2 text-base">Servers on this database</h2>
      <table class="grid-lines stack w-full">
        <thead>
          <tr>
            <th scope="col">Server</th>
            <th scope="col">Version</th>
            <th scope="col">Since</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="n in data.nodes" :key="n.name">
            <td class="value">
              {{ n.name }} <span v-if="n.thisOne" class="text-soft">answers you</span>
            </td>
            <td class="value">{{ n.version }}</td>
            <td class="value" :title="fullTime(n.startedAt)">{{ shortTime(n.startedAt) }}</td>
          </tr>
        </tbody>
      </table>
    </section>
    <section>
      <h2 class="head mb-2 text-base">What waits</h2>
      <table class="grid-lines stack w-full">
        <tbody>
          <tr v-for="b in data.backlog" :key="b.name">
            <td>{{ b.name }}</td>
            <td class="value text-right">{{ b.waiting }}</td>
          </tr>
        </tbody>
      </table>
    </section>
    <section>
      <h2 class="head mb-2 text-base">Last time</h2>
      <table class="grid-lines stack w-full">
        <tbody>
          <tr v-for="r in data.lastRuns" :key="r.what">
            <td>{{ r.what }}</td>
            <td class="value text-right">{{ r.at ? shortTime(r.at) : 'never' }}</td>
          </tr>
        </tbody>
      </table>
    </section>
    <section>
      <h2 class="head mb-2 text-base">Keys</h2>
      <p v-if="keys">
        Passcodes, second factors and messages are sealed with key {{ keys.current }}.
        <template v-if="behind">{{ behind }} are being sealed anew.</template>
        <template v-else-if="keys.numbers.length > 1">
          Old ones are still in the key file, and nothing needs them.
        </template>
      </p>
      <div v-if="session.isWarden && keys" class="mt-2 flex gap-3">
        <button class="button" :disabled="behind > 0" @click="rotate">Make a new key</button>
        <button
          v-if="keys.numbers.length > 1"
          class="button"
          :disabled="behind > 0"
          @click="forget"
        >
          Drop the old ones
        </button>
      </div>
      <ProblemNote class="mt-2" :problem="problem" />
    </section>
    <section>
      <h2 class="head mb-2 text-base">Largest tables</h2>
      <table class="grid-lines stack w-full">
        <thead>
          <tr>
            <th scope="col">Table</th>
            <th scope="col" class="text-right">Rows, about</th>
            <th scope="col" class="text-right">MB</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="t in data.tables" :key="t.table">
            <td class="value">{{ t.table }}</td>
            <td class="value text-right">{{ t.rows }}</td>
            <td class="value text-right">{{ t.megabytes.toFixed(1) }}</td>
          </tr>
        </tbody>
      </table>
    </section>
  </div>
</template>
