<script setup lang="ts">
import { t } from '@/wording'
import { useQuery } from '@pinia/colada'
import { ref, watch } from 'vue'
import { api, take } from '@/api/client'
import { useSession } from '@/api/session'
import { useAct } from '@/shell/act'
import { useKeep } from '@/shell/keep'
import OutdatedNote from '@/shell/OutdatedNote.vue'
import ProblemNote from '@/shell/ProblemNote.vue'
import { fullTime, shortTime } from '@/shell/times'
import { useUnsaved } from '@/shell/unsaved'

/** A log collector that takes the ledger, and how far it has come. */
const session = useSession()
const keep = useKeep()
const { data, refetch } = useQuery({
  key: ['log-collector'],
  query: () => take(api.GET('/api/log-collector')),
})
const address = ref('')
const fromStart = ref(false)
const secret = ref('')
const said = ref('')
/** As it was read last or saved; what is typed rests on it. */
let seen = ''
function fill(now: string) {
  seen = now
  address.value = now
}
watch(
  data,
  (view) => {
    // it is read anew now and then: what somebody is about to change stays
    if (view && address.value === seen) fill(view.address ?? '')
  },
  { immediate: true },
)
useUnsaved(() => address.value !== seen)
const { busy, problem, attempt } = useAct()
const save = () =>
  attempt(async () => {
    said.value = ''
    const view = await take(
      api.PUT('/api/log-collector', {
        body: { address: address.value || null, fromStart: fromStart.value, seen },
      }),
    )
    seen = view.address ?? ''
    keep(['log-collector'], { ...view, secret: null })
    secret.value = view.secret ?? ''
    fromStart.value = false
    said.value = view.address ? t('house.savedWhatComesIsSentThere') : t('house.savedNothingIsSent')
  })
/** What somebody else made of it takes the place of what was typed here. */
async function takeTheirs() {
  await refetch()
  fill(data.value?.address ?? '')
  problem.value = null
}
</script>

<template>
  <section v-if="data" class="mt-8" aria-labelledby="collector">
    <h2 id="collector" class="head mb-1 text-base">{{ t('house.theLedgerToALogCollector') }}</h2>
    <p>
      {{ t('house.eachEntryGoesThereInOrderAs') }}
    </p>
    <form class="mt-2 flex flex-wrap items-center gap-3" @submit.prevent="save">
      <label class="flex min-w-0 max-w-full items-center gap-2 phone:block"
        >{{ t('house.address') }}
        <input
          v-model.trim="address"
          class="field w-96 min-w-0 max-w-full"
          maxlength="300"
          placeholder="https://logs.example.org/in"
          :disabled="!session.isWarden"
        />
      </label>
      <label v-if="session.isWarden" class="flex items-center gap-2">
        <input v-model="fromStart" type="checkbox" /> {{ t('house.allThatIsInItToo') }}
      </label>
      <button v-if="session.isWarden" class="button" :disabled="busy">{{ t('house.save') }}</button>
      <span role="status">{{ said }}</span>
    </form>
    <ProblemNote class="mt-2" :problem="problem" />
    <OutdatedNote class="mt-2" :problem="problem" @look="takeTheirs" />
    <p v-if="secret" class="mt-3 border-l-4 border-sand pl-3">
      {{ t('house.whatBatchesAreSignedByIsShown') }} <span class="value">{{ secret }}</span>
    </p>
    <p v-if="data.address" class="mt-2">
      <template v-if="data.why">
        <span class="text-rust">{{ t('house.itWhy', { why: data.why }) }}</span>
        {{ data.behind }} {{ data.behind === 1 ? t('house.entryWaits') : t('house.entriesWait')
        }}<template v-if="data.nextAt">{{
          t('house.itIsTriedAgainNextAtAfterTries', {
            nextAt: shortTime(data.nextAt),
            tries: data.tries,
            x: data.tries === 1 ? t('house.try') : t('house.tries'),
          })
        }}</template
        >.
      </template>
      <template v-else-if="data.behind">
        {{
          t('house.behindXToBeSent', {
            behind: data.behind,
            x: data.behind === 1 ? t('house.entryWaits') : t('house.entriesWait'),
          })
        }}
      </template>
      <template v-else-if="data.sentAt">
        {{ t('house.itHasEverythingTheLastWasTaken', { sentAt: fullTime(data.sentAt) }) }}
      </template>
      <template v-else>{{ t('house.nothingHasHappenedSinceThatWouldBe') }}</template>
    </p>
  </section>
</template>
