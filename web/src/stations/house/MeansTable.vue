<script setup lang="ts">
import { t } from '@/wording'
import { computed } from 'vue'
import { label, useCatalogue, type Plain } from '@/api/catalogue'

/** What a conference service can hold, control by control. */
const props = defineProps<{ means: Record<string, unknown> }>()
const { catalogue, controls } = useCatalogue()
interface Means {
  values?: Plain[]
  instead: Record<string, Plain>
  read: string[]
  write: string[]
}
const places: [string, string][] = [
  ['default', t('house.accountDefault')],
  ['lock', t('house.accountLock')],
  ['meeting', t('house.eachMeeting')],
  ['occurrence', t('house.singleDate')],
  ['session', t('house.runningSession')],
]
/** By what is held in their place: five numbers that all become one stand together. */
function insteadOf(id: string, instead: Record<string, Plain>) {
  const control = controls.value.get(id)
  const by = new Map<string, string[]>()
  for (const [from, to] of Object.entries(instead)) {
    const words = label(control, /^\d+$/.test(from) ? Number(from) : from)
    by.set(label(control, to), [...(by.get(label(control, to)) ?? []), words])
  }
  return [...by].map(([to, from]) => `${from.join(', ')} → ${to}`).join('; ')
}
const rows = computed(() =>
  (catalogue.value?.controls ?? []).map((c) => {
    const of = props.means[c.id] as Means | undefined
    return {
      control: c,
      of,
      values:
        of?.values?.map((v) => label(controls.value.get(c.id), v)).join(', ') ?? t('house.all'),
      instead: insteadOf(c.id, of?.instead ?? {}),
      where: places
        .filter(([id]) => of?.write.includes(id))
        .map(([, words]) => words)
        .join(', '),
    }
  }),
)
const missing = computed(() => rows.value.filter((r) => !r.of))
const poor = computed(() => rows.value.filter((r) => r.of?.values))
/** Where all are taken alike, it is said once. */
const takenAlike = computed(() => new Set(poor.value.map((r) => r.where)).size === 1)
const rich = computed(() => rows.value.filter((r) => r.of && !r.of.values))
</script>

<template>
  <p>
    <strong>{{ rich.length }}</strong>
    {{ t('house.ofRowsControlsWithAllTheirValues', { rows: rows.length }) }}
    <template v-if="missing.length">
      {{ t('house.notAtAllJoin', { join: missing.map((r) => r.control.title).join(', ') }) }}
    </template>
  </p>
  <p v-if="poor.length && takenAlike" class="text-soft">
    {{ t('house.takenFromUsWhere', { where: poor[0]?.where }) }}
  </p>
  <table v-if="poor.length" class="grid-lines stack mt-2">
    <thead>
      <tr>
        <th scope="col">{{ t('house.control') }}</th>
        <th scope="col">{{ t('house.valuesItHas') }}</th>
        <th scope="col">{{ t('house.insteadOfWhatItHasNot') }}</th>
        <th v-if="!takenAlike" scope="col">{{ t('house.takenFromUs') }}</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="r in poor" :key="r.control.id">
        <td>{{ r.control.title }}</td>
        <td>{{ r.values }}</td>
        <td>{{ r.instead }}</td>
        <td v-if="!takenAlike">{{ r.where }}</td>
      </tr>
    </tbody>
  </table>
</template>
