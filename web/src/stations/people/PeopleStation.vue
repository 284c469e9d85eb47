<script setup lang="ts">
import { t } from '@/wording'
import { term } from '@/shell/terms'
import { useQuery } from '@pinia/colada'
import { computed } from 'vue'
import { useRouter } from 'vue-router'
import { useOrganisation } from '@/api/catalogue'
import { api, take } from '@/api/client'
import type { PeoplePage } from '@/api/schema'
import { useSession } from '@/api/session'
import { useAddress } from '@/shell/address'
import FilterBar from '@/shell/FilterBar.vue'
import FilterChoice from '@/shell/FilterChoice.vue'
import ListFoot from '@/shell/ListFoot.vue'
import type { RowAct } from '@/shell/rowActs'
import RowMenu from '@/shell/RowMenu.vue'
import { useRows } from '@/shell/rows'
import StatePanel from '@/shell/StatePanel.vue'
import PeopleNav from './PeopleNav.vue'
import PersonDialog from './PersonDialog.vue'

/** Everybody in the directory: members and guests. */
const router = useRouter()
const session = useSession()
const { organisation, unitName } = useOrganisation()
const { query, set: setQuery, clear, page } = useAddress()
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
const items = computed(() => data.value?.items ?? [])
const pages = computed(() => Math.ceil((data.value?.total ?? 0) / size))
const turn = (to: number) => setQuery({ page: String(to) })
const at = (email: string) => `/people/${encodeURIComponent(email)}`
const open = (email: string) => router.push(at(email))
const { cursor, look } = useRows({
  name: 'person',
  rows: () => items.value,
  open: (person) => open(person.email),
  pages: { at: () => page.value, count: () => pages.value, turn },
})
function acts(email: string): RowAct[] {
  return [
    { name: t('people.open2'), to: at(email) },
    { name: t('people.meetingsTheyHost'), to: { path: '/register', query: { host: email } } },
    {
      name: t('people.whatTheyDid'),
      to: { path: '/ledger', query: { who: email } },
    },
    {
      name: t('people.whatWasChangedOfThem'),
      to: { path: '/ledger', query: { object: 'person', objectId: email } },
    },
  ]
}
</script>

<template>
  <div class="flex h-full flex-col">
    <PeopleNav />
    <FilterBar :words="t('people.nameOrAddress')">
      <FilterChoice
        name="unit"
        :label="t('people.unit')"
        :all="t('people.everyUnit')"
        :choices="organisation?.units ?? []"
      />
      <FilterChoice
        name="standing"
        :label="t('people.standing')"
        :all="t('people.membersAndGuests')"
        :choices="[
          { id: 'member', name: t('people.members') },
          { id: 'guest', name: t('people.guests') },
        ]"
      />
      <label class="flex items-center gap-1.5">
        <input
          type="checkbox"
          :checked="query('gone') === '1'"
          @change="setQuery({ gone: query('gone') === '1' ? undefined : '1' })"
        />
        {{ t('people.noLongerActive') }}
      </label>
      <template v-if="session.isWarden" #acts>
        <RouterLink class="link" to="/register?import=1">{{
          t('people.bringInPeople')
        }}</RouterLink>
        <button type="button" class="button" @click="setQuery({ add: '1' })">
          {{ t('people.addSomebody') }}
        </button>
      </template>
    </FilterBar>
    <StatePanel v-if="error" state="failed" :problem="error" @retry="refetch()" />
    <StatePanel v-else-if="!data" state="loading" />
    <StatePanel v-else-if="!items.length" state="empty" :title="t('people.nobodyIsLikeThat')">
      <button class="link" @click="clear()">
        {{ t('shell.showAllAgain') }}
      </button>
    </StatePanel>
    <div v-else class="min-h-0 flex-1 overflow-auto">
      <table class="grid-lines stack">
        <thead>
          <tr>
            <th class="!pl-5">{{ t('people.name2') }}</th>
            <th>{{ t('people.address2') }}</th>
            <th>{{ t('people.standing') }}</th>
            <th>{{ t('people.unit') }}</th>
            <th>{{ t('people.zone') }}</th>
            <th>{{ t('people.state') }}</th>
            <th scope="col">
              <span class="hidden-label">{{ t('shell.acts') }}</span>
            </th>
          </tr>
        </thead>
        <tbody>
          <tr
            v-for="(p, i) in items"
            :id="`person-${i}`"
            :key="p.email"
            class="cursor-pointer"
            :class="look(i)"
            @click="open(p.email)"
          >
            <td class="!pl-5">
              <RouterLink
                class="head"
                :to="`/people/${encodeURIComponent(p.email)}`"
                @click.stop
                @focus="cursor = i"
                >{{ p.name }}</RouterLink
              >
            </td>
            <td class="value">{{ p.email }}</td>
            <td>{{ term(p.standing) }}</td>
            <td class="text-soft">{{ unitName(p.unit) }}</td>
            <td class="value text-soft">{{ p.zone ?? '' }}</td>
            <td :class="p.active ? 'text-soft' : 'text-sand'">
              {{ p.active ? '' : t('people.noLongerActive') }}
            </td>
            <td class="!pr-5 text-right"><RowMenu :of="p.name" :acts="acts(p.email)" /></td>
          </tr>
        </tbody>
      </table>
    </div>
    <ListFoot
      v-if="data"
      :count="t('people.totalPeople', { total: data.total })"
      :page="page"
      :pages="pages"
      opens
      @turn="turn"
    />
    <PersonDialog
      :open="query('add') === '1'"
      :person="null"
      @close="setQuery({ add: undefined })"
      @saved="open($event)"
    />
  </div>
</template>
