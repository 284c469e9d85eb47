<script setup lang="ts">
import { t } from '@/wording'
import { term } from '@/shell/terms'
import { counted } from '@/shell/counted'
import { useQuery, useQueryCache } from '@pinia/colada'
import { computed, ref } from 'vue'
import { useCatalogue, useOrganisation } from '@/api/catalogue'
import { api, take } from '@/api/client'
import { useSession } from '@/api/session'
import { useAct } from '@/shell/act'
import ProblemNote from '@/shell/ProblemNote.vue'
import StatePanel from '@/shell/StatePanel.vue'
import { shortTime } from '@/shell/times'
import PeoplePicker from '@/stations/scheduling/PeoplePicker.vue'
import PersonDialog from './PersonDialog.vue'

/** One person: who they are, what they host, and what they can get into. */
const props = defineProps<{ email: string }>()
const session = useSession()
const cache = useQueryCache()
const { unitName, organisation } = useOrganisation()
const { stepTitle } = useCatalogue()
const { data, error, refetch } = useQuery({
  key: () => ['person', props.email],
  query: () =>
    take(api.GET('/api/people/{email}/page', { params: { path: { email: props.email } } })),
})
const editing = ref(false)
const handing = ref(false)
const to = ref('')
const { busy, problem, attempt } = useAct()
const said = ref('')
const listNames = computed(() =>
  (data.value?.lists ?? []).map(
    (id) => organisation.value?.lists.find((l) => l.id === id)?.name ?? id,
  ),
)
const spaceNames = computed(() =>
  (data.value?.spaces ?? []).map(
    (id) => organisation.value?.spaces.find((s) => s.id === id)?.name ?? id,
  ),
)
const ties: Record<string, string> = {
  host: t('people.hostsIt'),
  'co-host': term('co-host'),
  named: t('people.invitedByName'),
  listed: t('people.throughAListOrSpace'),
  none: t('people.notInvited'),
}
const outcomes: Record<string, string> = {
  in: t('people.straightIn2'),
  held: t('people.waits'),
  refused: t('people.refused2'),
}
async function handOver() {
  await attempt(async () => {
    const done = await take(
      api.POST('/api/people/{email}/hand-over', {
        params: { path: { email: props.email } },
        body: { to: to.value },
      }),
    )
    said.value = t('people.meetingsMeetingsAreToSNow', { meetings: done.meetings, to: to.value })
    handing.value = false
    await cache.invalidateQueries({ key: ['meetings'] })
    await refetch()
  })
}
</script>

