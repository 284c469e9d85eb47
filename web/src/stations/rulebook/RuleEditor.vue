<script setup lang="ts">
import { t } from '@/wording'
import { computed } from 'vue'
import { label, type Plain } from '@/api/catalogue'
import NamesField from '@/shell/NamesField.vue'
import { vShows } from '@/shell/shows'
import type { ControlView, RemarkView, Resolved } from '@/api/schema'
import { within } from '@/api/within'
import { same, type Rule } from './book'
import { inMode, limitOf, ownFrom, startOf, type Rung } from './rungs'
import { modeWords } from './words'

/** The chosen control's rule, in words, with everything about it that can be changed. */
const props = defineProps<{
  control: ControlView
  rule: Rule | undefined
  before: Rule | undefined
  rungs: Rung[]
  unknown: number
  editable: boolean
  remarks: RemarkView[]
  /** What applies here, this layer and those above together. */
  resolved: Resolved | undefined
  /** Whether the rulebook is shown as it applies to somebody, and not a layer of it. */
  applied?: boolean
  /** Whether nobody counted how meetings stand, as for those who do not see them all. */
  uncounted?: boolean
}>()
const emit = defineEmits<{ change: [rule: Rule | null] }>()

const modes: { id: Rule['mode'] | 'none'; name: string; says: string }[] = [
  { id: 'none', name: t('rulebook.noRule'), says: t('rulebook.hostsDoAsTheyLikeAndNothing') },
  {
    id: 'suggest',
    name: t('rulebook.default'),
    says: t('rulebook.newMeetingsBeginWithItHostsMay'),
  },
  { id: 'bound', name: t('rulebook.limit2'), says: t('rulebook.hostsMayChangeItNeverLooserThan') },
  { id: 'fix', name: t('rulebook.fixed'), says: t('rulebook.hostsCannotChangeIt') },
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
  emit(
    'change',
    id === 'none'
      ? null
      : inMode(props.rule ?? ownFrom(props.control.id, props.resolved), props.control, id),
  )
}
function patch(part: Partial<Rule>) {
  if (props.rule) emit('change', { ...props.rule, ...part })
}
function exact(which: 'start' | 'limit' | 'value', text: string) {
  const value: Plain = /^\d+$/.test(text.trim())
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
    <p class="text-soft">{{ control.effect }}. {{ control.risk }}</p>
    <ul v-if="remarks.length" class="mt-2" :aria-label="t('rulebook.remarks')">
      <li
        v-for="(remark, i) in remarks"
        :key="i"
        class="border-l-4 py-0.5 pl-2"
        :class="
          remark.weight === 'wrong'
            ? 'border-rust text-rust'
            : remark.weight === 'doubtful'
              ? 'border-sand'
              : 'border-line text-soft'
        "
      >
        {{ remark.text }}
      </li>
    </ul>

    <fieldset v-if="!applied" class="mt-3" :disabled="!editable">
      <legend class="hidden-label">{{ t('rulebook.mode') }}</legend>
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
      <p class="mt-1 text-[12.5px] text-soft">
        {{
          mode === 'none' && resolved
            ? t('rulebook.thisLayerSaysNothingWhatIsAbove')
            : modes.find((m) => m.id === mode)?.says
        }}
      </p>

      <div v-if="rule" class="mt-2 grid grid-cols-[5.5rem_1fr] items-center gap-x-2 gap-y-1.5">
        <template v-if="control.scale !== 'words'">
          <template v-for="which in ['start', 'limit', 'value'] as const" :key="which">
            <template v-if="rule[which] !== undefined">
              <label :for="`exact-${which}`" class="text-soft">{{ which }}</label>
              <NamesField
                v-if="control.scale === 'sets'"
                :id="`exact-${which}`"
                :control="control"
                :value="rule[which] as string[]"
                :label="`${control.title}, ${which}`"
                @change="(names) => patch({ [which]: names })"
              />
              <input
                v-else
                :id="`exact-${which}`"
                v-shows="shown(rule[which])"
                class="field value"
                @change="exact(which, ($event.target as HTMLInputElement).value)"
              />
            </template>
          </template>
          <span />
          <span class="text-[12px] text-soft">{{ control.allowed }}</span>
        </template>
        <template v-else>
          <span class="text-soft">{{
            rule.mode === 'fix' ? t('rulebook.value') : t('rulebook.default')
          }}</span>
          <span>
            <strong class="value">{{ label(control, startOf(rule)) }}</strong>
            <template v-if="rule.mode === 'bound'">
              <span class="text-soft"> {{ t('rulebook.limitSpaced') }} </span>
              <strong class="value">{{ label(control, rule.limit) }}</strong>
            </template>
          </span>
        </template>
        <label for="importance" class="text-soft">{{ t('rulebook.importance2') }}</label>
        <select
          id="importance"
          class="field"
          :value="rule.importance ?? 2"
          @change="patch({ importance: Number(($event.target as HTMLSelectElement).value) })"
        >
          <option :value="1">{{ t('rulebook.n1Note') }}</option>
          <option :value="2">{{ t('rulebook.n2Minor') }}</option>
          <option :value="3">{{ t('rulebook.n3Moderate') }}</option>
          <option :value="4">{{ t('rulebook.n4Serious') }}</option>
        </select>
        <template v-if="rule.mode !== 'suggest'">
          <label for="sealed" class="text-soft">{{ t('rulebook.sealed') }}</label>
          <span class="flex items-center gap-2">
            <input
              id="sealed"
              type="checkbox"
              :checked="rule.sealed"
              @change="patch({ sealed: ($event.target as HTMLInputElement).checked || undefined })"
            />
            <span class="text-[12.5px] text-soft">{{
              t('rulebook.layersBelowMayOnlyTighten')
            }}</span>
          </span>
        </template>
        <label for="reason" class="self-start pt-1 text-soft">{{ t('rulebook.reason2') }}</label>
        <textarea
          id="reason"
          v-shows="rule.reason ?? ''"
          class="field"
          rows="2"
          maxlength="1000"
          @change="patch({ reason: ($event.target as HTMLTextAreaElement).value || undefined })"
        />
      </div>
    </fieldset>

    <p v-if="rule && rule.mode !== 'suggest' && !uncounted" class="mt-3">
      <strong>{{ looser }}</strong>
      {{
        t('rulebook.upcomingSeriesXLooserThanThis', {
          x: looser === 1 ? t('rulebook.stands') : t('rulebook.stand'),
        })
      }}<template v-if="unknown"
        >{{ t('rulebook.and') }} <strong>{{ unknown }}</strong>
        {{
          t('rulebook.xNotSayHowX2', {
            x: unknown === 1 ? t('rulebook.does') : t('rulebook.do'),
            x2: unknown === 1 ? t('rulebook.itStands') : t('rulebook.theyStand'),
          })
        }}</template
      >.
    </p>
    <dl
      v-if="resolved && !rule"
      class="mt-3 grid grid-cols-[5.5rem_1fr] gap-x-2 border-t border-line pt-2"
    >
      <dt class="text-soft">{{ modeWords[resolved.mode] }}</dt>
      <dd class="value">
        {{ label(control, resolved.start) }}
        <template v-if="resolved.mode === 'bound'">
          <span class="text-soft">{{ t('rulebook.limit') }}</span>
          {{ label(control, resolved.limit) }}
        </template>
      </dd>
      <dt v-if="resolved.reason" class="text-soft">{{ t('rulebook.reason2') }}</dt>
      <dd>{{ resolved.reason }}</dd>
    </dl>
    <p v-if="!applied && !same(before ?? null, rule ?? null)" class="mt-2 text-sea">
      {{
        t('rulebook.differsFromTheEditionInForceX', {
          x: before ? '' : t('rulebook.whichHasNoRuleHere'),
        })
      }}
      <button v-if="editable" class="link" @click="emit('change', before ?? null)">
        {{ t('rulebook.putItBack') }}
      </button>
    </p>
    <div v-if="resolved" class="mt-3 border-t border-line pt-2">
      <h3 class="head">{{ t('rulebook.whereItComesFrom') }}</h3>
      <ol class="list-decimal pl-5">
        <li v-for="(step, i) in resolved.trace" :key="i">{{ step.words }}</li>
      </ol>
    </div>
  </section>
</template>
