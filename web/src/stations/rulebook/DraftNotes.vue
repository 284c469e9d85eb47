<script setup lang="ts">
import { computed, ref } from 'vue'
import { useCatalogue } from '@/api/catalogue'
import { api, Problem, take } from '@/api/client'
import { useSession } from '@/api/session'
import type { DraftLine } from '@/api/schema'
import ProblemNote from '@/shell/ProblemNote.vue'
import { fullTime } from '@/shell/times'
import type { Guarantee, Rule } from './book'
import type { Clash } from './draft'
import { guaranteeWords, ruleWords } from './words'

/** What has come between: others' changes, a newer edition, a proposal, a refusal, a failure. */
const props = defineProps<{
  draft: DraftLine | null
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
const failed = ref<Error | null>(null)
/** Somebody published or discarded the draft while it was open here. */
const gone = computed(() => props.problem instanceof Problem && props.problem.status === 404)

const words = (clash: Clash, item: Clash['mine']) =>
  clash.control
    ? ruleWords(controls.value.get(clash.control), item as Rule | null)
    : guaranteeWords(catalogue.value, item as Guarantee | null)

async function act(what: 'consent' | 'decline' | 'withdraw') {
  failed.value = null
  const path = { id: props.draft?.id ?? 0 }
  try {
    if (what === 'consent') {
      const done = await take(api.POST('/api/rulebook/drafts/{id}/consent', { params: { path } }))
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
  } catch (e) {
    failed.value = e as Error
  }
}
</script>

<template>
  <div>
    <div v-for="(clash, i) in clashes" :key="i" class="note bg-sand-wash" role="alert">
      <p>
        <strong
          >{{ clash.control ? controls.get(clash.control)?.title : 'A guarantee' }},
          {{ layerTitle(clash.layer) }}</strong
        >: somebody else changed it meanwhile to “{{ words(clash, clash.theirs) }}”. You wanted “{{
          words(clash, clash.mine)
        }}”.
      </p>
      <button class="button" @click="emit('settle', clash, false)">Keep theirs</button>
      <button class="button" @click="emit('settle', clash, true)">Put mine</button>
    </div>
    <div v-if="draft?.proposal" class="note bg-sea-wash">
      <p>
        <strong>{{ draft.proposal.by }}</strong> proposes to publish this: “{{
          draft.proposal.reason
        }}”<template v-if="draft.proposal.effectiveAt"
          >, in force from {{ fullTime(draft.proposal.effectiveAt) }}</template
        >. It waits for a second warden and cannot be changed meanwhile.
      </p>
      <button
        v-if="draft.proposal.by === session.who?.email"
        class="button"
        @click="act('withdraw')"
      >
        Withdraw
      </button>
      <template v-else-if="declining">
        <form class="flex gap-2" @submit.prevent="act('decline')">
          <input v-model="why" class="field" aria-label="Why not" placeholder="Why not" required />
          <button class="button">Decline</button>
        </form>
      </template>
      <template v-else>
        <button class="button button-main" @click="act('consent')">Consent and publish</button>
        <button class="button" @click="declining = true">Decline…</button>
      </template>
    </div>
    <div v-else-if="draft?.refusal" class="note">
      <p>
        <strong>{{ draft.refusal.by }}</strong> declined: “{{ draft.refusal.words }}”
      </p>
    </div>
    <div v-if="draft?.behind && !draft.proposal" class="note bg-sand-wash">
      <p>A newer edition was published after this draft was begun.</p>
      <button class="button" @click="emit('bringUp')">Bring it up to that edition</button>
    </div>
    <div v-if="problem" class="note">
      <ProblemNote class="flex-1" :problem="problem" />
      <button v-if="gone" class="button" @click="emit('keep')">Keep it as a new draft</button>
      <button v-else class="button" @click="emit('retry')">Try again</button>
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
