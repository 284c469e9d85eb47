<script setup lang="ts">
import { useQuery, useQueryCache } from '@pinia/colada'
import { ref, watch } from 'vue'
import { api, take } from '@/api/client'
import { useSession } from '@/api/session'
import { useAct } from '@/shell/act'
import ProblemNote from '@/shell/ProblemNote.vue'
import { fullTime, shortTime } from '@/shell/times'

/** A log collector that takes the ledger, and how far it has come. */
const session = useSession()
const cache = useQueryCache()
const { data } = useQuery({
  key: ['log-collector'],
  query: () => take(api.GET('/api/log-collector')),
})
const address = ref('')
const fromStart = ref(false)
const secret = ref('')
const said = ref('')
let filled = false
watch(
  data,
  (view) => {
    if (!view || filled) return
    filled = true
    address.value = view.address ?? ''
  },
  { immediate: true },
)
const { busy, problem, attempt } = useAct()
const save = () =>
  attempt(async () => {
    said.value = ''
    const view = await take(
      api.PUT('/api/log-collector', {
        body: { address: address.value || null, fromStart: fromStart.value },
      }),
    )
    cache.setQueryData(['log-collector'], { ...view, secret: null })
    secret.value = view.secret ?? ''
    fromStart.value = false
    said.value = view.address ? 'Saved. What comes is sent there.' : 'Saved. Nothing is sent.'
  })
</script>

<template>
  <section v-if="data" class="mt-8" aria-labelledby="collector">
    <h2 id="collector" class="head mb-1 text-base">The ledger to a log collector</h2>
    <p>
      Each entry goes there in order, as batches of CloudEvents 1.0, signed. While the collector is
      away nothing is lost: it goes on behind the last entry that was taken.
    </p>
    <form class="mt-2 flex flex-wrap items-center gap-3" @submit.prevent="save">
      <label class="flex min-w-0 max-w-full items-center gap-2 phone:block"
        >Address
        <input
          v-model.trim="address"
          class="field w-96 min-w-0 max-w-full"
          maxlength="300"
          placeholder="https://logs.example.org/in"
          :disabled="!session.isWarden"
        />
      </label>
      <label v-if="session.isWarden" class="flex items-center gap-2">
        <input v-model="fromStart" type="checkbox" /> all that is in it too
      </label>
      <button v-if="session.isWarden" class="button" :disabled="busy">Save</button>
      <span role="status">{{ said }}</span>
    </form>
    <ProblemNote class="mt-2" :problem="problem" />
    <p v-if="secret" class="mt-3 border-l-4 border-sand pl-3">
      What batches are signed by is shown this once: <span class="value">{{ secret }}</span>
    </p>
    <p v-if="data.address" class="mt-2">
      <template v-if="data.why">
        <span class="text-rust">It {{ data.why }}.</span>
        {{ data.behind }} {{ data.behind === 1 ? 'entry waits' : 'entries wait'
        }}<template v-if="data.nextAt"
          >; it is tried again {{ shortTime(data.nextAt) }}, after {{ data.tries }}
          {{ data.tries === 1 ? 'try' : 'tries' }} in vain</template
        >.
      </template>
      <template v-else-if="data.behind">
        {{ data.behind }} {{ data.behind === 1 ? 'entry waits' : 'entries wait' }} to be sent.
      </template>
      <template v-else-if="data.sentAt">
        It has everything; the last was taken {{ fullTime(data.sentAt) }}.
      </template>
      <template v-else>Nothing has happened since that would be sent.</template>
    </p>
  </section>
</template>
