<script setup lang="ts">
import { t } from '@/wording'
import { computed } from 'vue'
import type { Catalogue, RemarkView } from '@/api/schema'
import TallyMark from '@/marks/TallyMark.vue'
import StatePanel from '@/shell/StatePanel.vue'
import { vShows } from '@/shell/shows'
import type { Guarantee } from './book'
import PickWords from './PickWords.vue'

/** A layer's guarantees, each a sentence whose words can be picked. */
const props = defineProps<{
  guarantees: Guarantee[]
  catalogue: Catalogue
  editable: boolean
  chosen: string
  remarks: RemarkView[]
  breaking: (id: string) => number
  differs: (id: string) => boolean
}>()
const emit = defineEmits<{
  choose: [id: string]
  change: [id: string, guarantee: Guarantee | null]
  add: []
}>()

const remarksOn = computed(
  () => (id: string) => props.remarks.filter((remark) => remark.guarantee === id),
)
function patch(guarantee: Guarantee, part: Partial<Guarantee>) {
  const next = { ...guarantee, ...part }
  if (!next.reason) delete next.reason
  emit('change', guarantee.id, next)
}
const number = (event: Event) => Number((event.target as HTMLSelectElement).value)
const text = (event: Event) => (event.target as HTMLInputElement).value
</script>

<template>
  <ul>
    <li
      v-for="g in guarantees"
      :key="g.id"
      class="border-b border-hair border-l-[3px] px-4 py-3"
      :class="g.id === chosen ? 'border-l-ink bg-sheet' : 'border-l-transparent'"
      @click="emit('choose', g.id)"
      @focusin="g.id !== chosen && emit('choose', g.id)"
    >
      <div class="flex gap-4">
        <TallyMark :severity="g.importance ?? 2" class="mt-1 shrink-0 self-start" />
        <div class="min-w-0 flex-1">
          <p class="text-[15px] leading-7">
            {{ t('rulebook.nobodyWho') }}
            <PickWords
              :label="t('rulebook.who')"
              several
              :options="catalogue.personas"
              :picked="g.who"
              :editable="editable"
              @pick="patch(g, { who: $event })"
            />
            {{ t('rulebook.may') }}
            <PickWords
              :label="t('rulebook.what')"
              several
              :options="catalogue.rights"
              :picked="g.rights"
              :editable="editable"
              @pick="patch(g, { rights: $event })"
            /><template v-if="g.ceiling !== 'never' || editable"
              >{{ t('rulebook.except') }}
              <PickWords
                :label="t('rulebook.except2')"
                :several="false"
                :options="
                  catalogue.levels
                    .filter((l) => l.id !== 'unattended')
                    .map((l) => ({
                      ...l,
                      phrase: l.id === 'never' ? t('rulebook.inNoCase') : l.phrase,
                    }))
                "
                :picked="[g.ceiling]"
                :editable="editable"
                @pick="patch(g, { ceiling: $event[0] ?? g.ceiling })" /></template
            >.<span v-if="differs(g.id)" class="text-sea" :title="t('rulebook.differs')"> ∗</span>
          </p>
          <div v-if="editable" class="mt-1 flex items-center gap-2">
            <select
              class="field"
              :aria-label="t('rulebook.importance')"
              :value="g.importance ?? 2"
              @change="patch(g, { importance: number($event) })"
            >
              <option :value="1">{{ t('rulebook.n1Note') }}</option>
              <option :value="2">{{ t('rulebook.n2Minor') }}</option>
              <option :value="3">{{ t('rulebook.n3Moderate') }}</option>
              <option :value="4">{{ t('rulebook.n4Serious') }}</option>
            </select>
            <input
              v-shows="g.reason ?? ''"
              class="field min-w-0 flex-1"
              :aria-label="t('rulebook.reason')"
              :placeholder="t('rulebook.why')"
              maxlength="1000"
              @change="patch(g, { reason: text($event) })"
            />
            <button class="link" @click.stop="emit('change', g.id, null)">
              {{ t('rulebook.remove')
              }}<span class="hidden-label"> {{ t('rulebook.theGuaranteeId', { id: g.id }) }}</span>
            </button>
          </div>
          <p v-else class="text-soft">{{ g.reason }}</p>
          <p
            v-for="(remark, i) in remarksOn(g.id)"
            :key="i"
            class="mt-1"
            :class="remark.weight === 'wrong' ? 'text-rust' : 'text-sand'"
          >
            {{ remark.text }}
          </p>
        </div>
        <span class="whitespace-nowrap text-right text-soft">
          <span class="value" :class="breaking(g.id) ? 'text-rust' : ''">{{ breaking(g.id) }}</span>
          {{ breaking(g.id) === 1 ? t('rulebook.breach') : t('rulebook.breaches') }}
        </span>
      </div>
    </li>
    <li v-if="!guarantees.length">
      <StatePanel state="empty" :title="t('rulebook.thisLayerGivesNoGuarantees')">
        {{ t('rulebook.aGuaranteeSaysWhatMustNeverHappen') }}
      </StatePanel>
    </li>
    <li v-if="editable" class="px-5 py-3">
      <button class="button" @click="emit('add')">{{ t('rulebook.newGuarantee') }}</button>
    </li>
  </ul>
</template>
