<script setup lang="ts">
import { useOrganisation } from '@/api/catalogue'

/** Which meetings an audit looks at, and how far ahead. */
const unit = defineModel<string>('unit', { required: true })
const kind = defineModel<string>('kind', { required: true })
const days = defineModel<number>('days', { required: true })
const { organisation } = useOrganisation()
</script>

<template>
  <div class="mt-2 flex flex-wrap items-center gap-2">
    <label class="flex items-center gap-1.5"
      >of
      <select v-model="unit" class="field">
        <option value="">every unit</option>
        <option v-for="u in organisation?.units ?? []" :key="u.id" :value="u.id">
          {{ u.name }}
        </option>
      </select>
    </label>
    <label>
      <span class="hidden-label">Kind</span>
      <select v-model="kind" class="field">
        <option value="">every kind</option>
        <option v-for="k in organisation?.kinds ?? []" :key="k.id" :value="k.id">
          {{ k.name }}
        </option>
      </select>
    </label>
    <label class="flex items-center gap-1.5"
      >looking
      <input v-model.number="days" class="field w-16" type="number" min="1" max="366" /> days
      ahead</label
    >
  </div>
</template>
