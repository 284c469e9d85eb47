<script setup lang="ts">
import { t } from '@/wording'
import { counted } from '@/shell/counted'
import { computed } from 'vue'
import { label, useCatalogue } from '@/api/catalogue'
import { api, take } from '@/api/client'
import type { GuaranteeView } from '@/api/schema'
import type { Rulebook } from './book'
import { latest } from './impact'

/** Which meetings break a guarantee now, and which controls could keep it. */
const props = defineProps<{ book: Rulebook; layer: string; guarantee: string }>()

const { controls } = useCatalogue()
const { answer, problem } = latest(
  () =>
    props.book.layers.some((l) => l.guarantees?.some((g) => g.id === props.guarantee))
      ? {
          document: props.book as unknown as Record<string, unknown>,
          layer: props.layer,
          guarantee: props.guarantee,
        }
      : null,
  (body): Promise<GuaranteeView> => take(api.POST('/api/rulebook/guarantee-study', { body })),
)
const most = computed(() => answer.value?.keepers.slice(0, 8) ?? [])
</script>

<template>
  <section :aria-label="t('rulebook.whatKeepsTheGuarantee')" aria-live="polite" class="mt-4">
    <h2 class="head">{{ t('rulebook.keptByTheMeetingsItIsFor') }}</h2>
    <p v-if="problem" class="text-rust" role="alert">{{ problem.message }}</p>
    <template v-if="answer">
      <p>
        <strong :class="answer.breaking ? 'text-rust' : 'text-kelp'">{{ answer.breaking }}</strong>
        {{
          t('rulebook.ofMeetingsXItNow', {
            meetings: counted(answer.applies, 'meeting'),
            x: answer.breaking === 1 ? t('rulebook.breaks') : t('rulebook.break'),
          })
        }}<template v-if="!answer.breaking">{{ t('rulebook.itIsKeptEverywhere') }}</template
        >.
      </p>
      <template v-if="answer.breaking">
        <h3 class="head mt-3">{{ t('rulebook.oneControlThatWouldKeepIt') }}</h3>
        <table class="w-full">
          <tbody>
            <tr v-for="keeper in most" :key="keeper.control" class="border-b border-hair">
              <td class="py-0.5">
                <RouterLink
                  class="hover:text-sea hover:underline"
                  :to="{ path: '/rulebook', query: { layer, control: keeper.control } }"
                  >{{ controls.get(keeper.control)?.title }}</RouterLink
                >
              </td>
              <td class="value">{{ label(controls.get(keeper.control), keeper.to) }}</td>
              <td class="value text-right" :title="t('rulebook.meetingsItWouldMendByItself')">
                {{ keeper.meetings }}
              </td>
            </tr>
          </tbody>
        </table>
        <p v-if="answer.keptByNone" class="mt-1 text-soft">
          {{ t('rulebook.keptByNoneNeedMoreThanOneControlOr', { keptByNone: answer.keptByNone }) }}
        </p>
        <h3 class="head mt-3">{{ t('rulebook.meetingsThatBreakIt') }}</h3>
        <ul>
          <li
            v-for="m in answer.meetings"
            :key="m.id"
            class="flex justify-between gap-2 border-b border-hair py-0.5"
          >
            <RouterLink
              class="truncate hover:text-sea hover:underline"
              dir="auto"
              :to="`/register/${encodeURIComponent(m.id)}`"
              >{{ m.title }}</RouterLink
            >
            <span class="truncate text-soft">{{ m.hostName }}</span>
          </li>
        </ul>
      </template>
    </template>
    <p v-else-if="!problem" class="text-soft">{{ t('rulebook.lookingAtEveryMeeting') }}</p>
  </section>
</template>
