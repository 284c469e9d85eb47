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
  ['meeting', 'meeting'],
  ['occurrence', t('house.singleDate')],
  ['session', t('house.runningSession')],
]
const rows = computed(() =>
  (catalogue.value?.controls ?? []).map((c) => {
    const of = props.means[c.id] as Means | undefined
    return {
      control: c,
      of,
      values:
        of?.values?.map((v) => label(controls.value.get(c.id), v)).join(', ') ?? t('house.all'),
      where: places.filter(([id]) => of?.write.includes(id)).map(([, words]) => words),
    }
  }),
)
const missing = computed(() => rows.value.filter((r) => !r.of))
const poor = computed(() => rows.value.filter((r) => r.of?.values))
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
  <table v-if="poor.length" class="grid-lines stack mt-2">
    <thead>
      <tr>
        <th scope="col">{{ t('house.control') }}</th>
        <th scope="col">{{ t('house.valuesItHas') }}</th>
        <th scope="col">{{ t('house.insteadOfWhatItHasNot') }}</th>
        <th scope="col">{{ t('house.takenFromUs') }}</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="r in poor" :key="r.control.id">
        <td>{{ r.control.title }}</td>
        <td>{{ r.values }}</td>
        <td>
          <span v-for="(to, from) in r.of?.instead" :key="from" class="mr-3 whitespace-nowrap">
            {{
              label(controls.get(r.control.id), /^\d+$/.test(String(from)) ? Number(from) : from)
            }}
            → {{ label(controls.get(r.control.id), to) }}
          </span>
        </td>
        <td>{{ r.where.join(', ') }}</td>
      </tr>
    </tbody>
  </table>
</template>
