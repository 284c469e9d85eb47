<script setup lang="ts">
import { t } from '@/wording'
import { useQuery } from '@pinia/colada'
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useCatalogue, useOrganisation } from '@/api/catalogue'
import { api, take } from '@/api/client'
import StatePanel from '@/shell/StatePanel.vue'
import { day } from '@/shell/times'
import PartFrame from './PartFrame.vue'
import TrendChart from './TrendChart.vue'
import { bandSeries, familySeries, mendSeries, severitySeries } from './trends'

/** How findings, exposure and the time to mend have moved; the table behind each stands under it. */
const route = useRoute()
const router = useRouter()
const { organisation } = useOrganisation()
const { catalogue } = useCatalogue()
const unit = computed(() => String(route.query.unit ?? ''))
const {
  data: trend,
  error,
  refetch,
} = useQuery({
  key: () => ['audits', 'trends', unit.value],
  query: () =>
    take(
      api.GET('/api/audit-history/trends', {
        params: { query: unit.value ? { unit: unit.value } : {} },
      }),
    ),
})
const labels = computed(() => (trend.value?.points ?? []).map((p) => day(p.at)))
const charts = computed(() => {
  const seen = trend.value
  if (!seen) return []
  return [
    {
      title: t('audit.openFindingsBySeverity'),
      labels: labels.value,
      series: severitySeries(seen.points),
      stacked: true,
    },
    {
      title: t('audit.meetingsByBandOfExposure'),
      labels: labels.value,
      series: bandSeries(seen.points),
      stacked: true,
    },
    {
      title: t('audit.openFindingsByFamily'),
      labels: labels.value,
      series: familySeries(seen.points, catalogue.value?.families ?? []),
      stacked: false,
    },
    {
      title: t('audit.daysFromFoundToMendedTheWeekly'),
      labels: seen.mended.map((m) => day(m.week)),
      series: mendSeries(seen.mended),
      stacked: false,
    },
  ]
})
const tables = ref(false)
</script>

<template>
  <PartFrame :title="t('audit.trends')">
    <template #head>
      <select
        class="field"
        :aria-label="t('audit.unit')"
        :value="unit"
        @change="
          router.replace({
            query: { unit: ($event.target as HTMLSelectElement).value || undefined },
          })
        "
      >
        <option value="">{{ t('audit.theWholeOrganisation') }}</option>
        <option v-for="u in organisation?.units ?? []" :key="u.id" :value="u.id">
          {{ u.name }}
        </option>
      </select>
      <label class="flex items-center gap-1.5 text-soft"
        ><input v-model="tables" type="checkbox" /> {{ t('audit.asTables') }}</label
      >
    </template>
    <StatePanel v-if="error" state="failed" :problem="error" @retry="refetch()" />
    <StatePanel v-else-if="!trend" state="loading" />
    <StatePanel v-else-if="trend.points.length < 2" state="empty" :title="t('audit.noTrendYet')">
      {{ t('audit.aTrendNeedsTwoAuditsThatCame') }}
    </StatePanel>
    <div v-else class="grid grid-cols-2 gap-x-8 narrow:grid-cols-[minmax(0,1fr)] gap-y-4 px-5 py-4">
      <TrendChart v-for="c in charts" :key="c.title" v-bind="c" :as-table="tables" />
    </div>
  </PartFrame>
</template>
