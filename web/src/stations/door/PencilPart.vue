<script setup lang="ts">
import { t } from '@/wording'
import { computed, nextTick, ref, watch } from 'vue'
import { label, optionsOf, useCatalogue, type Plain } from '@/api/catalogue'
import type { DoorView } from '@/api/schema'
import NamesField from '@/shell/NamesField.vue'
import WaterLine from '@/marks/WaterLine.vue'
import DoorChange from '@/stations/scheduling/DoorChange.vue'

/** Controls changed in pencil, and the difference they make. */
const props = defineProps<{
  view: DoorView
  pencil: Record<string, Plain>
  busy: boolean
}>()
const emit = defineEmits<{ set: [pencil: Record<string, Plain>]; save: [] }>()

const { catalogue, controls, controlTitle } = useCatalogue()
const adding = ref<HTMLInputElement | null>(null)
const entries = computed(() => Object.entries(props.pencil))
const choices = computed(() =>
  (catalogue.value?.controls ?? []).filter(
    (c) => (c.inMatrix || c.id === 'late-entry') && !(c.id in props.pencil),
  ),
)
const beyond = (id: string) => props.view.beyond.find((b) => b.control === id)
// the pencil is in the address: it stands here when that has changed
let awaited = ''
watch(
  () => entries.value.map(([id]) => id).join(),
  async () => {
    await nextTick()
    if (awaited) document.getElementById(`pencil-${awaited}`)?.focus()
    awaited = ''
  },
)
/** Begins with what the meeting has, so that adding a control changes nothing yet. */
function add(id: string) {
  const control = controls.value.get(id)
  if (!control || id in props.pencil) return
  const here = props.view.values[id] as Plain | undefined
  const first = optionsOf(control, [])[0]?.value
  emit('set', { ...props.pencil, [id]: here ?? first ?? [] })
  awaited = id
}
/** Takes what was typed: a title, or the beginning of one that is no other's. */
function named(field: HTMLInputElement) {
  const wanted = field.value.trim().toLowerCase()
  const all = choices.value.filter((c) => c.title.toLowerCase().startsWith(wanted))
  const exact = all.find((c) => c.title.toLowerCase() === wanted)
  const found = exact ?? (all.length === 1 ? all[0] : undefined)
  if (!found || !wanted) return
  field.value = ''
  add(found.id)
}
function choose(id: string, text: string) {
  const control = controls.value.get(id)
  if (!control) return
  const option = optionsOf(control, [props.view.values[id], props.pencil[id]]).find(
    (o) => String(o.value) === text,
  )
  if (option) emit('set', { ...props.pencil, [id]: option.value })
}
function drop(id: string) {
  emit('set', Object.fromEntries(entries.value.filter(([k]) => k !== id)))
}
defineExpose({ add, focus: () => adding.value?.focus() })
</script>

<template>
  <section class="mt-4" :aria-label="t('door.whatIf3')">
    <div class="flex items-baseline justify-between border-b border-line pb-1">
      <h2 class="head">{{ t('door.whatIf') }}</h2>
      <span class="flex items-center gap-1.5">
        <WaterLine :score="view.exposure.score" :band="view.exposure.band" />
        <template v-if="entries.length">
          → <WaterLine :score="view.exposureThen.score" :band="view.exposureThen.band" />
        </template>
      </span>
    </div>
    <ul>
      <li v-for="[id, value] in entries" :key="id" class="border-b border-hair py-1">
        <div class="value flex items-center justify-between gap-2">
          <span class="min-w-0 truncate" :title="controls.get(id)?.effect">
            <strong>{{ controlTitle(id) }}</strong>
            <span class="ml-1.5 text-soft">{{ label(controls.get(id), view.values[id]) }}</span> →
          </span>
          <span class="flex shrink-0 items-center gap-1.5">
            <NamesField
              v-if="controls.get(id)?.scale === 'sets'"
              :id="`pencil-${id}`"
              class="w-36"
              :control="controls.get(id)!"
              :value="value as string[]"
              :label="t('door.titleBecomes', { title: controls.get(id)?.title })"
              @change="(names) => emit('set', { ...props.pencil, [id]: names })"
            />
            <select
              v-else-if="controls.get(id)"
              :id="`pencil-${id}`"
              class="field max-w-36"
              :value="String(value)"
              :aria-label="t('door.titleBecomes', { title: controls.get(id)?.title })"
              @change="choose(id, ($event.target as HTMLSelectElement).value)"
            >
              <option
                v-for="o in optionsOf(controls.get(id)!, [view.values[id], value])"
                :key="String(o.value)"
                :value="String(o.value)"
              >
                {{ o.label }}
              </option>
            </select>
            <button
              class="link"
              :aria-label="t('door.leaveIdAsItIs', { id: controlTitle(id) })"
              @click="drop(id)"
            >
              {{ t('door.drop') }}
            </button>
          </span>
        </div>
        <p v-if="beyond(id)" class="text-rust">{{ beyond(id)?.words }}</p>
        <p v-else-if="view.allowed[id]" class="text-soft">
          {{ t('door.theRuleAllowed', { allowed: view.allowed[id] }) }}
        </p>
      </li>
    </ul>
    <div class="mt-1.5 flex">
      <input
        ref="adding"
        class="field min-w-0 flex-1"
        list="door-controls"
        :placeholder="t('door.changeAControl')"
        :aria-label="t('door.whatIfAControlWereChanged2')"
        @keydown.enter.prevent="named($event.target as HTMLInputElement)"
        @change="named($event.target as HTMLInputElement)"
      />
      <datalist id="door-controls">
        <option v-for="c in choices" :key="c.id" :value="c.title" />
      </datalist>
    </div>
    <div v-if="entries.length" class="mt-2 flex justify-end gap-2">
      <button v-if="entries.length" class="button" @click="emit('set', {})">
        {{ t('door.clear') }}
      </button>
      <button
        v-if="entries.length && view.meeting && view.mayChange"
        class="button-main"
        :disabled="busy"
        @click="emit('save')"
      >
        {{ t('door.putItInTheMeeting') }}
      </button>
    </div>
    <div v-if="entries.length" class="mt-3">
      <DoorChange :before="view.matrix" :after="view.then" />
    </div>
  </section>
</template>
