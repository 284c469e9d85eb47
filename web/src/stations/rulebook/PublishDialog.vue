<script setup lang="ts">
import { t } from '@/wording'
import { counted } from '@/shell/counted'
import { useQuery } from '@pinia/colada'
import { computed, ref, watch } from 'vue'
import { api, Problem, take } from '@/api/client'
import type { DraftLine, ImpactView, PublishedView, RemarkView } from '@/api/schema'
import ModalSheet from '@/shell/ModalSheet.vue'
import { useAct } from '@/shell/act'
import ProblemNote from '@/shell/ProblemNote.vue'
import ComparisonTable from './ComparisonTable.vue'

/** What publishing would change, and why and when; then it is published, or proposed. */
const props = defineProps<{
  open: boolean
  draft: DraftLine | null
  version: number
  next: number
  impact: ImpactView | null
  remarks: RemarkView[]
  layerTitle: (key: string) => string
}>()
const emit = defineEmits<{ close: []; published: [result: PublishedView]; bringUp: [] }>()

const field = ref<HTMLElement | null>(null)
const reason = ref('')
const later = ref(false)
const when = ref('')
const tellHosts = ref(false)
const { busy, problem, attempt } = useAct()

const { data: comparison, refetch } = useQuery({
  key: () => ['comparison', 'in-force', `draft:${props.draft?.id}`, props.version],
  query: () =>
    take(
      api.GET('/api/rulebook/comparison', {
        params: { query: { from: 'in-force', to: `draft:${props.draft?.id}` } },
      }),
    ),
  enabled: () => props.open && !!props.draft,
})
const { data: house } = useQuery({
  key: ['consent'],
  query: () => take(api.GET('/api/rulebook/drafts/consent')),
  enabled: () => props.open,
})
watch(
  () => props.open,
  (open) => {
    problem.value = null
    if (open) refetch()
  },
)
const wrong = computed(() => props.remarks.filter((r) => r.weight === 'wrong').length)
const overtaken = computed(
  () => problem.value instanceof Problem && problem.value.code === 'edition-overtaken',
)

async function publish() {
  const draft = props.draft
  if (!draft) return
  await attempt(async () => {
    const result = await take(
      api.POST('/api/rulebook/drafts/{id}/publish', {
        params: { path: { id: draft.id } },
        body: {
          version: props.version,
          reason: reason.value,
          effectiveAt: later.value && when.value ? new Date(when.value).toISOString() : null,
          tellHosts: tellHosts.value,
        },
      }),
    )
    reason.value = ''
    emit('published', result)
  })
  if (problem.value) void refetch()
}
</script>

<template>
  <ModalSheet
    :open="open"
    :title="
      house?.needsConsent ? t('rulebook.proposeForPublishing') : t('rulebook.publishANewEdition')
    "
    wide
    :first="field"
    @close="emit('close')"
  >
    <p class="text-soft">
      {{ t('rulebook.newMeetingsBeginWithItMeetingsAlready') }}
      <template v-if="impact">
        {{ t('rulebook.inTheRegister') }}
        <strong class="text-rust">{{ counted(impact.total.appeared, 'newFinding') }}</strong>,
        <strong class="text-kelp">{{
          t('rulebook.goneGone', { gone: impact.total.gone })
        }}</strong>{{
          t('rulebook.inMeetingsOfHosts', {
            meetings: counted(impact.touched, 'meeting'),
            hosts: counted(impact.touchedHosts, 'host'),
          })
        }}
      </template>
    </p>
    <p v-if="wrong" class="mt-1 text-rust">
      {{
        t('rulebook.wrongXMarkedWrongItCanBe', {
          wrong,
          x: wrong === 1 ? t('rulebook.ruleOrGuaranteeIs') : t('rulebook.rulesOrGuaranteesAre'),
        })
      }}
    </p>
    <div class="mt-3 max-h-72 overflow-auto">
      <ComparisonTable v-if="comparison" :comparison="comparison" :layer-title="layerTitle" />
    </div>
    <form class="mt-4 flex flex-col gap-3" @submit.prevent="publish">
      <label class="flex flex-col gap-1">
        {{ t('rulebook.why') }}
        <textarea
          ref="field"
          v-model="reason"
          class="field"
          rows="2"
          maxlength="2000"
          required
          :readonly="busy"
        />
      </label>
      <div class="flex flex-wrap items-center gap-x-5 gap-y-2">
        <label class="flex items-center gap-2">
          <input v-model="later" type="radio" :value="false" name="when" />
          {{ t('rulebook.atOnce') }}
        </label>
        <label class="flex items-center gap-2">
          <input v-model="later" type="radio" :value="true" name="when" />
          {{ t('rulebook.atATime') }}
        </label>
        <input
          v-if="later"
          v-model="when"
          class="field"
          type="datetime-local"
          :aria-label="t('rulebook.inForceFrom')"
          required
        />
        <label class="ml-auto flex items-center gap-2">
          <input v-model="tellHosts" type="checkbox" />
          {{ t('rulebook.writeToHostsWhatChangesForThem') }}
        </label>
      </div>
      <p v-if="house?.needsConsent" class="text-soft">
        {{ t('rulebook.itIsPublishedWhenASecondWarden') }}
      </p>
      <ProblemNote :problem="problem" />
      <div class="flex items-center gap-3">
        <button class="button button-main" :disabled="!reason.trim() || busy">
          {{
            house?.needsConsent
              ? t('rulebook.proposeIt')
              : t('rulebook.publishEditionNext', { next })
          }}
        </button>
        <button v-if="overtaken" type="button" class="button" @click="emit('bringUp')">
          {{ t('rulebook.bringTheDraftUpToTheNew') }}
        </button>
      </div>
    </form>
  </ModalSheet>
</template>
