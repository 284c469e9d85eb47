<script setup lang="ts">
import { t } from '@/wording'
import { useQuery } from '@pinia/colada'
import { computed } from 'vue'
import { useCatalogue, useOrganisation } from '@/api/catalogue'
import { api, take } from '@/api/client'
import { counted } from '@/shell/counted'
import FilterBar from '@/shell/FilterBar.vue'

/** What the wall is narrowed to; all of it stands in the address. */
const props = defineProps<{
  audit: number
  query: (key: string) => string
  hasBaseline: boolean
}>()
const emit = defineEmits<{ set: [part: Record<string, string | undefined>] }>()
const { organisation } = useOrganisation()
const { checkTitle, controls } = useCatalogue()
const { data: checks } = useQuery({
  key: () => [props.audit ? 'audits' : 'standing', props.audit, 'checks'],
  query: () => take(api.GET('/api/audits/{id}/checks', { params: { path: { id: props.audit } } })),
})
const check = computed(() =>
  props.query('check') ? `${props.query('check')}|${props.query('subject')}` : '',
)
function setCheck(value: string) {
  const [id, subject] = value.split('|')
  emit('set', { check: id || undefined, subject: subject || undefined })
}
const value = (event: Event) => (event.target as HTMLSelectElement).value || undefined
</script>

<template>
  <FilterBar
    :words="t('audit.titleOrHost')"
    :days="t('audit.nextTime')"
    :change="(part) => emit('set', part)"
  >
    <select
      class="field max-w-28"
      :aria-label="t('audit.togetherBy')"
      :value="query('group')"
      @change="emit('set', { group: value($event) })"
    >
      <option value="">{{ t('audit.byUrgency') }}</option>
      <option value="unit">{{ t('audit.byUnit') }}</option>
      <option value="host">{{ t('audit.byHost') }}</option>
      <option value="kind">{{ t('audit.byKind') }}</option>
    </select>
    <select
      class="field max-w-40"
      :aria-label="t('audit.check')"
      :value="check"
      @change="setCheck(($event.target as HTMLSelectElement).value)"
    >
      <option value="">{{ t('audit.everyCheck') }}</option>
      <option
        v-for="c in checks ?? []"
        :key="`${c.check}|${c.subject}`"
        :value="`${c.check}|${c.subject}`"
      >
        {{ checkTitle(c.check)
        }}{{ c.about ? `: ${controls.get(c.subject)?.title ?? c.about}` : '' }} ·
        {{ counted(c.meetings, 'meeting') }}
      </option>
    </select>
    <select
      class="field max-w-32"
      :aria-label="t('audit.unit')"
      :value="query('unit')"
      @change="emit('set', { unit: value($event) })"
    >
      <option value="">{{ t('audit.everyUnit') }}</option>
      <option v-for="u in organisation?.units ?? []" :key="u.id" :value="u.id">{{ u.name }}</option>
    </select>
    <select
      class="field max-w-32"
      :aria-label="t('audit.severity')"
      :value="query('severity')"
      @change="emit('set', { severity: value($event) })"
    >
      <option value="">{{ t('audit.anySeverity') }}</option>
      <option value="5">{{ t('audit.grave') }}</option>
      <option value="4">{{ t('audit.seriousAndWorse') }}</option>
      <option value="3">{{ t('audit.moderateAndWorse') }}</option>
    </select>
    <select
      class="field max-w-44"
      :aria-label="t('audit.shown')"
      :value="query('show')"
      @change="emit('set', { show: value($event) })"
    >
      <option value="">{{ t('audit.withOpenFindings') }}</option>
      <option value="waived">{{ t('audit.withWaivedFindings') }}</option>
      <option value="all">{{ t('audit.everyMeeting') }}</option>
    </select>
    <select
      v-if="hasBaseline"
      class="field"
      :aria-label="t('audit.againstTheBaseline')"
      :value="query('baseline')"
      @change="emit('set', { baseline: value($event) })"
    >
      <option value="">{{ t('audit.oldAndNew') }}</option>
      <option value="new">{{ t('audit.newSinceTheBaseline') }}</option>
      <option value="old">{{ t('audit.inTheBaseline') }}</option>
    </select>
  </FilterBar>
</template>
