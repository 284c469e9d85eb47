<script setup lang="ts">
import { t } from '@/wording'
import { computed, ref } from 'vue'
import { label, optionsOf, useCatalogue, type Plain } from '@/api/catalogue'
import { within } from '@/api/within'

/** The controls that one date of a series has of its own, beside the series' values. */
const props = defineProps<{
  /** What the date has of its own. */
  own: Record<string, Plain>
  series: Record<string, unknown>
  /** Control → the loosest value that the rulebook allows, where it says one. */
  limits: Record<string, unknown>
}>()
const emit = defineEmits<{ set: [control: string, value: Plain | null] }>()
const { catalogue, controls } = useCatalogue()
const ofSeries = (id: string) => props.series[id] as Plain | undefined
const most = (id: string) => (props.limits[id] ?? undefined) as Plain | undefined
const chosen = ref('')
const rows = computed(() =>
  Object.entries(props.own).flatMap(([id, value]) => {
    const control = controls.value.get(id)
    return control ? [{ control, value }] : []
  }),
)
const others = computed(() =>
  (catalogue.value?.controls ?? []).filter(
    (c) => c.scale !== 'sets' && c.family !== 'passcode' && props.own[c.id] === undefined,
  ),
)
const options = (id: string, value: Plain) => {
  const control = controls.value.get(id)
  return control ? optionsOf(control, [value, ofSeries(id), most(id)]) : []
}
const hint = (id: string, value: Plain) => {
  const control = controls.value.get(id)
  const limit = most(id)
  return control && limit !== undefined && !within(control, value, limit)
    ? t('register.tooLoose')
    : ''
}
function add() {
  const control = controls.value.get(chosen.value)
  const first = control && (ofSeries(control.id) ?? optionsOf(control, [])[0]?.value)
  if (control && first !== undefined) emit('set', control.id, first)
  chosen.value = ''
}
function set(id: string, text: string) {
  const option = options(id, text).find((o) => String(o.value) === text)
  if (option) emit('set', id, option.value)
}
</script>

<template>
  <table v-if="rows.length" class="grid-lines mt-3 w-full">
    <thead>
      <tr>
        <th scope="col">{{ t('register.control') }}</th>
        <th scope="col">{{ t('register.thisDate') }}</th>
        <th scope="col">{{ t('register.series') }}</th>
        <th scope="col">
          <span class="hidden-label">{{ t('register.takeItAway') }}</span>
        </th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="o in rows" :key="o.control.id">
        <td :title="o.control.effect">{{ o.control.title }}</td>
        <td>
          <select
            class="field value w-44"
            :aria-label="t('register.titleThisDate', { title: o.control.title })"
            :value="String(o.value)"
            @change="set(o.control.id, ($event.target as HTMLSelectElement).value)"
          >
            <option
              v-for="c in options(o.control.id, o.value)"
              :key="String(c.value)"
              :value="String(c.value)"
            >
              {{ c.label }}{{ hint(o.control.id, c.value) }}
            </option>
          </select>
        </td>
        <td class="value text-soft">{{ label(o.control, ofSeries(o.control.id)) }}</td>
        <td>
          <button type="button" class="link" @click="emit('set', o.control.id, null)">
            {{ t('register.asTheSeries') }}
          </button>
        </td>
      </tr>
    </tbody>
  </table>
  <p v-else class="mt-3 text-soft">{{ t('register.itHasNothingOfItsOwn') }}</p>
  <label class="mt-3 flex items-center gap-2"
    >{{ t('register.anotherControl') }}
    <select v-model="chosen" class="field min-w-0 flex-1" @change="add">
      <option value="">{{ t('register.chooseOne') }}</option>
      <option v-for="c in others" :key="c.id" :value="c.id">{{ c.title }}</option>
    </select>
  </label>
</template>
