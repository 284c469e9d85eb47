<script setup lang="ts">
import { t } from '@/wording'
import { counted } from '@/shell/counted'
import { useQuery } from '@pinia/colada'
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, take } from '@/api/client'
import { useSession } from '@/api/session'
import StatePanel from '@/shell/StatePanel.vue'
import { useKeys } from '@/shell/keys'
import ComparisonTable from './ComparisonTable.vue'
import { useLayerTitle } from './layers'

/** Any two editions or drafts beside each other. */
const route = useRoute()
const router = useRouter()
const session = useSession()
const layerTitle = useLayerTitle()

const { data: editions } = useQuery({
  key: ['rulebook', 'editions'],
  query: () => take(api.GET('/api/rulebook/editions')),
})
const { data: drafts } = useQuery({
  key: ['drafts'],
  query: () => take(api.GET('/api/rulebook/drafts')),
  enabled: () => session.mayDraft,
})
const sources = computed(() => [
  ...(drafts.value ?? []).map((d) => ({
    id: `draft:${d.id}`,
    name: t('rulebook.draftName', { name: d.name }),
  })),
  { id: 'in-force', name: t('rulebook.theEditionInForce') },
  ...(editions.value ?? []).map((e) => ({
    id: `edition:${e.number}`,
    name: t('rulebook.editionNumber', { number: e.number }),
  })),
  { id: 'starter', name: t('rulebook.starterRulebook') },
])
const newest = computed(() => editions.value?.[0]?.number ?? 0)
const from = computed(() => String(route.query.from ?? `edition:${Math.max(newest.value - 1, 0)}`))
const to = computed(() => String(route.query.to ?? 'in-force'))
const { data, error, isLoading, refetch } = useQuery({
  key: () => ['comparison', from.value, to.value],
  query: () =>
    take(
      api.GET('/api/rulebook/comparison', {
        params: { query: { from: from.value, to: to.value } },
      }),
    ),
  enabled: () => !!editions.value,
})
function choose(part: Record<string, string>) {
  router.replace({ query: { from: from.value, to: to.value, ...part } })
}
const count = computed(() => (data.value?.rules.length ?? 0) + (data.value?.guarantees.length ?? 0))
useKeys([
  {
    key: 'x',
    does: t('rulebook.swapTheTwo'),
    act: () => choose({ from: to.value, to: from.value }),
  },
])
</script>

<template>
  <div class="flex h-full flex-col">
    <div
      class="flex min-h-11 shrink-0 flex-wrap items-center gap-x-3 gap-y-1 border-b border-line px-5 py-1"
    >
      <h1 class="head">{{ t('rulebook.compare') }}</h1>
      <select
        class="field min-w-0 max-w-full"
        :aria-label="t('rulebook.from')"
        :value="from"
        @change="choose({ from: ($event.target as HTMLSelectElement).value })"
      >
        <option v-for="s in sources" :key="s.id" :value="s.id">{{ s.name }}</option>
      </select>
      <span class="text-soft">{{ t('rulebook.with') }}</span>
      <select
        class="field min-w-0 max-w-full"
        :aria-label="t('rulebook.to')"
        :value="to"
        @change="choose({ to: ($event.target as HTMLSelectElement).value })"
      >
        <option v-for="s in sources" :key="s.id" :value="s.id">{{ s.name }}</option>
      </select>
      <button class="link" @click="choose({ from: to, to: from })">{{ t('rulebook.swap') }}</button>
      <span v-if="data" class="text-soft" role="status">{{ counted(count, 'difference') }}</span>
      <RouterLink class="link ml-auto" to="/rulebook/editions">{{
        t('rulebook.allEditions')
      }}</RouterLink>
      <RouterLink class="link" to="/rulebook">{{ t('rulebook.backToTheLadders') }}</RouterLink>
    </div>
    <StatePanel v-if="error" state="failed" :problem="error" @retry="refetch()" />
    <StatePanel v-else-if="isLoading || !data" state="loading" />
    <div v-else class="min-h-0 flex-1 overflow-auto px-5 pb-5">
      <ComparisonTable :comparison="data" :layer-title="layerTitle" />
    </div>
  </div>
</template>
