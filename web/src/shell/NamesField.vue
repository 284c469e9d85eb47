<script setup lang="ts">
import { folded } from '@/api/folded'
import { t } from '@/wording'
import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions } from '@headlessui/vue'
import { computed, ref, useId } from 'vue'
import { membersOf, nameOf, readNames } from '@/api/names'
import type { ControlView } from '@/api/schema'

/**
 * A control's set of names, such as countries: picked by name from those there are. What is none of
 * them is refused here, and changes nothing.
 */
const props = defineProps<{
  control: ControlView
  value: string[] | undefined
  label: string
  id?: string
  invalid?: boolean
  describedBy?: string
}>()
const emit = defineEmits<{ change: [value: string[]] }>()

const text = ref('')
const wrong = ref('')
const own = useId()
const id = computed(() => props.id ?? own)
const chosen = computed(() => props.value ?? [])
const open = computed(() => {
  const wanted = folded(text.value.trim())
  return membersOf(props.control)
    .filter((m) => !chosen.value.includes(m.code))
    .filter((m) => folded(m.name).includes(wanted) || m.code.toLowerCase() === wanted)
    .slice(0, 12)
})
const hint = computed(() =>
  props.value === undefined
    ? t('shell.notSetAddOne')
    : chosen.value.length
      ? t('shell.add')
      : props.control.emptyIsAll
        ? t('shell.allAddOne')
        : t('shell.noneAddOne'),
)

function put(codes: string[]) {
  wrong.value = ''
  text.value = ''
  if (codes.some((code) => !chosen.value.includes(code))) {
    emit('change', [...new Set([...chosen.value, ...codes])].sort())
  }
}
function choose(code: string | null) {
  if (code) put([code])
}
function drop(code: string) {
  wrong.value = ''
  emit(
    'change',
    chosen.value.filter((c) => c !== code),
  )
}
/** Takes what was typed, whole or not at all. */
function take() {
  if (!text.value.trim()) {
    wrong.value = ''
    return
  }
  const { codes, unknown } = readNames(props.control, text.value)
  if (unknown.length) {
    wrong.value = props.control.universe
      ? t('shell.joinChooseFromTheListNothingWas', {
          join: unknown.map((u) => `“${u}”`).join(', '),
        })
      : t('shell.joinLettersDigitsAndOnly', { join: unknown.map((u) => `“${u}”`).join(', ') })
  } else {
    put(codes)
  }
}
function key(event: KeyboardEvent) {
  if (event.key === 'Backspace' && !text.value && chosen.value.length) {
    drop(chosen.value[chosen.value.length - 1] ?? '')
  }
  if (event.key === 'Enter' && text.value.trim() && !open.value.length) {
    event.preventDefault()
    take()
  }
}
</script>

<template>
  <div class="relative">
    <div class="flex flex-wrap items-center gap-1">
      <span v-for="code in chosen" :key="code" class="value border border-line px-1">
        {{ nameOf(control, code)
        }}<button
          type="button"
          class="ml-1 text-soft hover:text-rust"
          :aria-label="t('shell.takeOutControl', { control: nameOf(control, code) })"
          @click="drop(code)"
        >
          ×
        </button>
      </span>
      <Combobox :model-value="null" nullable @update:model-value="choose">
        <ComboboxInput
          :id="id"
          class="field value w-32 min-w-0 flex-1"
          :class="invalid || wrong ? 'border-rust' : ''"
          :aria-label="label"
          :aria-invalid="!!wrong || undefined"
          :aria-describedby="wrong ? `${id}-wrong` : describedBy"
          :placeholder="hint"
          autocomplete="off"
          :display-value="() => text"
          @change="text = ($event.target as HTMLInputElement).value"
          @keydown="key"
          @blur="take"
        />
        <ComboboxOptions
          v-if="text.trim() && open.length"
          class="absolute top-full left-0 z-30 mt-1 max-h-60 w-full min-w-56 overflow-auto border border-ink bg-sheet py-1 outline-none"
        >
          <ComboboxOption
            v-for="m in open"
            :key="m.code"
            v-slot="{ active }"
            :value="m.code"
            as="template"
          >
            <li class="cursor-pointer px-2 py-0.5" :class="active ? 'bg-sea-wash' : ''">
              {{ m.name }}
              <span v-if="m.name !== m.code" class="text-soft">{{ m.code }}</span>
            </li>
          </ComboboxOption>
        </ComboboxOptions>
      </Combobox>
    </div>
    <p v-if="wrong" :id="`${id}-wrong`" class="text-[12.5px] text-rust" role="alert">{{ wrong }}</p>
  </div>
</template>
