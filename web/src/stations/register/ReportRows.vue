<script setup lang="ts">
import { t } from '@/wording'
import { term } from '@/shell/terms'
import { computed, ref } from 'vue'
import type { Row } from '@/api/schema'

/** What an import does, row by row: the refused ones first, then those with a remark. */
const props = defineProps<{ rows: Row[] }>()

const only = ref('')
const most = 400
const rank = (r: Row) => (r.outcome === 'refused' ? 0 : r.remarks.length ? 1 : 2)
const kept = computed(() =>
  props.rows
    .filter((r) => !only.value || r.outcome === only.value)
    .map((row, index) => ({ row, index }))
    .sort((a, b) => rank(a.row) - rank(b.row) || a.index - b.index)
    .map((r) => r.row),
)
const outcomes = computed(() => [...new Set(props.rows.map((r) => r.outcome))])
</script>

<template>
  <div class="mt-2">
    <label class="flex items-center gap-2 text-soft">
      {{ t('register.show') }}
      <select v-model="only" class="field" :aria-label="t('register.outcome')">
        <option value="">{{ t('register.allRows', { rows: rows.length }) }}</option>
        <option v-for="o in outcomes" :key="o" :value="o">{{ term(o) }}</option>
      </select>
    </label>
    <div class="mt-1 max-h-56 overflow-auto border border-line">
      <table class="grid-lines">
        <thead>
          <tr>
            <th class="!text-right">{{ t('register.line') }}</th>
            <th>{{ t('register.what') }}</th>
            <th>{{ t('register.outcome') }}</th>
            <th>{{ t('register.remarks') }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(row, i) in kept.slice(0, most)" :key="i">
            <td class="value text-right text-soft">{{ row.line ?? '' }}</td>
            <td class="max-w-64 truncate" :title="row.id">
              {{ row.title || row.id || t('register.nameless') }}
              <span class="text-[12.5px] text-soft">{{ row.part }}</span>
            </td>
            <td :class="row.outcome === 'refused' ? 'text-rust' : ''">{{ term(row.outcome) }}</td>
            <td class="text-[12.5px]">
              <div v-for="(r, k) in row.remarks" :key="k">{{ r }}</div>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <p v-if="kept.length > most" class="text-soft">
      {{ t('register.andKeptMore', { kept: kept.length - most }) }}
    </p>
  </div>
</template>
