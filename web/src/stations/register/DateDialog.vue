<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { label, optionsOf, useCatalogue, type Plain } from '@/api/catalogue'
import { api, take } from '@/api/client'
import type { Coming, MeetingView } from '@/api/schema'
import { within } from '@/api/within'
import { useAct } from '@/shell/act'
import ProblemNote from '@/shell/ProblemNote.vue'
import ModalSheet from '@/shell/ModalSheet.vue'
import { fullTime } from '@/shell/times'

/** What one date of a series has of its own, beside what the series has. */
const props = defineProps<{ meeting: MeetingView; date: Coming | null }>()
const emit = defineEmits<{ close: []; changed: [meeting: MeetingView] }>()
const { catalogue, controls } = useCatalogue()
const wanted = ref<Record<string, Plain | null>>({})
const chosen = ref('')
const { busy, problem, attempt } = useAct()
watch(
  () => props.date?.at,
  () => {
    wanted.value = {}
    chosen.value = ''
    problem.value = null
  },
)
/** What it has of its own once this is saved. */
const own = computed(() => {
  const all = { ...(props.date?.controls ?? {}), ...wanted.value } as Record<string, Plain | null>
  return Object.entries(all).flatMap(([id, value]) => {
    const control = controls.value.get(id)
    return control && value !== null ? [{ control, value }] : []
  })
})
const others = computed(() =>
  (catalogue.value?.controls ?? []).filter(
    (c) => c.scale !== 'sets' && c.family !== 'passcode' && !own.value.some((o) => o.control === c),
  ),
)
const series = (id: string) => props.meeting.controls[id] as Plain | undefined
const limit = (id: string) => props.meeting.assessment.resolved?.[id]?.limit as Plain | undefined
const options = (id: string, value: Plain) => {
  const control = controls.value.get(id)
  return control ? optionsOf(control, [value, series(id), limit(id)]) : []
}
const hint = (id: string, value: Plain) => {
  const control = controls.value.get(id)
  const most = limit(id)
  return control && most !== undefined && most !== null && !within(control, value, most)
    ? ' (too loose)'
    : ''
}
function add() {
  const control = controls.value.get(chosen.value)
  if (!control) return
  const first = series(control.id) ?? optionsOf(control, [])[0]?.value
  if (first !== undefined) wanted.value[control.id] = first
  chosen.value = ''
}
function set(id: string, text: string) {
  const option = options(id, text).find((o) => String(o.value) === text)
  if (option) wanted.value[id] = option.value
}
function asSeries(id: string) {
  const rest = Object.fromEntries(Object.entries(wanted.value).filter(([key]) => key !== id))
  wanted.value = props.date?.controls[id] === undefined ? rest : { ...rest, [id]: null }
}
async function save() {
  const date = props.date
  if (!date || busy.value) return
  await attempt(async () => {
    const after = await take(
      api.PATCH('/api/meetings/{id}/controls', {
        params: { path: { id: props.meeting.id } },
        body: { version: props.meeting.version, occurrence: date.at, controls: wanted.value },
      }),
    )
    emit('changed', after)
    emit('close')
  })
}
</script>

<template>
  <ModalSheet :open="date !== null" title="This date alone" @close="emit('close')">
    <p v-if="date">{{ fullTime(date.start) }}. What is not named here is as the series has it.</p>
    <table v-if="own.length" class="grid-lines mt-3 w-full">
      <thead>
        <tr>
          <th scope="col">Control</th>
          <th scope="col">This date</th>
          <th scope="col">Series</th>
          <th scope="col"><span class="hidden-label">Take it away</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="o in own" :key="o.control.id">
          <td :title="o.control.effect">{{ o.control.title }}</td>
          <td>
            <select
              class="field value w-44"
              :aria-label="`${o.control.title}, this date`"
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
          <td class="value text-soft">{{ label(o.control, series(o.control.id)) }}</td>
          <td>
            <button type="button" class="link" @click="asSeries(o.control.id)">
              As the series
            </button>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-else class="mt-3 text-soft">It has nothing of its own.</p>
    <label class="mt-3 flex items-center gap-2"
      >Another control
      <select v-model="chosen" class="field min-w-0 flex-1" @change="add">
        <option value="">choose one</option>
        <option v-for="c in others" :key="c.id" :value="c.id">{{ c.title }}</option>
      </select>
    </label>
    <ProblemNote class="mt-3" :problem="problem" />
    <div class="mt-4 flex items-center gap-3">
      <button
        class="button button-main"
        :disabled="busy || !Object.keys(wanted).length"
        @click="save"
      >
        Save this date
      </button>
      <button class="link" @click="emit('close')">Leave it</button>
    </div>
  </ModalSheet>
</template>
