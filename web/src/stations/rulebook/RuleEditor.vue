<script setup lang="ts">
import { computed } from 'vue'
import { label, type Plain } from '@/api/catalogue'
import type { ControlView } from '@/api/schema'
import { within } from '@/api/within'
import type { Rule } from './draft'
import { inMode, limitOf, startOf, type Rung } from './rungs'

/** The chosen control's rule, in words, with everything about it that can be changed. */
const props = defineProps<{
  control: ControlView
  rule: Rule | undefined
  before: Rule | undefined
  rungs: Rung[]
  unknown: number
  editable: boolean
}>()
const emit = defineEmits<{ change: [rule: Rule | null] }>()

const modes: { id: Rule['mode'] | 'none'; name: string; says: string }[] = [
  { id: 'none', name: 'no rule', says: 'Hosts do as they like, and nothing is filled in.' },
  {
    id: 'suggest',
    name: 'suggest',
    says: 'New meetings begin with it; hosts may change it freely.',
  },
  { id: 'bound', name: 'bound', says: 'Hosts may change it, never looser than the limit.' },
  { id: 'fix', name: 'fix', says: 'Hosts cannot change it.' },
]
const mode = computed(() => props.rule?.mode ?? 'none')
const looser = computed(() => {
  const limit = limitOf(props.rule)
  if (limit === undefined) return 0
  return props.rungs
    .filter((r) => r.count && !within(props.control, r.value, limit))
    .reduce((sum, r) => sum + r.count, 0)
})

function setMode(id: Rule['mode'] | 'none') {
  emit('change', id === 'none' ? null : inMode(props.rule, props.control, id))
}
function patch(part: Partial<Rule>) {
  if (props.rule) emit('change', { ...props.rule, ...part })
}
function names(text: string): string[] {
  return [
    ...new Set(
      text
        .split(/[,\s]+/)
        .map((n) => n.trim())
        .filter(Boolean),
    ),
  ].sort()
}
function exact(which: 'start' | 'limit' | 'value', text: string) {
  const value: Plain =
    props.control.scale === 'sets'
      ? names(text)
      : /^\d+$/.test(text.trim())
        ? Number(text)
        : (props.control.rungs[0]?.word ?? 0)
  patch({ [which]: value })
}
const shown = (value: Plain | undefined) =>
  Array.isArray(value) ? value.join(', ') : String(value ?? '')
</script>

<template>
  <section :aria-label="control.title">
    <h2 class="text-base font-bold">{{ control.title }}</h2>
    <p class="text-soft">{{ control.effect }}.</p>
    <p class="mt-2">{{ control.risk }}</p>

    <fieldset class="mt-4" :disabled="!editable">
      <legend class="hidden-label">Mode</legend>
      <div class="flex border border-line" role="radiogroup">
        <label
          v-for="m in modes.filter((m) => m.id !== 'bound' || !control.neutral)"
          :key="m.id"
          class="relative flex-1 cursor-pointer border-r border-line py-1 text-center last:border-r-0 has-[:focus-visible]:outline-2 has-[:focus-visible]:outline-sea"
          :class="mode === m.id ? 'bg-ink font-bold text-paper' : ''"
        >
          <input
            class="hidden-label"
            type="radio"
            :name="`mode-${control.id}`"
            :checked="mode === m.id"
            @change="setMode(m.id)"
          />{{ m.name }}
        </label>
      </div>
      <p class="mt-1 text-[12.5px] text-soft">{{ modes.find((m) => m.id === mode)?.says }}</p>

      <div v-if="rule" class="mt-3 grid grid-cols-[6rem_1fr] items-center gap-x-2 gap-y-2">
        <template v-if="control.scale !== 'words'">
          <template v-for="which in ['start', 'limit', 'value'] as const" :key="which">
            <template v-if="rule[which] !== undefined">
              <label :for="`exact-${which}`" class="text-soft">{{ which }}</label>
              <input
                :id="`exact-${which}`"
                class="field value"
                :value="shown(rule[which])"
                @change="exact(which, ($event.target as HTMLInputElement).value)"
              />
            </template>
          </template>
          <span />
          <span class="text-[12px] text-soft">{{ control.allowed }}</span>
        </template>
        <template v-else>
          <span class="text-soft">{{ rule.mode === 'fix' ? 'value' : 'start' }}</span>
          <span class="value font-bold">{{ label(control, startOf(rule)) }}</span>
          <template v-if="rule.mode === 'bound'">
            <span class="text-soft">limit</span>
            <span class="value font-bold">{{ label(control, rule.limit) }}</span>
          </template>
        </template>
        <label for="importance" class="text-soft">importance</label>
        <select
          id="importance"
          class="field"
          :value="rule.importance ?? 2"
          @change="patch({ importance: Number(($event.target as HTMLSelectElement).value) })"
        >
          <option :value="1">1 · note</option>
          <option :value="2">2 · minor</option>
          <option :value="3">3 · moderate</option>
          <option :value="4">4 · serious</option>
        </select>
        <template v-if="rule.mode !== 'suggest'">
          <label for="sealed" class="text-soft">sealed</label>
          <span class="flex items-center gap-2">
            <input
              id="sealed"
              type="checkbox"
              :checked="rule.sealed"
              @change="patch({ sealed: ($event.target as HTMLInputElement).checked || undefined })"
            />
            <span class="text-[12.5px] text-soft">layers below may only tighten</span>
          </span>
        </template>
        <label for="reason" class="self-start pt-1 text-soft">reason</label>
        <textarea
          id="reason"
          class="field"
          rows="2"
          maxlength="1000"
          :value="rule.reason ?? ''"
          @change="patch({ reason: ($event.target as HTMLTextAreaElement).value || undefined })"
        />
      </div>
    </fieldset>

    <p v-if="rule && rule.mode !== 'suggest'" class="mt-4 border-t border-line pt-3">
      <strong>{{ looser }}</strong> upcoming series stand looser than this<template v-if="unknown"
        >, and <strong>{{ unknown }}</strong> do not say how they stand</template
      >.
    </p>
    <p v-if="JSON.stringify(before) !== JSON.stringify(rule)" class="mt-2 text-sea">
      Differs from the edition in force{{ before ? '' : ', which has no rule here' }}.
      <button v-if="editable" class="link" @click="emit('change', before ?? null)">
        Put it back
      </button>
    </p>
  </section>
</template>
