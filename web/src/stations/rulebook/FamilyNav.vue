<script setup lang="ts">
import { t } from '@/wording'
import { computed } from 'vue'
import type { Catalogue } from '@/api/schema'
import type { Layer } from './book'
import { filters } from './view'

/** The families, and what else the list can show. */
const props = defineProps<{
  catalogue: Catalogue
  layer: Layer | undefined
  family: string
  show: string
  text: string
}>()
defineEmits<{ family: [id: string]; show: [filter: string]; text: [text: string] }>()

const families = computed(() => [
  ...props.catalogue.families.map((f) => ({
    id: f.id,
    title: f.title,
    rules:
      props.layer?.rules.filter(
        (r) => props.catalogue.controls.find((c) => c.id === r.control)?.family === f.id,
      ).length ?? 0,
  })),
  {
    id: 'guarantees',
    title: t('rulebook.guarantees'),
    rules: props.layer?.guarantees?.length ?? 0,
  },
])
</script>

<template>
  <div class="mt-2 overflow-auto">
    <button
      v-for="f in families"
      :key="f.id"
      class="flex w-full justify-between px-5 py-1 text-left hover:bg-sheet"
      :class="f.id === family && !text && !show ? 'font-bold text-ink' : 'text-soft'"
      :aria-current="f.id === family ? 'true' : undefined"
      @click="$emit('family', f.id)"
    >
      {{ f.title }}
      <span class="value" :title="t('rulebook.rulesInThisLayer', { rules: f.rules })">{{
        f.rules
      }}</span>
    </button>
    <div class="mt-4 flex flex-col gap-2 px-5">
      <input
        class="field w-full"
        type="search"
        :placeholder="t('rulebook.findAControl')"
        :aria-label="t('rulebook.findAControlByNameValueFamily')"
        :value="text"
        @input="$emit('text', ($event.target as HTMLInputElement).value)"
      />
      <label class="text-[12.5px] text-soft">
        {{ t('rulebook.show') }}
        <select
          class="field mt-0.5 w-full text-ink"
          :value="show"
          @change="$emit('show', ($event.target as HTMLSelectElement).value)"
        >
          <option v-for="[id, name] in filters" :key="id" :value="id">{{ name }}</option>
        </select>
      </label>
      <p class="text-[12.5px] text-soft">
        <span aria-hidden="true">●</span> {{ t('rulebook.pegDefault') }}<br />
        <span aria-hidden="true">▏</span> {{ t('rulebook.barLimit') }}<br />
        <span class="text-rust" aria-hidden="true">●</span> {{ t('rulebook.sealed') }}<br />
        {{ t('rulebook.hatchedTooLoose') }}
      </p>
    </div>
  </div>
</template>
