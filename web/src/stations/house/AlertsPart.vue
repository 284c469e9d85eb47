<script setup lang="ts">
import { t } from '@/wording'
import { useQuery } from '@pinia/colada'
import { ref, watch } from 'vue'
import { api, take } from '@/api/client'
import { useSession } from '@/api/session'
import { useAct } from '@/shell/act'
import { useKeep } from '@/shell/keep'
import { allOf } from '@/shell/counted'
import OutdatedNote from '@/shell/OutdatedNote.vue'
import ProblemNote from '@/shell/ProblemNote.vue'
import StatePanel from '@/shell/StatePanel.vue'
import { fullTime, shortTime } from '@/shell/times'
import { useUnsaved } from '@/shell/unsaved'
import { severities } from './alerts'
import AnnouncingPart from './AnnouncingPart.vue'
import CollectorPart from './CollectorPart.vue'
import SetBackPart from './SetBackPart.vue'

/** Whom alerts of sessions reach: who is on call, quiet hours, and a webhook. */
const session = useSession()
const keep = useKeep()
const { data, error, refetch } = useQuery({
  key: ['alerting'],
  query: () => take(api.GET('/api/alerting')),
})
const { busy, problem, attempt } = useAct()
const onCall = ref('')
const nextMinutes = ref(5)
const leastSeverity = ref(3)
const quiet = ref(false)
const quietFrom = ref('22:00')
const quietTo = ref('07:00')
const quietZone = ref('UTC')
const webhook = ref('')
const secret = ref('')
const said = ref('')
const form = () => ({
  onCall: onCall.value
    .split(/[\s,;]+/)
    .map((a) => a.trim())
    .filter(Boolean),
  nextMinutes: nextMinutes.value,
  leastSeverity: leastSeverity.value,
  quietFrom: quiet.value ? quietFrom.value : null,
  quietTo: quiet.value ? quietTo.value : null,
  quietZone: quietZone.value,
  webhook: webhook.value || null,
})
/** As it was read or saved. */
let stored = ''
let filled = false
/** Which of their states the fields rest on. */
let version = 0
type View = NonNullable<typeof data.value>
function fill(view: View) {
  filled = true
  version = view.version
  const s = view.settings
  onCall.value = s.onCall.join('\n')
  nextMinutes.value = s.nextMinutes
  leastSeverity.value = s.leastSeverity
  quiet.value = !!s.quietFrom
  quietFrom.value = s.quietFrom ?? '22:00'
  quietTo.value = s.quietTo ?? '07:00'
  quietZone.value = s.quietZone
  webhook.value = s.webhook ?? ''
  stored = JSON.stringify(form())
}
const isTouched = () => filled && JSON.stringify(form()) !== stored
useUnsaved(isTouched)
watch(
  data,
  (view) => {
    // it is read anew now and then: what somebody is about to change stays
    if (view && !isTouched()) fill(view)
  },
  { immediate: true },
)
/** What somebody else made of it takes the place of what was typed here. */
async function takeTheirs() {
  await refetch()
  if (data.value) fill(data.value)
  problem.value = null
}
const save = () =>
  attempt(async () => {
    said.value = ''
    const body = form()
    const view = await take(api.PUT('/api/alerting', { body: { ...body, version } }))
    stored = JSON.stringify(body)
    version = view.version
    if (view.secret) secret.value = view.secret
    keep(['alerting'], view)
    said.value = t('house.saved')
  })
const test = () =>
  attempt(async () => {
    const sent = await take(api.POST('/api/alerting/test'))
    said.value = t('house.aTestGoesByJoin', { join: allOf(sent.ways) })
    await refetch()
  })
const states: Record<string, string> = {
  waiting: t('house.waiting'),
  sent: t('house.taken'),
  failed: t('house.givenUp'),
}
</script>

