<script setup lang="ts">
import { t } from '@/wording'
import { term } from '@/shell/terms'
import { computed } from 'vue'
import { useCatalogue } from '@/api/catalogue'
import type { ComparisonView } from '@/api/schema'
import type { Guarantee, Rule } from './book'
import { guaranteeWords, ruleWords } from './words'

/** Two rulebooks, what differs, layer by layer. */
const props = defineProps<{ comparison: ComparisonView; layerTitle: (key: string) => string }>()
const { catalogue, controls } = useCatalogue()

const groups = computed(() => {
  const layers = [
    ...new Set([...props.comparison.rules, ...props.comparison.guarantees].map((l) => l.layer)),
  ]
  return layers.map((layer) => ({
    layer,
    rules: props.comparison.rules.filter((l) => l.layer === layer),
    guarantees: props.comparison.guarantees.filter((l) => l.layer === layer),
  }))
})
const loose = ['looser', 'gone', 'only suggested now', 'no longer fixed', 'no longer sealed']
const tight = ['tighter', 'new', 'binds now', 'fixed now', 'sealed now']
const tone = (word: string) =>
  loose.includes(word) ? 'text-rust' : tight.includes(word) ? 'text-kelp' : 'text-soft'
const rule = (item: unknown) => item as Rule | null
const reasoned = (words: string[]) => words.includes('another reason')
const reason = (item: unknown) => rule(item)?.reason || t('rulebook.noReasonGiven')
const guarantee = (item: unknown) => item as Guarantee | null
</script>

<template>
  <p v-if="!groups.length" class="py-6 text-center text-soft">
    {{ t('rulebook.theyAreTheSameNoRuleAnd') }}
  </p>
  <table
    v-else
    class="grid-lines narrow:table-fixed narrow:hyphens-auto narrow:[overflow-wrap:anywhere]"
  >
    <thead>
      <tr>
        <th class="w-40 narrow:w-auto">{{ t('rulebook.layerAndControl') }}</th>
        <th class="w-40 narrow:w-auto">{{ t('rulebook.howItDiffers') }}</th>
        <th>{{ comparison.fromTitle }}</th>
        <th>{{ comparison.toTitle }}</th>
      </tr>
    </thead>
    <tbody v-for="group in groups" :key="group.layer">
      <tr>
        <td colspan="4" class="head bg-sheet">{{ layerTitle(group.layer) }}</td>
      </tr>
      <tr v-for="line in group.rules" :key="line.control">
        <td>{{ controls.get(line.control)?.title }}</td>
        <td>
          <span v-for="(word, i) in line.words" :key="word" :class="tone(word)"
            >{{ i ? ', ' : '' }}{{ term(word) }}</span
          >
        </td>
        <td class="text-soft">
          <span class="value">{{ ruleWords(controls.get(line.control), rule(line.before)) }}</span>
          <div v-if="reasoned(line.words)" class="text-[12.5px]">{{ reason(line.before) }}</div>
        </td>
        <td>
          <span class="value">{{ ruleWords(controls.get(line.control), rule(line.after)) }}</span>
          <div v-if="reasoned(line.words)" class="text-[12.5px]">{{ reason(line.after) }}</div>
        </td>
      </tr>
      <tr v-for="line in group.guarantees" :key="line.id">
        <td>{{ t('rulebook.guarantee') }}</td>
        <td>
          <span v-for="(word, i) in line.words" :key="word" :class="tone(word)"
            >{{ i ? ', ' : '' }}{{ term(word) }}</span
          >
        </td>
        <td class="text-soft">{{ guaranteeWords(catalogue, guarantee(line.before)) }}</td>
        <td>{{ guaranteeWords(catalogue, guarantee(line.after)) }}</td>
      </tr>
    </tbody>
  </table>
</template>
