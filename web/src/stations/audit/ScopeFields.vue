<script setup lang="ts">
import { t } from '@/wording'
import { computed } from 'vue'
import { useOrganisation } from '@/api/catalogue'
import { useOwnUnits } from '@/api/units'

/** Which meetings an audit looks at, and how far ahead. */
const unit = defineModel<string>('unit', { required: true })
const kind = defineModel<string>('kind', { required: true })
const days = defineModel<number>('days', { required: true })
const { organisation } = useOrganisation()
const { own } = useOwnUnits()
const units = computed(() =>
  (organisation.value?.units ?? []).filter((u) => own.value === null || own.value.includes(u.id)),
)
</script>

<template>
  <div class="mt-2 flex flex-wrap items-center gap-2">
    <label class="flex items-center gap-1.5"
      >{{ t('audit.of2') }}
      <select v-model="unit" class="field">
        <option value="">{{ own ? t('audit.allOfYourUnit') : t('audit.everyUnit') }}</option>
        <option v-for="u in units" :key="u.id" :value="u.id">
          {{ u.name }}
        </option>
      </select>
    </label>
    <label>
      <span class="hidden-label">{{ t('audit.kind') }}</span>
      <select v-model="kind" class="field">
        <option value="">{{ t('audit.everyKind') }}</option>
        <option v-for="k in organisation?.kinds ?? []" :key="k.id" :value="k.id">
          {{ k.name }}
        </option>
      </select>
    </label>
    <label class="flex items-center gap-1.5"
      >{{ t('audit.looking') }}
      <input v-model.number="days" class="field w-16" type="number" min="1" max="366" />
      {{ t('audit.daysAhead') }}</label
    >
  </div>
</template>
