<script setup lang="ts">
import { t } from '@/wording'
import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions } from '@headlessui/vue'
import { useQuery } from '@pinia/colada'
import { ref } from 'vue'
import { api, take } from '@/api/client'
import { shortTime } from '@/shell/times'

/** Finds a meeting by its title or host. */
defineProps<{ title: string; onlySaved?: boolean }>()
const emit = defineEmits<{ pick: [id: string | null] }>()

const text = ref('')
const found = (wanted: string) =>
  take(api.GET('/api/meetings', { params: { query: { text: wanted, size: 9 } } }))
type Found = Awaited<ReturnType<typeof found>>
const { data, asyncStatus } = useQuery({
  key: () => ['meetings', 'pick', text.value],
  query: () => found(text.value),
  // what was found for the letters before stays, or arrow and Enter would fall between two answers
  placeholderData: (before: Found | undefined) => before,
})
</script>

<template>
  <Combobox
    nullable
    :model-value="null"
    @update:model-value="(id: string | null) => id !== null && emit('pick', id || null)"
  >
    <div class="relative">
      <ComboboxInput
        class="field w-80 font-bold"
        :aria-label="t('door.meeting')"
        :aria-busy="asyncStatus === 'loading'"
        autocomplete="off"
        :display-value="() => title"
        @change="text = $event.target.value"
        @focus="($event.target as HTMLInputElement).select()"
      />
      <ComboboxOptions
        class="absolute z-20 mt-1 w-[30rem] border border-line bg-sheet py-1 shadow-lg"
      >
        <ComboboxOption v-if="!onlySaved" v-slot="{ active }" value="" as="template">
          <li class="px-3 py-1" :class="active ? 'bg-sea-wash' : ''">
            {{ t('door.oneThatIsNotSavedYet') }}
            <span class="text-soft">{{ t('door.beginsWithTheRulebooksStarts') }}</span>
          </li>
        </ComboboxOption>
        <ComboboxOption
          v-for="m in data?.items ?? []"
          :key="m.id"
          v-slot="{ active }"
          :value="m.id"
          as="template"
        >
          <li
            class="flex items-baseline justify-between gap-3 px-3 py-1"
            :class="active ? 'bg-sea-wash' : ''"
          >
            <span class="truncate" dir="auto">{{ m.title }}</span>
            <span class="value shrink-0 text-soft">{{
              m.next ? shortTime(m.next) : t('door.over')
            }}</span>
          </li>
        </ComboboxOption>
      </ComboboxOptions>
    </div>
  </Combobox>
</template>
