<script setup lang="ts">
import { useQuery, useQueryCache } from '@pinia/colada'
import { computed, ref } from 'vue'
import { useOrganisation } from '@/api/catalogue'
import { api, take } from '@/api/client'
import type { Deputy } from '@/api/schema'
import { useSession } from '@/api/session'
import { useAct } from '@/shell/act'
import ProblemNote from '@/shell/ProblemNote.vue'
import { fullTime } from '@/shell/times'
import PeoplePicker from '@/stations/scheduling/PeoplePicker.vue'

/** Who stands in for a unit's warden, and until when; a warden names them, a unit's own too. */
const session = useSession()
const cache = useQueryCache()
const { organisation, unitName } = useOrganisation()
const { data } = useQuery({
  key: ['deputies'],
  query: () => take(api.GET('/api/deputies')),
})
const store = (all: Deputy[]) => cache.setQueryData(['deputies'], all)
const { busy, problem, attempt } = useAct()
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
  attempt(async () =>
    store(
      await take(api.DELETE('/api/deputies/{email}', { params: { path: { email: d.email } } })),
    ),
  )
</script>

<template>
  <section aria-labelledby="deputies">
    <h2 id="deputies" class="head mb-1 text-base">Deputies</h2>
    <p class="mb-2 max-w-3xl text-soft">
      A host can stand in for a unit’s warden for a time. Until it ends they may what that warden
      may, and name no deputy themselves.
    </p>
    <table v-if="data?.length" class="grid-lines stack max-w-4xl">
      <thead>
        <tr>
          <th scope="col">Who</th>
          <th scope="col">Stands in for</th>
          <th scope="col">From</th>
          <th scope="col">Until</th>
          <th scope="col"><span class="sr-only">Acts</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="d in data" :key="d.email">
          <td>
            {{ d.name }}
            <span class="block text-[12.5px] text-soft">named by {{ d.by }}</span>
          </td>
          <td>{{ unitName(d.unit) || d.unit }}</td>
          <td>{{ hasBegun(d) ? 'now' : fullTime(d.from) }}</td>
          <td>{{ fullTime(d.until) }}</td>
          <td class="text-right">
            <button v-if="mayName" class="link" :disabled="busy" @click="end(d)">
              End it<span class="hidden-label">{{ ` for ${d.name}` }}</span>
            </button>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-else-if="data" class="text-soft">Nobody stands in for anybody.</p>
    <form v-if="mayName" class="mt-3 flex flex-wrap items-end gap-3" @submit.prevent="name">
      <div class="flex w-72 max-w-full flex-col gap-1">
        <span id="deputy-who">Who</span>
        <span v-if="email" class="flex items-center gap-2 py-1">
          <span class="value min-w-0 truncate">{{ email }}</span>
          <button type="button" class="link" @click="email = ''">another</button>
        </span>
        <PeoplePicker v-else label="Who stands in" @choose="email = $event" />
      </div>
      <label class="flex flex-col gap-1">
        For the warden of
        <select
          class="field w-52"
          :value="chosenUnit"
          @change="unit = ($event.target as HTMLSelectElement).value"
        >
          <option v-for="u in units" :key="u.id" :value="u.id">{{ u.name }}</option>
        </select>
      </label>
      <label class="flex flex-col gap-1">
        From <input v-model="from" class="field" type="datetime-local" required />
      </label>
      <label class="flex flex-col gap-1">
        Until <input v-model="until" class="field" type="datetime-local" required />
      </label>
      <button class="button" :disabled="busy || !email || !chosenUnit">Let them stand in</button>
    </form>
    <ProblemNote class="mt-2" :problem="problem" />
  </section>
</template>
