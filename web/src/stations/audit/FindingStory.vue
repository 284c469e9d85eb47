<script setup lang="ts">
import { t } from '@/wording'
import { label, layerName, useCatalogue, useOrganisation } from '@/api/catalogue'
import type { FindingView } from '@/api/schema'
import GateMark from '@/marks/GateMark.vue'
import TallyMark from '@/marks/TallyMark.vue'
import { day } from '@/shell/times'
import TrailPath from './TrailPath.vue'

/** One finding: what could happen, what was found, what is allowed, which layer says so and why. */
defineProps<{ finding: FindingView; edition: number; seen: string | null }>()
const { catalogue, controls, controlTitle, checkTitle } = useCatalogue()
const { unitName, kindName } = useOrganisation()
const check = (id: string) => catalogue.value?.checks.find((c) => c.id === id)
const phrase = (list: { id: string; phrase: string }[] | undefined, id?: string | null) =>
  list?.find((n) => n.id === id)?.phrase ?? id
function source(layer: string): string {
  const [level = '', id] = layer.split(':')
  return layerName(
    { level, ...(id ? { id } : {}) },
    (i) => unitName(i),
    (i) => kindName(i),
  )
}
</script>

<template>
  <article>
    <h2 class="text-[16px] font-bold leading-snug">{{ finding.text }}</h2>
    <p class="mt-1 flex flex-wrap items-center gap-x-2">
      <TallyMark :severity="finding.severity" word />
      <RouterLink class="link" :to="`/help/checks#${finding.check}`">{{
        checkTitle(finding.check)
      }}</RouterLink>
      <span v-if="finding.occurrence" class="value text-soft">{{
        t('audit.onOccurrence', { occurrence: finding.occurrence })
      }}</span>
      <span v-if="seen" class="text-soft">{{ t('audit.sinceSeen', { seen: day(seen) }) }}</span>
    </p>
    <dl class="mt-2 grid grid-cols-[5.5rem_1fr] gap-y-0.5">
      <template v-if="finding.control">
        <dt class="text-soft">{{ t('audit.found') }}</dt>
        <dd class="value">
          <strong>{{ controlTitle(finding.control) }}</strong>
          {{ label(controls.get(finding.control), finding.value) }}
        </dd>
        <dt class="text-soft">{{ t('audit.allowed') }}</dt>
        <dd class="value">{{ label(controls.get(finding.control), finding.allowed) }}</dd>
      </template>
      <template v-else-if="finding.guarantee">
        <dt class="text-soft">{{ t('audit.found') }}</dt>
        <dd class="flex items-center gap-1">
          {{ phrase(catalogue?.rights, finding.right) }}
          <GateMark :level="finding.level ?? ''" word />
        </dd>
        <dt class="text-soft">{{ t('audit.allowed') }}</dt>
        <dd><GateMark :level="String(finding.allowed ?? '')" word /></dd>
      </template>
      <template v-if="finding.defeatedBy?.length">
        <dt class="text-soft">{{ t('audit.becauseOf') }}</dt>
        <dd class="value">{{ finding.defeatedBy.map(controlTitle).join(', ') }}</dd>
      </template>
      <template v-if="finding.layer">
        <dt class="text-soft">{{ t('audit.because') }}</dt>
        <dd>
          {{ t('audit.layerLayerEditionEdition', { layer: source(finding.layer), edition })
          }}<template v-if="finding.reason">: “{{ finding.reason }}”</template>
        </dd>
      </template>
    </dl>
    <p v-if="finding.trace && finding.trace.length > 1" class="mt-1 text-[12.5px] text-soft">
      {{ finding.trace.join(' ') }}
    </p>
    <template v-if="finding.trail?.length">
      <h3 class="head mb-2 mt-3">{{ t('audit.howItWouldGo') }}</h3>
      <TrailPath :trail="finding.trail" />
    </template>
    <p class="mt-2 text-[12.5px] text-soft">{{ check(finding.check)?.mend }}</p>
  </article>
</template>
