<script setup lang="ts">
import { t } from '@/wording'
import { computed } from 'vue'
import { label, useCatalogue } from '@/api/catalogue'
import type { Comer } from '@/api/schema'
import { answerWords } from './door'
import PathCell from './PathCell.vue'

/** Everybody who is sent to the door, and how far each comes. */
const props = defineProps<{
  comers: Comer[]
  /** Whether anything is changed in pencil. */
  pencilled: boolean
  chosen: string
  cursor: number
}>()
const emit = defineEmits<{ choose: [key: string]; weigh: [control: string]; drop: [key: string] }>()

const { catalogue, controls, controlTitle } = useCatalogue()
const steps = computed(() => catalogue.value?.steps ?? [])

/** How a way fares at a step; the host and co-hosts are asked nothing. */
function fare(answer: Comer['now'], step: string): string {
  const trace = answer.trail.find((t) => t.step === step)
  if (trace) return trace.outcome === 'in' ? 'passed' : trace.outcome
  return answer.outcome === 'in' ? 'passed' : ''
}
function words(comer: Comer, step: string): string {
  const trace = comer.now.trail.find((t) => t.step === step)
  if (!trace) return comer.now.outcome === 'in' ? t('door.notAsked') : t('door.notReached')
  return trace.control
    ? `${trace.words} ${controlTitle(trace.control)}: ${label(controls.value.get(trace.control), trace.value)}`
    : trace.words
}
const differs = (c: Comer) =>
  props.pencilled && JSON.stringify(c.now.trail) !== JSON.stringify(c.then.trail)
const groups = computed(() => [
  { title: t('door.uninvited'), comers: props.comers.filter((c) => c.persona && !c.invited) },
  { title: t('door.invited'), comers: props.comers.filter((c) => c.persona && c.invited) },
  { title: t('door.peopleByAddress'), comers: props.comers.filter((c) => !c.persona) },
])
const order = computed(() => groups.value.flatMap((g) => g.comers.map((c) => c.key)))
/** Long words may break where their syllables do. */
const broken = (title: string) =>
  title.replace('registration', 'regis\u00ADtration').replace('passcode', 'pass\u00ADcode')
function weigh(control: string | null | undefined) {
  if (control) emit('weigh', control)
}
defineExpose({ order })
</script>

<template>
  <table class="ways w-full table-fixed">
    <caption class="hidden-label">
      {{
        t('door.howFarEachComes')
      }}
    </caption>
    <colgroup>
      <col class="w-[236px] phone:w-auto" />
      <col v-for="s in steps" :key="s.id" class="phone:hidden" />
      <col class="w-[168px] phone:w-[10rem]" />
    </colgroup>
    <thead>
      <tr>
        <th scope="col" class="pl-5">{{ t('door.someoneWho') }}</th>
        <th v-for="s in steps" :key="s.id" scope="col" class="step phone:hidden">
          <button
            v-if="s.control"
            class="link-quiet"
            :title="t('door.whatIfTitleWereOtherwise', { title: s.title })"
            @click="weigh(s.control)"
          >
            {{ broken(s.title) }}
          </button>
          <template v-else>{{ broken(s.title) }}</template>
        </th>
        <th scope="col" class="pl-3">{{ t('door.theDoorSays') }}</th>
      </tr>
    </thead>
    <tbody v-for="group in groups.filter((g) => g.comers.length)" :key="group.title">
      <tr>
        <th :colspan="steps.length + 2" scope="rowgroup" class="group pl-5">{{ group.title }}</th>
      </tr>
      <tr
        v-for="c in group.comers"
        :key="c.key"
        :aria-selected="c.key === chosen"
        :class="[c.key === chosen ? 'bg-sea-wash' : '', order[cursor] === c.key ? 'here' : '']"
        @click="emit('choose', c.key)"
      >
        <th
          scope="row"
          class="truncate pl-5 text-left font-normal phone:whitespace-normal phone:pl-3"
          :title="c.persona ? c.phrase : c.key"
        >
          <span class="flex gap-2">
            <button class="min-w-0 flex-1 truncate text-left" @click.stop="emit('choose', c.key)">
              {{ c.phrase }}
            </button>
            <button
              v-if="!c.persona"
              class="link shrink-0"
              :aria-label="t('door.takePhraseAway', { phrase: c.phrase })"
              @click.stop="emit('drop', c.key)"
            >
              {{ t('door.takeAway') }}
            </button>
          </span>
        </th>
        <td v-for="s in steps" :key="s.id" class="p-0 phone:hidden" :title="words(c, s.id)">
          <PathCell
            :now="fare(c.now, s.id)"
            :then="fare(c.then, s.id)"
            :differs="differs(c)"
          /><span class="hidden-label">{{ words(c, s.id) }}</span>
        </td>
        <td class="value truncate pl-3 pr-2 phone:whitespace-normal" :title="answerWords(c.now)">
          <span :class="c.now.outcome === 'in' && !c.invited ? 'text-rust' : ''">{{
            answerWords(c.now)
          }}</span>
          <span v-if="differs(c)" class="block truncate text-sea" :title="answerWords(c.then)"
            >→ {{ answerWords(c.then) }}</span
          >
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
.ways th,
.ways td {
  border-bottom: 1px solid var(--hair);
}
.ways thead th {
  border-bottom: 1px solid var(--line);
  padding-block: 5px;
  text-align: left;
  font-weight: 400;
  color: var(--soft);
  font-size: 12.5px;
}
.ways thead th.step {
  text-align: center;
  line-height: 1.15;
  padding-inline: 2px;
}
.ways .group {
  padding-block: 7px 3px;
  text-align: left;
  font-weight: 700;
  border-bottom: 1px solid var(--line);
}
.ways tbody tr[aria-selected] {
  cursor: pointer;
  height: 32px;
}
.ways tr.here {
  box-shadow: inset 3px 0 0 var(--sea);
}
.link-quiet {
  color: var(--soft);
  text-decoration: underline dotted;
  text-underline-offset: 3px;
  line-height: 1.15;
}
</style>
