<script setup lang="ts">
import { t } from '@/wording'
import { useQuery } from '@pinia/colada'
import { useIntervalFn } from '@vueuse/core'
import { computed } from 'vue'
import { api, take } from '@/api/client'
import type { JobInTrouble, Standing } from '@/api/schema'
import { useSession } from '@/api/session'
import { useRowAct } from '@/shell/act'
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
const { underWay, problem, attempt } = useRowAct()
async function tried(work: () => Promise<Standing>) {
  await attempt('keys', work)
  await refetchKeys()
}
const { data: work, refetch: refetchWork } = useQuery({
  key: ['service', 'work'],
  query: () => take(api.GET('/api/service/work')),
})
const rowOf = (job: JobInTrouble) => `${job.kind} ${job.item}`
const act = (job: JobInTrouble, call: () => Promise<unknown>) =>
  attempt(rowOf(job), () => call().finally(refetchWork))
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
        [t('house.version'), s.version],
        [
          t('house.database'),
          t('house.databaseSchemaSchema', { database: s.database, schema: s.schema }),
        ],
        [t('house.java'), s.java],
        [
          t('house.memory'),
          t('house.heapMegabytesOfHeapMostMB', {
            heapMegabytes: s.heapMegabytes,
            heapMost: s.heapMost,
          }),
        ],
        [
          t('house.freeDisk'),
          t('house.roundGB', { round: Math.round(s.diskFreeMegabytes / 1024) }),
        ],
        [t('house.signInElsewhere'), s.provider || t('house.notConfigured')],
      ]
    : []
})
</script>

<template>
  <StatePanel v-if="error && !data" state="failed" :problem="error" @retry="refetch()" />
  <StatePanel v-else-if="!data" state="loading" />
  <div v-else class="grid max-w-6xl grid-cols-2 gap-x-10 gap-y-6">
    <section v-if="work?.total" class="col-span-2" aria-labelledby="in-trouble">
      <h2 id="in-trouble" class="head mb-2 text-base">{{ t('house.workInTrouble') }}</h2>
      <table class="grid-lines stack w-full">
        <thead>
          <tr>
            <th scope="col">{{ t('house.what') }}</th>
            <th scope="col">{{ t('house.why') }}</th>
            <th scope="col" class="text-right">{{ t('house.tries2') }}</th>
            <th scope="col">{{ t('house.nextTry') }}</th>
            <th v-if="session.isWarden" scope="col">
              <span class="sr-only">{{ t('house.whatToDo') }}</span>
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="j in work.items" :key="`${j.kind} ${j.item}`">
            <td>{{ j.title }}</td>
            <td class="max-w-md break-words">{{ j.reason }}</td>
            <td class="value text-right">{{ j.tries }}</td>
            <td class="value whitespace-nowrap">
              <span v-if="j.failed" class="text-rust">{{ t('house.failed') }}</span>
              <template v-else-if="j.next">{{ shortTime(j.next) }}</template>
            </td>
            <td v-if="session.isWarden" class="text-right whitespace-nowrap">
              <button class="button" :disabled="underWay.has(rowOf(j))" @click="tryAgain(j)">
                {{ t('house.tryAgain') }}
              </button>
              <button
                v-if="j.failed"
                class="button ml-2"
                :disabled="underWay.has(rowOf(j))"
                @click="giveUp(j)"
              >
                {{ t('house.giveUp') }}
              </button>
            </td>
          </tr>
        </tbody>
      </table>
      <p v-if="work.total > work.items.length" class="mt-1 text-soft">
        {{ t('house.andTotalMore', { total: work.total - work.items.length }) }}
      </p>
    </section>
    <section>
      <h2 class="head mb-2 text-base">{{ t('house.theService') }}</h2>
      <dl class="grid grid-cols-[9rem_1fr] gap-y-1">
        <template v-for="[name, value] in facts" :key="name">
          <dt class="text-soft">{{ name }}</dt>
          <dd class="value">{{ value }}</dd>
        </template>
        <dt class="text-soft">{{ t('house.clock') }}</dt>
        <dd :class="Math.abs(data.clockSkewSeconds) > 5 ? 'text-rust' : ''">
          <span class="value">{{ data.clockSkewSeconds.toFixed(1) }} s</span>
          {{ t('house.fromTheDatabases') }}
          <template v-if="Math.abs(data.clockSkewSeconds) > 5">
            {{ t('house.setItRightCodesAndTimesDepend') }}</template
          >
        </dd>
      </dl>
    </section>
    <section>
      <h2 class="head mb-2 text-base">{{ t('house.serversOnThisDatabase') }}</h2>
      <table class="grid-lines stack w-full">
        <thead>
          <tr>
            <th scope="col">{{ t('house.server') }}</th>
            <th scope="col">{{ t('house.version') }}</th>
            <th scope="col">{{ t('house.since') }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="n in data.nodes" :key="n.name">
            <td class="value">
              {{ n.name }}
              <span v-if="n.thisOne" class="text-soft">{{ t('house.answersYou') }}</span>
            </td>
            <td class="value">{{ n.version }}</td>
            <td class="value" :title="fullTime(n.startedAt)">{{ shortTime(n.startedAt) }}</td>
          </tr>
        </tbody>
      </table>
    </section>
    <section>
      <h2 class="head mb-2 text-base">{{ t('house.whatWaits') }}</h2>
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
      <h2 class="head mb-2 text-base">{{ t('house.lastTime') }}</h2>
      <table class="grid-lines stack w-full">
        <tbody>
          <tr v-for="r in data.lastRuns" :key="r.what">
            <td>{{ r.what }}</td>
            <td class="value text-right">{{ r.at ? shortTime(r.at) : t('house.never') }}</td>
          </tr>
        </tbody>
      </table>
    </section>
    <section>
      <h2 class="head mb-2 text-base">{{ t('house.keys') }}</h2>
      <p v-if="keys">
        {{ t('house.passcodesSecondFactorsAndMessagesAre', { current: keys.current }) }}
        <template v-if="behind">{{ t('house.behindAreBeingSealedAnew', { behind }) }}</template>
        <template v-else-if="keys.numbers.length > 1">
          {{ t('house.oldOnesAreStillInTheKey') }}
        </template>
      </p>
      <div v-if="session.isWarden && keys" class="mt-2 flex gap-3">
        <button class="button" :disabled="behind > 0" @click="rotate">
          {{ t('house.makeANewKey') }}
        </button>
        <button
          v-if="keys.numbers.length > 1"
          class="button"
          :disabled="behind > 0"
          @click="forget"
        >
          {{ t('house.dropTheOldOnes') }}
        </button>
      </div>
      <ProblemNote class="mt-2" :problem="problem" />
    </section>
    <section>
      <h2 class="head mb-2 text-base">{{ t('house.largestTables') }}</h2>
      <table class="grid-lines stack w-full">
        <thead>
          <tr>
            <th scope="col">{{ t('house.table') }}</th>
            <th scope="col" class="text-right">{{ t('house.rowsAbout') }}</th>
            <th scope="col" class="text-right">{{ t('house.mB') }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="kept in data.tables" :key="kept.table">
            <td>
              <code class="value">{{ kept.table }}</code>
            </td>
            <td class="value text-right">{{ kept.rows }}</td>
            <td class="value text-right">{{ kept.megabytes.toFixed(1) }}</td>
          </tr>
        </tbody>
      </table>
    </section>
  </div>
</template>