<template>
  <StatePanel v-if="error && !data" state="failed" :problem="error" @retry="refetch()" />
  <StatePanel v-else-if="!data" state="loading" />
  <div v-else class="max-w-3xl">
    <p class="mb-3">
      {{ t('house.alertsOfSessionsAreOnEveryPage') }}
    </p>
    <form
      class="grid grid-cols-[11rem_minmax(0,1fr)] phone:grid-cols-1 items-start gap-x-4 gap-y-3"
      @submit.prevent="save"
    >
      <label for="on-call" class="pt-1">{{ t('house.onCallInOrder') }}</label>
      <textarea
        id="on-call"
        v-model="onCall"
        class="field w-96 max-w-full"
        rows="3"
        :placeholder="t('house.anAddressALine')"
        :disabled="!session.isWarden"
      />
      <label for="next-minutes" class="pt-1">{{ t('house.theNextOneAfter') }}</label>
      <span>
        <input
          id="next-minutes"
          v-model.number="nextMinutes"
          class="field value w-20"
          type="number"
          min="1"
          max="120"
          :disabled="!session.isWarden"
        />
        {{ t('house.minutesWithoutAcknowledgement') }}
      </span>
      <label for="least" class="pt-1">{{ t('house.fromWhichWeightOn') }}</label>
      <select id="least" v-model="leastSeverity" class="field w-40" :disabled="!session.isWarden">
        <option v-for="s in severities" :key="s.value" :value="s.value">{{ s.name }}</option>
      </select>
      <span class="pt-1">{{ t('house.quietHours') }}</span>
      <span class="flex flex-wrap items-center gap-2">
        <label class="flex items-center gap-1.5"
          ><input v-model="quiet" type="checkbox" :disabled="!session.isWarden" />
          {{ t('house.onlyTheGravestBetween') }}</label
        >
        <input
          v-model="quietFrom"
          class="field value"
          type="time"
          :aria-label="t('house.quietHoursBegin')"
          :disabled="!quiet || !session.isWarden"
        />
        {{ t('house.and') }}
        <input
          v-model="quietTo"
          class="field value"
          type="time"
          :aria-label="t('house.quietHoursEnd')"
          :disabled="!quiet || !session.isWarden"
        />
        <input
          v-model.trim="quietZone"
          class="field value w-44"
          :aria-label="t('house.timeZoneOfTheQuietHours')"
          maxlength="64"
          :disabled="!quiet || !session.isWarden"
        />
      </span>
      <label for="webhook" class="pt-1">{{ t('house.webhook') }}</label>
      <span>
        <input
          id="webhook"
          v-model.trim="webhook"
          class="field w-96 max-w-full"
          maxlength="300"
          placeholder="https://alerts.example.org/in"
          :disabled="!session.isWarden"
        />
        <span class="block text-[12.5px] text-soft">{{
          t('house.eventsInTheJSONFormatOfCloudEvents')
        }}</span>
      </span>
      <span />
      <span v-if="session.isWarden" class="flex items-center gap-3">
        <button class="button button-main" :disabled="busy">{{ t('house.save') }}</button>
        <button type="button" class="button" :disabled="busy" @click="test">
          {{ t('house.sendATest') }}
        </button>
        <span role="status">{{ said }}</span>
      </span>
    </form>
    <ProblemNote class="mt-3" :problem="problem" />
    <OutdatedNote class="mt-2" :problem="problem" @look="takeTheirs" />
    <p v-if="secret" class="mt-3 border-l-4 border-sand pl-3">
      {{ t('house.whatEventsAreSignedByIsShown') }} <span class="value">{{ secret }}</span>
    </p>
    <template v-if="data.deliveries.length">
      <h2 class="head mb-2 mt-6 text-base">{{ t('house.sentToTheWebhook') }}</h2>
      <table class="grid-lines w-full">
        <thead>
          <tr>
            <th scope="col">{{ t('house.what') }}</th>
            <th scope="col">{{ t('house.when') }}</th>
            <th scope="col">{{ t('house.state') }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="d in data.deliveries" :key="d.id">
            <td>{{ d.subject }}</td>
            <td class="value" :title="fullTime(d.madeAt)">{{ shortTime(d.madeAt) }}</td>
            <td :class="d.state === 'failed' ? 'text-rust' : ''">
              {{ states[d.state] ?? d.state
              }}<template v-if="d.why">{{
                t('house.itWhyTriesTries', { why: d.why, tries: d.tries })
              }}</template>
            </td>
          </tr>
        </tbody>
      </table>
      <p class="mt-1 text-[12.5px] text-soft">
        {{ t('house.whatIsGivenUpCanBeTried') }}
        <RouterLink class="link" to="/house/service">{{ t('house.theService') }}</RouterLink>.
      </p>
    </template>
    <SetBackPart />
    <AnnouncingPart />
    <CollectorPart />
  </div>
</template>
