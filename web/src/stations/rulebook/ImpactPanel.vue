<script setup lang="ts">
import { t } from '@/wording'
import { computed, ref } from 'vue'
import { useCatalogue } from '@/api/catalogue'
import type { ImpactView } from '@/api/schema'
import TallyMark from '@/marks/TallyMark.vue'
import { beyondWords } from './words'

/** What the draft would do to the register, all of it or by one control or guarantee. */
const props = defineProps<{
  impact: ImpactView | null
  problem: Error | null
  asking: boolean
  /** Whether anything differs from the edition in force. */
  changed: boolean
  /** The control or guarantee chosen, by id and title. */
  subject: string
  subjectTitle: string
  more: boolean
}>()
defineEmits<{ more: [] }>()
const open = ref<'units' | 'hosts' | 'meetings'>('units')

const own = computed(() => props.impact?.subjects.find((s) => s.id === props.subject))
const { controls } = useCatalogue()
const beyond = computed(() => (props.impact?.beyond ?? []).filter((b) => b.after !== b.before))
const signed = (n: number) => (n > 0 ? `+${n}` : n < 0 ? `−${-n}` : '±0')
const tone = (n: number) => (n > 0 ? 'text-rust' : n < 0 ? 'text-kelp' : 'text-soft')
const groups = computed(() =>
  open.value === 'units' ? (props.impact?.units ?? []) : (props.impact?.hosts ?? []),
)
const meetings = (n: number) => `${n} ${n === 1 ? t('rulebook.meeting') : t('rulebook.meetings')}`
</script>

<template>
  <section :aria-label="t('rulebook.whatTheDraftWouldDo')" aria-live="polite" :aria-busy="asking">
    <h2 class="head flex justify-between">
      {{ changed ? t('rulebook.ifThisWerePublished') : t('rulebook.asItStands') }}
      <span class="font-normal text-soft">{{ asking ? t('rulebook.counting') : '' }}</span>
    </h2>
    <p v-if="problem" class="mt-1 text-rust" role="alert">{{ problem.message }}</p>
    <p v-else-if="!impact" class="mt-1 text-soft">{{ t('rulebook.countingTheRegister') }}</p>
    <template v-else>
      <table class="mt-1 w-full">
        <tbody>
          <tr v-for="s in [...impact.severities].reverse()" :key="s.severity" class="severity">
            <td><TallyMark :severity="s.severity" word /></td>
            <td class="value text-right">{{ s.after }}</td>
            <td class="value w-14 text-right" :class="tone(s.after - s.before)">
              {{ changed ? signed(s.after - s.before) : '' }}
            </td>
          </tr>
        </tbody>
      </table>
      <template v-if="changed">
        <p class="mt-2">
          <strong class="text-rust">{{
            t('rulebook.appearedNew', { appeared: impact.total.appeared })
          }}</strong>,
          <strong class="text-kelp">{{
            t('rulebook.goneGone', { gone: impact.total.gone })
          }}</strong>{{ t('rulebook.sameTheSame', { same: impact.total.same })
          }}<template v-if="impact.total.regraded">{{
            t('rulebook.regradedOfOtherWeight', { regraded: impact.total.regraded })
          }}</template
          >{{
            t('rulebook.touchedOfTouchedHostsX', {
              touched: meetings(impact.touched),
              touchedHosts: impact.touchedHosts,
              x: impact.touchedHosts === 1 ? t('rulebook.host') : t('rulebook.hosts'),
            })
          }}
        </p>
        <p v-if="own && own.meetings" class="mt-1 text-soft">
          {{
            t('rulebook.subjectTitleAppearedNewGoneGoneInMeetings', {
              subjectTitle,
              appeared: own.count.appeared,
              gone: own.count.gone,
              meetings: meetings(own.meetings),
            })
          }}
        </p>
        <ul v-if="beyond.length" class="mt-2" :aria-label="t('rulebook.whatServicesCannotHold')">
          <li v-for="b in beyond" :key="b.service + b.control" class="border-l-4 border-sand pl-2">
            {{ beyondWords(b, controls.get(b.control)) }}
          </li>
        </ul>
        <div v-if="impact.touched" class="mt-2">
          <div
            class="flex gap-4 border-b border-line"
            role="group"
            :aria-label="t('rulebook.touched')"
          >
            <button
              v-for="which in ['units', 'hosts', 'meetings'] as const"
              :key="which"
              class="border-b-2 pb-0.5"
              :class="which === open ? 'border-ink font-bold' : 'border-transparent text-soft'"
              :aria-pressed="which === open"
              @click="open = which"
            >
              {{ which }}
            </button>
          </div>
          <ul v-if="open !== 'meetings'">
            <li v-for="group in groups" :key="group.id" class="line">
              <span class="truncate">{{ group.name }}</span>
              <span class="value whitespace-nowrap"
                >{{ group.meetings
                }}<span class="text-soft"> · +{{ group.appeared }} −{{ group.gone }}</span></span
              >
            </li>
            <li v-if="open === 'hosts' && impact.touchedHosts > groups.length" class="text-soft">
              {{
                t('rulebook.andTouchedHostsMore', {
                  touchedHosts: impact.touchedHosts - groups.length,
                })
              }}
            </li>
          </ul>
          <ul v-else>
            <li v-for="m in impact.worst" :key="m.id" class="line">
              <RouterLink
                class="truncate hover:text-sea hover:underline"
                dir="auto"
                :to="`/register/${encodeURIComponent(m.id)}`"
                :title="`${m.title}, ${m.hostName}`"
                >{{ m.title }}</RouterLink
              >
              <span class="value whitespace-nowrap">
                <TallyMark v-if="m.worst" :severity="m.worst" />
                <span :class="m.appeared ? 'text-rust' : 'text-kelp'">{{
                  m.appeared ? `+${m.appeared}` : `−${m.gone}`
                }}</span>
              </span>
            </li>
            <li v-if="more">
              <button class="link" @click="$emit('more')">{{ t('rulebook.showMore') }}</button>
            </li>
          </ul>
        </div>
      </template>
      <p v-else class="mt-2 text-soft">
        {{
          t('rulebook.findingsThatRulesAndGuaranteesDecide', {
            meetings: meetings(impact.meetings),
          })
        }}
      </p>
    </template>
  </section>
</template>

<style scoped>
.severity td {
  border-bottom: 1px solid var(--hair);
  padding: 2px 0;
}
.line {
  display: flex;
  justify-content: space-between;
  gap: 0.5rem;
  border-bottom: 1px solid var(--hair);
  padding: 3px 0;
}
</style>