<template>
  <StatePanel v-if="error" state="failed" :problem="error" @retry="refetch()" />
  <StatePanel v-else-if="!data" state="loading" />
  <div v-else class="h-full overflow-auto px-5 py-4">
    <p>
      <RouterLink class="link" to="/people">{{ t('people.people') }}</RouterLink>
    </p>
    <div class="mt-1 flex items-baseline gap-4">
      <h1 class="text-xl font-bold">{{ data.name ?? data.email }}</h1>
      <span v-if="data.known && !data.active" class="text-sand">{{
        t('people.noLongerActive')
      }}</span>
      <span v-if="!data.known" class="text-sand">{{ t('people.inNoDirectory') }}</span>
      <button
        v-if="session.isWarden && data.known"
        type="button"
        class="button ml-auto"
        @click="editing = true"
      >
        {{ t('people.change') }}
      </button>
    </div>
    <dl class="mt-2 grid max-w-3xl grid-cols-[6rem_1fr] gap-y-1">
      <dt class="text-soft">{{ t('people.address') }}</dt>
      <dd class="value">{{ data.email }}</dd>
      <dt class="text-soft">{{ t('people.standing2') }}</dt>
      <dd>{{ term(data.standing) }}{{ data.unit ? `, ${unitName(data.unit)}` : '' }}</dd>
      <dt class="text-soft">{{ t('people.zone2') }}</dt>
      <dd>{{ data.zone ?? t('people.notKnown') }}</dd>
      <dt class="text-soft">{{ t('people.lists2') }}</dt>
      <dd>{{ listNames.join(', ') || t('people.none') }}</dd>
      <dt class="text-soft">{{ t('people.spaces2') }}</dt>
      <dd>{{ spaceNames.join(', ') || t('people.none') }}</dd>
      <dt class="text-soft">{{ t('people.hosts') }}</dt>
      <dd class="flex items-center gap-3">
        <RouterLink
          v-if="data.hosts"
          class="link"
          :to="{ path: '/register', query: { host: data.email } }"
          >{{ counted(data.hosts, 'meeting') }}</RouterLink
        >
        <span v-else>{{ t('people.nothing') }}</span>
        <button
          v-if="session.isWarden && data.hosts && !handing"
          type="button"
          class="link"
          @click="handing = true"
        >
          {{ t('people.handAllOfThemOver') }}
        </button>
      </dd>
    </dl>
    <div
      v-if="handing"
      class="mt-2 flex max-w-3xl items-center gap-3 border-l-4 border-sand bg-sand-wash px-3 py-2"
    >
      <span>{{ t('people.whoHostsThemFromNowOn') }}</span>
      <span v-if="to" class="value">{{ to }}</span>
      <PeoplePicker
        class="w-64"
        :label="t('people.theNewHost')"
        :taken="[data.email]"
        @choose="to = $event"
      />
      <button type="button" class="button" :disabled="!to || busy" @click="handOver">
        {{ t('people.handOverHosts', { hosts: data.hosts }) }}
      </button>
      <button type="button" class="link" @click="handing = false">
        {{ t('people.leaveIt2') }}
      </button>
    </div>
    <ProblemNote class="mt-2 max-w-3xl" :problem="problem" />
    <p v-if="said" class="mt-2 max-w-3xl border-l-4 border-kelp bg-sheet px-3 py-1.5" role="status">
      {{ said }}
    </p>

    <h2 class="head mt-5 border-b border-ink pb-1">
      {{ t('people.whatTheyComeTo') }}
      <span class="font-normal text-soft">{{ data.ways.length }}</span>
    </h2>
    <p v-if="!data.ways.length" class="text-soft">{{ t('people.theyAreInvitedToNothing') }}</p>
    <table v-else class="grid-lines stack">
      <thead>
        <tr>
          <th>{{ t('people.meeting') }}</th>
          <th>{{ t('people.howTheyCameByIt') }}</th>
          <th>{{ t('people.atTheDoor') }}</th>
          <th>{{ t('people.heldOrRefusedBy') }}</th>
          <th>{{ t('people.onceIn') }}</th>
          <th>{{ t('people.next2') }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="w in data.ways" :key="w.meeting">
          <td>
            <RouterLink class="head" :to="`/register/${encodeURIComponent(w.meeting)}`">{{
              w.title
            }}</RouterLink>
          </td>
          <td class="text-soft">{{ ties[w.tie] ?? w.tie }}</td>
          <td :class="w.outcome === 'refused' ? 'text-rust' : ''">
            {{ outcomes[w.outcome] ?? w.outcome }}
          </td>
          <td class="text-soft">{{ w.step ? stepTitle(w.step) : '' }}</td>
          <td>{{ term(w.role ?? '') }}</td>
          <td class="value whitespace-nowrap">{{ shortTime(w.next) }}</td>
        </tr>
      </tbody>
    </table>

    <h2 class="head mt-5 border-b border-ink pb-1">
      {{ t('people.whatTheyCouldWalkIntoUninvited') }}
    </h2>
    <p class="mt-1">
      {{ t('people.ofTheOtherMeetingsInTheNext') }}
      <strong :class="data.free ? 'text-rust' : 'text-kelp'">{{ data.free }}</strong>
      {{ t('people.straightIn') }} <strong>{{ data.held }}</strong> {{ t('people.heldAtTheDoor') }}
      <strong>{{ data.refused }}</strong> {{ t('people.refused') }}
    </p>
    <ul v-if="data.open.length" class="mt-1 columns-2 gap-6">
      <li v-for="w in data.open" :key="w.meeting" class="flex justify-between gap-3">
        <RouterLink class="link truncate" :to="`/register/${encodeURIComponent(w.meeting)}`">{{
          w.title
        }}</RouterLink>
        <span class="whitespace-nowrap text-soft">{{
          t('people.asRole', { role: term(w.role ?? '') })
        }}</span>
      </li>
    </ul>
    <p v-if="data.free > data.open.length" class="text-soft">
      {{ t('people.andFreeMore', { free: data.free - data.open.length }) }}
    </p>
    <PersonDialog :open="editing" :person="data" @close="editing = false" @saved="refetch()" />
  </div>
</template>
