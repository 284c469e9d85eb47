<script setup lang="ts">
import { t } from '@/wording'
import { useQuery } from '@pinia/colada'
import { computed, ref } from 'vue'
import { useOrganisation } from '@/api/catalogue'
import { api, take } from '@/api/client'
import type { Deputy } from '@/api/schema'
import { useSession } from '@/api/session'
import { useAct, useRowAct } from '@/shell/act'
import { useKeep } from '@/shell/keep'
import { counted } from '@/shell/counted'
import ListFoot from '@/shell/ListFoot.vue'
import ProblemNote from '@/shell/ProblemNote.vue'
import type { RowAct } from '@/shell/rowActs'
import RowMenu from '@/shell/RowMenu.vue'
import { fullTime } from '@/shell/times'
import PeoplePicker from '@/stations/scheduling/PeoplePicker.vue'

/** Who stands in for a unit's warden, and until when; a warden names them, a unit's own too. */
const session = useSession()
const keep = useKeep()
const { organisation, unitName } = useOrganisation()
const { data } = useQuery({
  key: ['deputies'],
  query: () => take(api.GET('/api/deputies')),
})
const store = (all: Deputy[]) => keep(['deputies'], all)
const { busy, problem, attempt } = useAct()
const { attempt: toRow } = useRowAct(problem)
const mayName = computed(
  () => session.isWarden || (session.isUnitWarden && !session.who?.deputyUntil),
)
const units = computed(() =>
  session.isUnitWarden
    ? (organisation.value?.units ?? []).filter((u) => u.id === session.who?.unit)
    : (organisation.value?.units ?? []),
)
const local = (at: Date) =>
  new Date(at.getTime() - at.getTimezoneOffset() * 60_000).toISOString().slice(0, 16)
const email = ref('')
const unit = ref('')
const from = ref(local(new Date()))
const until = ref(local(new Date(Date.now() + 7 * 864e5)))
const chosenUnit = computed(() => unit.value || units.value[0]?.id || '')
const hasBegun = (d: Deputy) => new Date(d.from) <= new Date()

const name = () =>
  attempt(async () => {
    store(
      await take(
        api.PUT('/api/deputies/{email}', {
          params: { path: { email: email.value } },
          body: {
            unit: chosenUnit.value,
            from: new Date(from.value).toISOString(),
            until: new Date(until.value).toISOString(),
          },
        }),
      ),
    )
    email.value = ''
  })
const end = (d: Deputy) =>
  toRow(d.email, async () =>
    store(
      await take(api.DELETE('/api/deputies/{email}', { params: { path: { email: d.email } } })),
    ),
  )
function acts(d: Deputy): RowAct[] {
  const all: RowAct[] = []
  if (session.isWarden || session.who?.role === 'auditor')
    all.push({
      name: t('house.whatTheyDid'),
      to: { path: '/ledger', query: { who: d.email } },
    })
  if (mayName.value) all.push({ name: t('house.endIt'), act: () => void end(d) })
  return all
}
</script>

<template>
  <section aria-labelledby="deputies">
    <h2 id="deputies" class="head mb-1 text-base">{{ t('house.deputies') }}</h2>
    <p class="mb-2 max-w-3xl text-soft">
      {{ t('house.aHostCanStandInForA') }}
    </p>
    <table v-if="data?.length" class="grid-lines stack max-w-4xl">
      <thead>
        <tr>
          <th scope="col">{{ t('house.who') }}</th>
          <th scope="col">{{ t('house.standsInFor') }}</th>
          <th scope="col">{{ t('house.from') }}</th>
          <th scope="col">{{ t('house.until') }}</th>
          <th scope="col">
            <span class="sr-only">{{ t('house.acts') }}</span>
          </th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="d in data" :key="d.email">
          <td>
            {{ d.name }}
            <span class="block text-[12.5px] text-soft">{{
              t('house.namedByBy', { by: d.by })
            }}</span>
          </td>
          <td>{{ unitName(d.unit) || d.unit }}</td>
          <td>{{ hasBegun(d) ? t('house.now') : fullTime(d.from) }}</td>
          <td>{{ fullTime(d.until) }}</td>
          <td class="text-right">
            <RowMenu :of="d.name" :acts="acts(d)" />
          </td>
        </tr>
      </tbody>
    </table>
    <ListFoot
      v-if="data?.length"
      class="max-w-4xl !border-t-0 !px-0"
      :count="counted(data.length, 'deputy')"
      quiet
    />
    <p v-else-if="data" class="text-soft">{{ t('house.nobodyStandsInForAnybody') }}</p>
    <form v-if="mayName" class="mt-3 flex flex-wrap items-end gap-3" @submit.prevent="name">
      <div class="flex w-72 max-w-full flex-col gap-1">
        <span id="deputy-who">{{ t('house.who') }}</span>
        <span v-if="email" class="flex items-center gap-2 py-1">
          <span class="value min-w-0 truncate">{{ email }}</span>
          <button type="button" class="link" @click="email = ''">{{ t('house.another') }}</button>
        </span>
        <PeoplePicker v-else :label="t('house.whoStandsIn')" @choose="email = $event" />
      </div>
      <label class="flex flex-col gap-1">
        {{ t('house.forTheWardenOf') }}
        <select
          class="field w-52"
          :value="chosenUnit"
          @change="unit = ($event.target as HTMLSelectElement).value"
        >
          <option v-for="u in units" :key="u.id" :value="u.id">{{ u.name }}</option>
        </select>
      </label>
      <label class="flex flex-col gap-1">
        {{ t('house.from') }} <input v-model="from" class="field" type="datetime-local" required />
      </label>
      <label class="flex flex-col gap-1">
        {{ t('house.until') }}
        <input v-model="until" class="field" type="datetime-local" required />
      </label>
      <button class="button" :disabled="busy || !email || !chosenUnit">
        {{ t('house.letThemStandIn') }}
      </button>
    </form>
    <ProblemNote class="mt-2" :problem="problem" />
  </section>
</template>
