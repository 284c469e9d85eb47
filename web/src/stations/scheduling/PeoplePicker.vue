<script setup lang="ts">
import { folded } from '@/api/folded'
import { t } from '@/wording'
import { term } from '@/shell/terms'
import {
  Combobox,
  ComboboxButton,
  ComboboxInput,
  ComboboxOption,
  ComboboxOptions,
} from '@headlessui/vue'
import { useQuery } from '@pinia/colada'
import { computed, ref } from 'vue'
import { api, take } from '@/api/client'

interface Group {
  /** `list:night-crew` */
  key: string
  name: string
  detail: string
}

/** Finds people by name or address; an address that is in no directory can be typed whole. */
const props = defineProps<{
  label: string
  placeholder?: string
  taken?: string[]
  many?: boolean
  /** What else can be chosen by its name: lists, spaces, rooms. */
  groups?: Group[]
}>()
const emit = defineEmits<{
  choose: [email: string]
  /** Several at once, pasted or typed with commas between them. */
  several: [emails: string[]]
  /** Something else than somebody, by its key. */
  group: [key: string]
}>()

const text = ref('')
const { data, isLoading } = useQuery({
  key: () => ['people', 'search', text.value],
  query: () =>
    take(
      api.GET('/api/people', {
        params: { query: { text: text.value.trim(), size: 8, best: true } },
      }),
    ),
  enabled: () => text.value.trim().length > 0,
})
const typed = computed(() => text.value.trim())
const isAddress = computed(() => /^[^@\s<>"]{1,64}@[^@\s<>"]{1,189}$/.test(typed.value))
const found = computed(() =>
  (typed.value ? (data.value?.items ?? []) : []).filter((p) => !props.taken?.includes(p.email)),
)
const fresh = computed(
  () =>
    isAddress.value &&
    !found.value.some((p) => p.email.toLowerCase() === typed.value.toLowerCase()) &&
    !props.taken?.includes(typed.value),
)

const MAX_GROUPS = 8
const allGroups = computed(() => {
  const wanted = folded(typed.value)
  const found = (props.groups ?? []).filter((g) => folded(g.name).includes(wanted))
  // what begins with what was typed comes first
  const begins = (g: Group) => (folded(g.name).startsWith(wanted) ? 0 : 1)
  return found.sort((a, b) => begins(a) - begins(b))
})
const foundGroups = computed(() => allGroups.value.slice(0, MAX_GROUPS))
const isEmpty = computed(
  () => !found.value.length && !fresh.value && !foundGroups.value.length && !isLoading.value,
)

function choose(chosen: string | null) {
  if (!chosen) return
  text.value = ''
  if (props.groups?.some((g) => g.key === chosen)) emit('group', chosen)
  else emit('choose', chosen)
}
const wrong = ref('')
/** Addresses as people write them one after the other: `Ann <a@x>, b@y; c@z`. */
function addresses(written: string): { good: string[]; bad: string[] } {
  const parts = written
    .split(/[,;\n\t]+/)
    .flatMap((part) => (part.includes('<') ? [part] : part.trim().split(/\s+/)))
    .map((part) => part.replace(/^.*<|>.*$/g, '').trim())
    .filter(Boolean)
  const isOne = (part: string) => /^[^@\s<>"]{1,64}@[^@\s<>"]{1,189}$/.test(part)
  return { good: [...new Set(parts.filter(isOne))], bad: parts.filter((part) => !isOne(part)) }
}
function takeAll(written: string): boolean {
  const { good, bad } = addresses(written)
  if (good.length + bad.length < 2 || !good.length) return false
  if (!props.many) {
    wrong.value = t('scheduling.oneAddressIsWantedHere')
    return true
  }
  if (bad.length) {
    wrong.value = t('scheduling.joinNoAddressNobodyWasAddedYet', {
      join: bad.map((part) => `“${part}”`).join(', '),
    })
    return true
  }
  wrong.value = ''
  text.value = ''
  const fresh = good.filter(
    (email) => !props.taken?.some((t) => t.toLowerCase() === email.toLowerCase()),
  )
  if (fresh.length) emit('several', fresh)
  return true
}
function paste(event: ClipboardEvent) {
  const written = event.clipboardData?.getData('text') ?? ''
  if (addresses(written).good.length > 1) {
    event.preventDefault()
    // what is no address among them is left in the field, to be seen
    const { good, bad } = addresses(written)
    takeAll(good.join(','))
    text.value = bad.join(' ')
  }
}
function enter(event: KeyboardEvent) {
  if (/[,;\s]/.test(typed.value) && takeAll(typed.value)) {
    event.preventDefault()
    event.stopPropagation()
  }
}
</script>

