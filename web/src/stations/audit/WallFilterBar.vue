<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { computed } from 'vue'
import { useCatalogue, useOrganisation } from '@/api/catalogue'
import { api, take } from '@/api/client'
import { counted } from '@/shell/counted'

/** What the wall is narrowed to; all of it stands in the address. */
const props = defineProps<{
  audit: number
  query: (key: string) => string
  hasBaseline: boolean
}>()
const emit = defineEmits<{ set: [part: Record<string, string | undefined>] }>()
const { organisation } = useOrganisation()
const { checkTitle } = useCatalogue()
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
  <form
    class="flex shrink-0 flex-wrap items-center gap-x-2 gap-y-1.5 border-b border-line px-5 py-1.5"
    @submit.prevent
  >
    <select
      class="field max-w-28"
      aria-label="Together by"
      :value="query('group')"
      @change="emit('set', { group: value($event) })"
    >
      <option value="">by urgency</option>
      <option value="unit">by unit</option>
      <option value="host">by host</option>
      <option value="kind">by kind</option>
    </select>
    <select
      class="field max-w-40"
      aria-label="Check"
      :value="check"
      @change="setCheck(($event.target as HTMLSelectElement).value)"
    >
      <option value="">every check</option>
      <option
        v-for="c in checks ?? []"
        :key="`${c.check}|${c.subject}`"
        :value="`${c.check}|${c.subject}`"
      >
        {{ checkTitle(c.check) }}{{ c.about ? `: ${c.about}` : '' }} ·
        {{ counted(c.meetings, 'meeting') }}
      </option>
    </select>
    <select
      class="field max-w-32"
      aria-label="Unit"
      :value="query('unit')"
      @change="emit('set', { unit: value($event) })"
    >
      <option value="">every unit</option>
      <option v-for="u in organisation?.units ?? []" :key="u.id" :value="u.id">{{ u.name }}</option>
    </select>
    <select
      class="field max-w-32"
      aria-label="Severity"
      :value="query('severity')"
      @change="emit('set', { severity: value($event) })"
    >
      <option value="">any severity</option>
      <option value="5">grave</option>
      <option value="4">serious and worse</option>
      <option value="3">moderate and worse</option>
    </select>
    <select
      class="field max-w-36"
      aria-label="Shown"
      :value="query('show')"
      @change="emit('set', { show: value($event) })"
    >
      <option value="">with open findings</option>
      <option value="waived">with waived findings</option>
      <option value="all">every meeting</option>
    </select>
    <select
      v-if="hasBaseline"
      class="field"
      aria-label="Against the baseline"
      :value="query('baseline')"
      @change="emit('set', { baseline: value($event) })"
    >
      <option value="">old and new</option>
      <option value="new">new since the baseline</option>
      <option value="old">in the baseline</option>
    </select>
    <input
      class="field w-28"
      type="search"
      placeholder="Title or host"
      aria-label="Title or host"
      :value="query('text')"
      @input="emit('set', { text: ($event.target as HTMLInputElement).value || undefined })"
    />
  </form>
</template>
