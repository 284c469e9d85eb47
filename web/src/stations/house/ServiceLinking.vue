<script setup lang="ts">
import { t } from '@/wording'
import { useQuery } from '@pinia/colada'
import { useIntervalFn } from '@vueuse/core'
import { computed, ref } from 'vue'
import { api, take } from '@/api/client'
import type { LinkedService, ServiceTried } from '@/api/schema'
import { useSession } from '@/api/session'
import { useAct } from '@/shell/act'
import { useKeep } from '@/shell/keep'
import ProblemNote from '@/shell/ProblemNote.vue'
import { shortTime } from '@/shell/times'

/** Links a conference service: tried first, or agreed to by a second warden where the house says so. */
const emit = defineEmits<{ linked: [LinkedService[]] }>()
const session = useSession()
const keep = useKeep()
const { data: house } = useQuery({
  key: ['consent'],
  query: () => take(api.GET('/api/rulebook/drafts/consent')),
})
const { data: proposals, refetch } = useQuery({
  key: ['services', 'proposals'],
  query: () => take(api.GET('/api/services/proposals')),
})
useIntervalFn(() => void refetch(), 5000)
const byTwo = computed(() => house.value?.needsConsent === true)

const { busy, problem, attempt } = useAct()
const { busy: isTrying, problem: declined, attempt: attemptIt } = useAct()
const name = ref('')
const address = ref('')
const key = ref('')
const tried = ref<ServiceTried | null>(null)
const clear = () => {
  name.value = address.value = key.value = ''
  tried.value = null
}
const wanted = () => ({ name: name.value, address: address.value, key: key.value })

const look = () =>
  attempt(async () => {
    const body = { address: address.value, key: key.value }
    const found = await take(api.POST('/api/services/attempt', { body }))
    // what was typed meanwhile is to be tried itself
    if (body.address !== address.value || body.key !== key.value) return
    tried.value = found
    name.value ||= found.make
  })
const link = () =>
  attempt(async () => {
    emit('linked', await take(api.POST('/api/services', { body: wanted() })))
    clear()
  })
const propose = () =>
  attempt(async () => {
    keep(
      ['services', 'proposals'],
      await take(api.POST('/api/services/proposals', { body: wanted() })),
    )
    clear()
  })
const consent = (id: number) =>
  attemptIt(async () => {
    const path = { params: { path: { id } } }
    emit('linked', await take(api.POST('/api/services/proposals/{id}', path)))
  }).then(() => refetch())
const drop = (id: number) =>
  attemptIt(async () => {
    const path = { params: { path: { id } } }
    keep(['services', 'proposals'], await take(api.DELETE('/api/services/proposals/{id}', path)))
  }).then(() => refetch())
const submit = () => (byTwo.value ? propose() : tried.value ? link() : look())
</script>

<template>
  <section class="mt-6 max-w-3xl">
    <template v-if="proposals?.length">
      <h2 class="head mb-2 text-base">{{ t('house.waitingForASecondWarden') }}</h2>
      <ul class="mb-2">
        <li
          v-for="p in proposals"
          :key="p.id"
          class="flex flex-wrap items-baseline gap-x-3 gap-y-1 border-b border-line py-1.5"
        >
          <strong dir="auto">{{ p.name }}</strong>
          <span class="text-soft">{{ p.address }} · {{ p.by }}, {{ shortTime(p.at) }}</span>
          <span class="ml-auto flex gap-3">
            <template v-if="p.by !== session.who?.email">
              <button class="link" :disabled="isTrying" @click="consent(p.id)">
                {{ isTrying ? t('house.trying') : t('house.agreeTryItAndLinkIt') }}
              </button>
              <button class="link" :disabled="isTrying" @click="drop(p.id)">
                {{ t('house.decline') }}
              </button>
            </template>
            <button v-else class="link" :disabled="isTrying" @click="drop(p.id)">
              {{ t('house.takeItBack') }}
            </button>
          </span>
        </li>
      </ul>
      <ProblemNote class="mb-4" :problem="declined" />
    </template>
    <h2 class="head mb-2 text-base">{{ t('house.linkAService') }}</h2>
    <p v-if="byTwo" class="mb-2 text-soft">
      {{ t('house.nothingIsAskedThereUntilASecond') }}
    </p>
    <form class="flex flex-wrap items-end gap-3" @submit.prevent="submit">
      <label class="flex flex-col gap-1">
        {{ t('house.address') }}
        <input
          v-model.trim="address"
          class="field w-72"
          maxlength="300"
          placeholder="https://meet.example.org"
          required
          @input="tried = null"
        />
      </label>
      <label class="flex flex-col gap-1">
        {{ t('house.key') }}
        <input
          v-model.trim="key"
          class="field w-48"
          type="password"
          autocomplete="off"
          maxlength="400"
          required
          @input="tried = null"
        />
      </label>
      <label v-if="tried || byTwo" class="flex flex-col gap-1">
        {{ t('house.calledHere') }}
        <input v-model.trim="name" class="field w-48" maxlength="60" required />
      </label>
      <button v-if="byTwo" class="button button-main" :disabled="busy">
        {{ t('house.proposeIt') }}
      </button>
      <button v-else-if="tried" class="button button-main" :disabled="busy">
        {{ t('house.linkItForReading') }}
      </button>
      <button v-else class="button" :disabled="busy">
        {{ busy ? t('house.trying') : t('house.tryIt') }}
      </button>
    </form>
    <p v-if="tried" class="mt-2" role="status">
      {{
        t('house.itAnswersMakeMeansOfOurControls', {
          make: tried.make,
          means: Object.keys(tried.means).length,
          perSecond: tried.perSecond,
        })
      }}
    </p>
    <ProblemNote class="mt-2" :problem="problem" />
  </section>
</template>