<template>
  <div class="relative">
    <Combobox :model-value="null" nullable @update:model-value="choose">
      <ComboboxInput
        class="field w-full"
        :class="groups?.length ? 'pr-8' : ''"
        :aria-label="label"
        :placeholder="placeholder ?? t('scheduling.nameOrAddress')"
        autocomplete="off"
        :display-value="() => text"
        @change="((text = ($event.target as HTMLInputElement).value), (wrong = ''))"
        @paste="paste"
        @keydown.enter.capture="enter"
      />
      <ComboboxButton
        v-if="groups?.length"
        class="absolute top-0.5 right-1 h-6 w-6 text-soft hover:text-ink"
        :aria-label="t('scheduling.listsSpacesAndRooms')"
      >
        <span aria-hidden="true">▾</span>
      </ComboboxButton>
      <ComboboxOptions
        v-if="typed || groups?.length"
        class="absolute z-30 mt-1 max-h-72 w-full min-w-72 overflow-auto border border-ink bg-sheet py-1 outline-none"
      >
        <li v-if="typed && isEmpty" class="px-3 py-1 text-soft">
          {{
            t('scheduling.xOfThatNameTypeAWhole', {
              x: groups?.length ? t('scheduling.nothingAndNobody') : t('scheduling.nobody'),
            })
          }}
        </li>
        <ComboboxOption
          v-for="g in foundGroups"
          :key="g.key"
          v-slot="{ active }"
          :value="g.key"
          as="template"
        >
          <li class="cursor-pointer px-3 py-1" :class="active ? 'bg-sea-wash' : ''">
            <span dir="auto">{{ g.name }}</span>
            <span class="block text-[12.5px] text-soft">{{ g.detail }}</span>
          </li>
        </ComboboxOption>
        <li v-if="allGroups.length > MAX_GROUPS" class="px-3 py-1 text-[12.5px] text-soft">
          {{
            t('scheduling.andAllGroupsMoreListsSpacesAndRooms', {
              allGroups: allGroups.length - MAX_GROUPS,
            })
          }}
        </li>
        <ComboboxOption
          v-for="p in found"
          :key="p.email"
          v-slot="{ active }"
          :value="p.email"
          as="template"
        >
          <li class="cursor-pointer px-3 py-1" :class="active ? 'bg-sea-wash' : ''">
            {{ p.name }}
            <span class="block text-[12.5px] text-soft"
              >{{ p.email }} · {{ term(p.standing)
              }}{{ p.active ? '' : t('scheduling.noLongerActive') }}</span
            >
          </li>
        </ComboboxOption>
        <ComboboxOption v-if="fresh" v-slot="{ active }" :value="typed" as="template">
          <li class="cursor-pointer px-3 py-1" :class="active ? 'bg-sea-wash' : ''">
            {{ typed }}
            <span class="block text-[12.5px] text-soft">{{
              t('scheduling.notInTheDirectory')
            }}</span>
          </li>
        </ComboboxOption>
      </ComboboxOptions>
    </Combobox>
    <p v-if="wrong" class="text-[12.5px] text-rust" role="alert">{{ wrong }}</p>
  </div>
</template>
