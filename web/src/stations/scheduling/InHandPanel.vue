<script setup lang="ts">
import { t } from '@/wording'
import { computed } from 'vue'
import { label, useCatalogue, type Plain } from '@/api/catalogue'
import type { SchedulingPreview } from '@/api/schema'
import { same } from '@/stations/rulebook/book'

/** The control in hand: what the rule says and why, what it needs, what each value would do. */
const props = defineProps<{
  control: string
  value: Plain | undefined
  preview: SchedulingPreview
}>()
const emit = defineEmits<{ change: [control: string, value: Plain] }>()

const { controls } = useCatalogue()
const about = computed(() => controls.value.get(props.control))
const rule = computed(() => props.preview.resolved[props.control])
const idle = computed(() => props.preview.idle.find((i) => i.control === props.control))
const beyond = computed(() => props.preview.beyond.find((b) => b.control === props.control))
const title = (id: string) => controls.value.get(id)?.title ?? id
const last = computed(() => rule.value?.trace[rule.value.trace.length - 1]?.words ?? '')
const chosen = (v: unknown) => same(v as Plain, props.value ?? null)
</script>

<template>
  <section v-if="about" :aria-label="about.title">
    <h2 class="text-base font-bold">{{ about.title }}</h2>
    <p class="text-soft">{{ about.effect }}. {{ about.risk }}</p>
    <p v-if="beyond" class="mt-2 border-l-4 border-rust pl-2 text-rust" role="status">
      {{ beyond.words.charAt(0).toUpperCase() + beyond.words.slice(1) }}.
    </p>
    <div v-if="idle" class="mt-2 border-l-4 border-sand pl-2" role="status">
      <p>
        <strong>{{ t('scheduling.thisDoesNothingHere') }}</strong> {{ t('scheduling.while') }}
        <template v-for="(m, i) in idle.by" :key="m.control">
          {{
            t('scheduling.xControlIsLabel', {
              x: i ? t('scheduling.or') : '',
              control: title(m.control),
              label: label(
                controls.get(m.control),
                preview.controls[m.control] ?? controls.get(m.control)?.rungs[0]?.word,
              ),
            })
          }}</template>.
      </p>
      <p v-for="m in idle.by" :key="m.control" class="mt-1">
        <button type="button" class="button" @click="emit('change', m.control, m.to)">
          {{
            t('scheduling.setControlToLabel', {
              control: title(m.control),
              label: label(controls.get(m.control), m.to),
            })
          }}
        </button>
      </p>
    </div>
    <p class="mt-2">
      <template v-if="!rule">{{ t('scheduling.theRulebookSaysNothingOfIt') }}</template>
      <template v-else-if="rule.mode === 'fix'"
        >{{ t('scheduling.fixedAt') }} <strong>{{ label(about, rule.start) }}</strong>.</template
      >
      <template v-else-if="rule.mode === 'bound'">
        {{ t('scheduling.theDefaultIsSpaced') }} <strong>{{ label(about, rule.start) }}</strong>{{
          t('scheduling.youMayGoAsFarAs')
        }}
        <strong>{{ label(about, rule.limit) }}</strong>.
      </template>
      <template v-else
        >{{ t('scheduling.theDefaultIs') }}
        <strong>{{ label(about, rule.start) }}</strong>.</template
      >
      <span class="text-soft"> {{ last }}</span>
    </p>
    <p v-if="rule?.reason" class="text-soft">
      {{ t('scheduling.whyReason', { reason: rule.reason }) }}
    </p>
    <table v-if="preview.choices.length" class="grid-lines mt-2">
      <caption class="hidden-label">
        {{
          t('scheduling.whatEachValueWouldDo')
        }}
      </caption>
      <thead>
        <tr>
          <th scope="col">{{ t('scheduling.value') }}</th>
          <th scope="col" class="!text-right">{{ t('scheduling.exposure') }}</th>
          <th
            scope="col"
            class="!text-right"
            :title="t('scheduling.rightsThatComeToSomebodyMoreFreely')"
          >
            {{ t('scheduling.letsIn') }}
          </th>
          <th
            scope="col"
            class="!text-right"
            :title="t('scheduling.rightsThatComeToSomebodyLessFreely')"
          >
            {{ t('scheduling.keepsOut') }}
          </th>
          <th scope="col" class="!text-right">{{ t('scheduling.findings') }}</th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="c in preview.choices"
          :key="String(c.value)"
          :class="chosen(c.value) ? 'bg-sea-wash' : ''"
        >
          <td>
            <button
              type="button"
              class="value text-left hover:underline"
              :class="chosen(c.value) ? 'font-bold' : ''"
              :aria-pressed="chosen(c.value)"
              @click="emit('change', control, c.value)"
            >
              {{ label(about, c.value) }}
            </button>
            <span v-if="!c.allowed" class="text-[11.5px] text-rust">
              {{ t('scheduling.notAllowed2') }}</span
            >
            <span v-else-if="c.idle" class="text-[11.5px] text-sand">
              {{ t('scheduling.doesNothing') }}</span
            >
          </td>
          <td class="value text-right">{{ c.score.toFixed(1) }}</td>
          <td class="value text-right" :class="c.opened ? 'text-rust' : 'text-soft'">
            {{ c.opened || '·' }}
          </td>
          <td class="value text-right" :class="c.closed ? 'text-kelp' : 'text-soft'">
            {{ c.closed || '·' }}
          </td>
          <td class="value text-right">{{ c.findings }}</td>
        </tr>
      </tbody>
    </table>
  </section>
</template>
