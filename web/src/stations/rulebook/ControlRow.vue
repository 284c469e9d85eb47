<script setup lang="ts">
import { t } from '@/wording'
import { computed } from 'vue'
import type { Plain } from '@/api/catalogue'
import type { ControlView, RemarkView, Resolved } from '@/api/schema'
import TallyMark from '@/marks/TallyMark.vue'
import type { Rule } from './book'
import ControlLadder from './ControlLadder.vue'
import { ruleFrom, startOf, type Rung } from './rungs'
import { modeWords } from './words'

/** One control: its name, its ladder, and in short what rules it here. */
const props = defineProps<{
  control: ControlView
  /** This layer's own rule. */
  rule: Rule | undefined
  /** What applies here, this layer and those above together. */
  resolved: Resolved | undefined
  /** The layer that says so, by name. */
  source: string
  rungs: Rung[]
  total: number
  editable: boolean
  chosen: boolean
  differs: boolean
  remarks: RemarkView[]
  /** What the rule follows, shown while walking through the starter. */
  reasons?: boolean
}>()
defineEmits<{ choose: []; start: [value: Plain]; limit: [value: Plain] }>()

const drawn = computed(() => props.rule ?? ruleFrom(props.control.id, props.resolved))
const inherited = computed(() => !props.rule && !!props.resolved)
const wrong = computed(() => props.remarks.filter((r) => r.weight !== 'note'))
</script>

<template>
  <div
    :id="`control-${control.id}`"
    class="grid grid-cols-[minmax(130px,180px)_minmax(0,1fr)_86px] items-center gap-3 phone:grid-cols-1 phone:gap-1 border-b border-hair border-l-[3px] px-4 py-1.5"
    :class="chosen ? 'border-l-ink bg-sheet' : 'border-l-transparent'"
    @click="$emit('choose')"
    @focusin="!chosen && $emit('choose')"
  >
    <div>
      <button class="head text-left" :aria-pressed="chosen">
        {{ control.title
        }}<span v-if="differs" class="text-sea" :title="t('rulebook.differs')"> ∗</span>
      </button>
      <p class="text-[12.5px] leading-tight text-soft">{{ control.effect }}</p>
      <p v-if="reasons && drawn?.reason" class="mt-1 text-[12.5px] leading-tight">
        {{ drawn.reason }}
      </p>
    </div>
    <ControlLadder
      :control="control"
      :rule="drawn"
      :rungs="rungs"
      :total="total"
      :editable="editable"
      :ghost="inherited"
      @start="$emit('start', $event)"
      @limit="$emit('limit', $event)"
    />
    <div class="text-right text-[12.5px] leading-tight text-soft">
      <template v-if="drawn">
        <template v-if="inherited">{{ t('rulebook.fromSource', { source }) }}</template>
        <template v-else>{{ modeWords[drawn.mode] }}</template>
        <div v-if="drawn.sealed">{{ t('rulebook.sealed') }}</div>
        <div v-if="drawn.mode !== 'suggest'"><TallyMark :severity="drawn.importance ?? 2" /></div>
      </template>
      <template v-else>{{ t('rulebook.noRule') }}</template>
      <div v-if="wrong.length" class="mt-0.5 text-rust" :title="wrong.map((r) => r.text).join(' ')">
        {{ wrong.some((r) => r.weight === 'wrong') ? t('rulebook.wrong') : t('rulebook.doubtful') }}
      </div>
      <span class="hidden-label">{{ startOf(drawn) }}</span>
    </div>
  </div>
</template>
