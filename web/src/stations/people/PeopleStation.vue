<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useOrganisation } from '@/api/catalogue'
import { api, take } from '@/api/client'
import type { PeoplePage } from '@/api/schema'
import { useSession } from '@/api/session'
import { useKeys } from '@/shell/keys'
import StatePanel from '@/shell/StatePanel.vue'
import PeopleNav from './PeopleNav.vue'
import PersonDialog from './PersonDialog.vue'

/** Everybody in the directory: members and guests. */
const route = useRoute()
const router = useRouter()
const session = useSession()
const { organisation, unitName } = useOrganisation()
const query = (key: string) => String(route.query[key] ?? '')
const setQuery = (part: Record<string, string | undefined>) =>
  router.replace({ query: { ...route.query, page: undefined, ...part } })
const page = computed(() => Number(query('page') || 0))
const size = 200
const { data, error, refetch } = useQuery({
  key: () => [
    'people',
    query('text'),
    query('unit'),
    query('standing'),
    query('gone'),
    String(page.value),
  ],
  query: () =>
    take(
      api.GET('/api/people', {
        params: {
          query: {
            text: query('text'),
            unit: query('unit'),
            standing: query('standing'),
            gone: query('gone') === '1',
            page: page.value,
            size,
          },
        },
      }),
    ),
  placeholderData: (before: PeoplePage | undefined) => before,
})
const row = ref(0)
const items = computed(() => data.value?.items ?? [])
watch(row, (r) => document.getElementById(`person-${r}`)?.querySelector('a')?.focus())
const open = (email: string) => router.push(`/people/${encodeURIComponent(email)}`)
useKeys([
  {
    key: 'j',
    does: 'next',
    act: () => (row.value = Math.min(row.value + 1, items.value.length - 1)),
  },
  { key: 'k', does: 'previous', act: () => (row.value = Math.max(row.value - 1, 0)) },
  {
    key: 'Enter',
    does: 'open',
    act: () => {
      const at = items.value[row.value]
      if (at) open(at.email)
    },
  },
])
</script>

<template>
  <div class="flex h-full flex-col">
    <PeopleNav />
    <form
      class="flex shrink-0 flex-wrap items-center gap-3 border-b border-line px-5 py-2"
      @submit.prevent
    >
      <input
        class="field w-56"
        type="search"
        placeholder="Name or address"
        aria-label="Name or address"
        :value="query('text')"
        @input="setQuery({ text: ($event.target as HTMLInputElement).value || undefined })"
      />
      <select
        class="field"
        aria-label="Unit"
        :value="query('unit')"
        @change="setQuery({ unit: ($event.target as HTMLSelectElement).value || undefined })"
      >
        <option value="">every unit</option>
        <option v-for="u in organisation?.units ?? []" :key="u.id" :value="u.id">
          {{ u.name }}
        </option>
      </select>
      <select
        class="field"
        aria-label="Standing"
        :value="query('standing')"
        @change="setQuery({ standing: ($event.target as HTMLSelectElement).value || undefined })"
      >
        <option value="">members and guests</option>
        <option value="member">members</option>
        <option value="guest">guests</option>
      </select>
      <label class="flex items-center gap-1.5">
        <input
          type="checkbox"
          :checked="query('gone') === '1'"
          @change="setQuery({ gone: query('gone') === '1' ? undefined : '1' })"
        />
        no longer active
      </label>
      <span class="ml-auto text-soft" role="status">{{ data ? `${data.total} people` : '' }}</span>
      <template v-if="session.isWarden">
        <RouterLink class="link" to="/register?import=1">Bring in people</RouterLink>
        <button type="button" class="button" @click="setQuery({ add: '1' })">Add somebody</button>
      </template>
    </form>
    <StatePanel v-if="error" state="failed" :problem="error" @retry="refetch()" />
    <StatePanel v-else-if="!data" state="loading" />
    <StatePanel v-else-if="!items.length" state="empty" title="Nobody is like that">
      <button class="link" @click="router.replace({ query: {} })">Show everybody</button>
    </StatePanel>
    <div v-else class="min-h-0 flex-1 overflow-auto">
      <table class="grid-lines stack">
        <thead>
          <tr>
            <th class="!pl-5">Name</th>
            <th>Address</th>
            <th>Standing</th>
            <th>Unit</th>
            <th>Zone</th>
            <th>State</th>
          </tr>
        </thead>
        <tbody>
          <tr
            v-for="(p, i) in items"
            :id="`person-${i}`"
            :key="p.email"
            class="cursor-pointer"
            :class="
              i === row
                ? 'bg-sheet outline outline-1 -outline-offset-1 outline-ink'
                : 'hover:bg-sheet'
            "
            @click="open(p.email)"
          >
            <td class="!pl-5">
              <RouterLink
                class="head"
                :to="`/people/${encodeURIComponent(p.email)}`"
                @click.stop
                @focus="row = i"
                >{{ p.name }}</RouterLink
              >
            </td>
            <td class="value">{{ p.email }}</td>
            <td>{{ p.standing }}</td>
            <td class="text-soft">{{ unitName(p.unit) }}</td>
            <td class="value text-soft">{{ p.zone ?? '' }}</td>
            <td :class="p.active ? 'text-soft' : 'text-sand'">
              {{ p.active ? '' : 'no longer active' }}
            </td>
          </tr>
        </tbody>
      </table>
      <div v-if="data.total > size" class="flex items-center gap-3 px-5 py-3">
        <button class="button" :disabled="!page" @click="setQuery({ page: String(page - 1) })">
          Earlier
        </button>
        <span class="value"
          >{{ page * size + 1 }}–{{ Math.min((page + 1) * size, data.total) }}</span
        >
        <button
          class="button"
          :disabled="(page + 1) * size >= data.total"
          @click="setQuery({ page: String(page + 1) })"
        >
          Later
        </button>
      </div>
    </div>
    <PersonDialog
      :open="query('add') === '1'"
      :person="null"
      @close="setQuery({ add: undefined })"
      @saved="open($event)"
    />
  </div>
</template>
