<script setup lang="ts">
import { t } from '@/wording'
import { computed, ref } from 'vue'
import { useCatalogue } from '@/api/catalogue'
import { api, Problem, take } from '@/api/client'
import { useSession } from '@/api/session'
import type { DraftLine } from '@/api/schema'
import { useAct } from '@/shell/act'
import ProblemNote from '@/shell/ProblemNote.vue'
import { fullTime } from '@/shell/times'
import type { Guarantee, Rule } from './book'
import type { Clash } from './draft'
import { guaranteeWords, ruleWords } from './words'

/** What has come between: others' changes, a newer edition, a proposal, a refusal, a failure. */
const props = defineProps<{
  draft: DraftLine | null
  /** The state of the draft that is shown: consent is given to that. */
  version: number
  clashes: Clash[]
  problem: Error | null
  layerTitle: (key: string) => string
}>()
const emit = defineEmits<{
  settle: [clash: Clash, mine: boolean]
  bringUp: []
  changed: []
  published: [edition: number]
  retry: []
  keep: []
}>()

const session = useSession()
const { catalogue, controls } = useCatalogue()
const why = ref('')
const declining = ref(false)
const { busy, problem: failed, attempt } = useAct()
/** Somebody published or discarded the draft while it was open here. */
const gone = computed(() => props.problem instanceof Problem && props.problem.status === 404)

const words = (clash: Clash, item: Clash['mine']) =>
  clash.control
    ? ruleWords(controls.value.get(clash.control), item as Rule | null)
    : guaranteeWords(catalogue.value, item as Guarantee | null)

const act = (what: 'consent' | 'decline' | 'withdraw') =>
  attempt(async () => {
    const path = { id: props.draft?.id ?? 0 }
    if (what === 'consent') {
      const params = { path, query: { version: props.version } }
      const done = await take(api.POST('/api/rulebook/drafts/{id}/consent', { params }))
      emit('published', done.edition ?? 0)
    } else if (what === 'decline') {
      const body = { words: why.value }
      await take(api.POST('/api/rulebook/drafts/{id}/decline', { params: { path }, body }))
      declining.value = false
      emit('changed')
    } else {
      await take(api.POST('/api/rulebook/drafts/{id}/withdraw', { params: { path } }))
      emit('changed')
    }
  })
</script>

<template>
  <div>
    <div v-for="(clash, i) in clashes" :key="i" class="note bg-sand-wash" role="alert">
      <p>
        <strong
          >{{ clash.control ? controls.get(clash.control)?.title : t('rulebook.aGuarantee') }},
          {{ layerTitle(clash.layer) }}</strong
        >{{
          t('rulebook.somebodyElseChangedItMeanwhileToClash', {
            clash: words(clash, clash.theirs),
            clash2: words(clash, clash.mine),
          })
        }}
      </p>
      <button class="button" @click="emit('settle', clash, false)">
        {{ t('rulebook.keepTheirs') }}
      </button>
      <button class="button" @click="emit('settle', clash, true)">
        {{ t('rulebook.putMine') }}
      </button>
    </div>
    <div v-if="draft?.proposal" class="note bg-sea-wash">
      <p>
        <strong>{{ draft.proposal.by }}</strong>
        {{ t('rulebook.proposesToPublishThisReason', { reason: draft.proposal.reason })
        }}<template v-if="draft.proposal.effectiveAt">{{
          t('rulebook.inForceFromEffectiveAt', {
            effectiveAt: fullTime(draft.proposal.effectiveAt),
          })
        }}</template
        >{{ t('rulebook.itWaitsForASecondWardenAnd') }}
      </p>
      <button
        v-if="draft.proposal.by === session.who?.email"
        class="button"
        @click="act('withdraw')"
      >
        {{ t('rulebook.withdraw') }}
      </button>
      <template v-else-if="declining">
        <form class="flex gap-2" @submit.prevent="act('decline')">
          <input
            v-model="why"
            class="field"
            :aria-label="t('rulebook.whyNot')"
            :placeholder="t('rulebook.whyNot')"
            maxlength="2000"
            required
          />
          <button class="button">{{ t('rulebook.decline') }}</button>
        </form>
      </template>
      <template v-else>
        <button class="button button-main" :disabled="busy" @click="act('consent')">
          {{ t('rulebook.consentAndPublish') }}
        </button>
        <button class="button" @click="declining = true">{{ t('rulebook.decline2') }}</button>
      </template>
    </div>
    <div v-else-if="draft?.refusal" class="note">
      <p>
        <strong>{{ draft.refusal.by }}</strong>
        {{ t('rulebook.declinedWords', { words: draft.refusal.words }) }}
      </p>
    </div>
    <div v-if="draft?.behind && !draft.proposal" class="note bg-sand-wash">
      <p>{{ t('rulebook.aNewerEditionWasPublishedAfterThis') }}</p>
      <button class="button" @click="emit('bringUp')">
        {{ t('rulebook.bringItUpToThatEdition') }}
      </button>
    </div>
    <div v-if="problem" class="note">
      <ProblemNote class="flex-1" :problem="problem" />
      <button v-if="gone" class="button" @click="emit('keep')">
        {{ t('rulebook.keepItAsANewDraft') }}
      </button>
      <button v-else class="button" @click="emit('retry')">{{ t('rulebook.tryAgain') }}</button>
    </div>
    <ProblemNote v-if="failed" class="mx-5 my-2" :problem="failed" />
  </div>
</template>

<style scoped>
.note {
  display: flex;
  align-items: center;
  gap: 0.75rem;
  border-bottom: 1px solid var(--line);
  padding: 6px 20px;
}
.note > p {
  flex: 1;
}
</style>
