<script setup lang="ts">
import { t } from '@/wording'
import { useQuery, useQueryCache } from '@pinia/colada'
import { useLocalStorage } from '@vueuse/core'
import { computed, nextTick, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useCatalogue, useOrganisation } from '@/api/catalogue'
import { api, take } from '@/api/client'
import { useSession } from '@/api/session'
import { useOwnUnits } from '@/api/units'
import type { PublishedView } from '@/api/schema'
import StatePanel from '@/shell/StatePanel.vue'
import AppliesBar from './AppliesBar.vue'
import { useActs } from './acts'
import { layerOf, ruleOf, same, scopeOf, type Guarantee } from './book'
import ControlRow from './ControlRow.vue'
import { useDraft } from './draft'
import { bringIn } from './files'
import DraftFooter from './DraftFooter.vue'
import DraftMenu from './DraftMenu.vue'
import DraftNotes from './DraftNotes.vue'
import EmptyRulebook from './EmptyRulebook.vue'
import FamilyNav from './FamilyNav.vue'
import { useAppraisal, useImpact, type Whom } from './impact'
import GuaranteeList from './GuaranteeList.vue'
import GuaranteePanel from './GuaranteePanel.vue'
import ImpactPanel from './ImpactPanel.vue'
import LayerBar from './LayerBar.vue'
import { useLayerTitle } from './layers'
import PublishDialog from './PublishDialog.vue'
import RuleEditor from './RuleEditor.vue'
import { ruleFrom, rungsOf, withMeans } from './rungs'
import StarterSteps from './StarterSteps.vue'
import { useRulebookView } from './view'

const route = useRoute()
const router = useRouter()
const session = useSession()
const cache = useQueryCache()
const { catalogue, controls, error: catalogueError } = useCatalogue()
const { organisation } = useOrganisation()
const layerTitle = useLayerTitle()
const { data: services } = useQuery({
  key: ['services'],
  query: () => take(api.GET('/api/services')),
  enabled: () => session.isWarden || session.who?.role === 'auditor',
})
const { isOwnLayer, ownName } = useOwnUnits()

// the draft chosen is in the address, and remembered for the next time
const remembered = useLocalStorage<string>(`warden-draft-${session.who?.email}`, '')
const asked = String(route.query.draft ?? remembered.value)
const draftId = ref<number | null>(session.mayDraft && /^\d+$/.test(asked) ? Number(asked) : null)
function choose(id: number | null) {
  if (id === draftId.value) draft.reload()
  draftId.value = id
  remembered.value = id === null ? '' : String(id)
  router.replace({ query: { ...route.query, draft: id === null ? undefined : String(id) } })
}
const draft = useDraft(draftId, choose)
// what was remembered and is no more, since it was published or discarded, is forgotten
watch(draft.problem, (problem) => {
  const gone = problem && 'status' in problem && problem.status === 404
  if (gone && !route.query.draft && !draft.line.value) {
    publishing.value = false
    choose(null)
  }
})

const subject = computed(() => view.chosen.value?.id ?? view.query('guarantee'))
const listed = ref(20)
const {
  answer: impact,
  problem: impactProblem,
  asking,
} = useImpact(
  draft.book,
  ref(null),
  listed,
  computed(() => draft.inForce.data.value?.number),
  () => !session.isHost,
)
const whom = computed<Whom>(() => {
  if (view.applied.value) return view.whom.value
  const scope = scopeOf(view.layer.value)
  return { [scope.level]: scope.id }
})
const remarks = computed(() => appraisal.value?.remarks ?? [])
const view = useRulebookView({
  catalogue,
  book: draft.book,
  published: draft.published,
  impact,
  remarks,
  home: session.isUnitWarden ? `unit:${session.who?.unit}` : 'organisation',
})
const { answer: appraisal, problem: appraisalProblem } = useAppraisal(draft.book, whom, asking)

const by = computed(() => (view.query('by') === 'occurrences' ? 'occurrences' : 'series'))
const { data: distribution } = useQuery({
  key: () => ['meetings', 'distribution', view.layer.value, by.value],
  query: () =>
    take(
      api.GET('/api/meetings/distribution', {
        params: { query: { layer: view.layer.value, by: by.value } },
      }),
    ),
  enabled: () => !session.isHost && !session.isUnitWarden,
})
const total = computed(() =>
  by.value === 'series' ? distribution.value?.series : distribution.value?.occurrences,
)
const counts = (id: string) => distribution.value?.controls[id] ?? {}

const editable = computed(
  () =>
    session.mayDraft &&
    isOwnLayer(view.layer.value) &&
    !draft.line.value?.proposal &&
    !view.applied.value,
)
const changed = computed(() => !!draft.book.value && !same(draft.book.value, draft.published.value))
const rule = (id: string) =>
  view.applied.value ? undefined : ruleOf(draft.book.value, view.layer.value, id)
const resolved = (id: string) => appraisal.value?.resolved[id]
const rungs = (id: string) => {
  const control = controls.value.get(id)
  return control ? rungsOf(control, rule(id) ?? ruleFrom(id, resolved(id)), counts(id)) : []
}
const guarantees = computed<Guarantee[]>(() =>
  view.applied.value
    ? (appraisal.value?.guarantees ?? []).map((g) => g.guarantee as unknown as Guarantee)
    : (layerOf(draft.book.value, view.layer.value)?.guarantees ?? []),
)
const chosenGuarantee = computed(
  () => guarantees.value.find((g) => g.id === view.query('guarantee')) ?? guarantees.value[0],
)

const acts = useActs({
  draft,
  view,
  controls,
  resolved,
  editable,
  publish: () => changed.value && session.isWarden && openPublish(),
})
watch(
  () => view.query('control'),
  async (id) => {
    await nextTick()
    document.getElementById(`control-${id}`)?.scrollIntoView({ block: 'nearest' })
  },
)

const publishing = ref(false)
const said = ref('')
// a message and the command field lead here
watch(
  () => route.query.publish,
  (wanted) => {
    if (wanted !== '1') return
    if (draftId.value === null) said.value = t('rulebook.thereIsNoDraftToPublishBegin')
    else publishing.value = true
    router.replace({ query: { ...route.query, publish: undefined } })
  },
  { immediate: true },
)
// what was said of the last edition is not said beside the next draft
watch(
  () => draft.line.value?.id,
  (id) => id && (said.value = ''),
)
async function openPublish() {
  await draft.settled()
  publishing.value = true
}
async function afterPublishing(result: Pick<PublishedView, 'edition' | 'letters'>) {
  publishing.value = false
  if (result.edition) {
    said.value = t('rulebook.editionEditionIsPublished', { edition: result.edition })
    if (result.letters)
      said.value += t('rulebook.lettersHostsWereWrittenTo', { letters: result.letters })
    choose(null)
    await view.setQuery({ walk: undefined, publish: undefined, draft: undefined })
  } else {
    said.value = t('rulebook.proposedItWaitsForASecondWarden')
    await draft.reload()
  }
  for (const key of ['rulebook', 'drafts', 'meetings', 'meeting']) {
    await cache.invalidateQueries({ key: [key] })
  }
}
async function bringUp() {
  publishing.value = false
  const collisions = await draft.bringUp()
  if (collisions?.length)
    said.value = t('rulebook.collisionsRulesWereChangedInBothThe', {
      collisions: collisions.length,
    })
}
async function keepAsNew() {
  if (!draft.book.value) return
  const name = draft.line.value?.name ?? t('rulebook.kept')
  const begun = await bringIn(name, 'json', JSON.stringify(draft.book.value))
  await cache.invalidateQueries({ key: ['drafts'] })
  choose(begun)
}
async function beginStarter() {
  await draft.begin('starter', t('rulebook.firstEdition'))
  await view.setQuery({ walk: '1', draft: String(draftId.value), family: undefined })
}
</script>

<template>
  <StatePanel
    v-if="catalogueError || draft.inForce.error.value"
    state="failed"
    :problem="catalogueError ?? draft.inForce.error.value"
    @retry="draft.inForce.refetch()"
  />
  <StatePanel v-else-if="!catalogue || !draft.book.value || !organisation" state="loading" />
  <div v-else class="grid h-full grid-cols-[178px_minmax(0,1fr)_300px] narrow:block narrow:h-auto">
    <nav class="border-r border-line py-3" :aria-label="t('rulebook.familiesOfControls')">
      <DraftMenu
        :draft="draft.line.value"
        :present="draft.present.value"
        :editable="session.mayDraft"
        @choose="choose"
      />
      <FamilyNav
        :catalogue="catalogue"
        :layer="layerOf(draft.book.value, view.layer.value)"
        :family="view.onGuarantees.value ? 'guarantees' : view.family.value"
        :show="view.show.value"
        :text="view.query('text')"
        @family="view.toFamily"
        @show="view.setQuery({ show: $event || undefined, control: undefined, text: undefined })"
        @text="view.setQuery({ text: $event || undefined, control: undefined })"
      />
    </nav>

    <div class="flex min-h-0 flex-col">
      <div class="flex min-h-11 shrink-0 items-stretch gap-4 border-b border-line px-5">
        <AppliesBar
          v-if="view.applied.value"
          :organisation="organisation"
          :whom="view.whom.value"
          :problem="appraisalProblem"
          @choose="view.setQuery({ unit: $event.unit, kind: $event.kind, person: $event.person })"
          @close="
            view.setQuery({
              applies: undefined,
              unit: undefined,
              kind: undefined,
              person: undefined,
            })
          "
        />
        <template v-else>
          <LayerBar
            :book="draft.book.value"
            :organisation="organisation"
            :layer="view.layer.value"
            @choose="view.setQuery({ layer: $event, guarantee: undefined })"
          />
          <button class="link whitespace-nowrap" @click="view.setQuery({ applies: '1' })">
            {{ t('rulebook.asItAppliesTo2') }}
          </button>
          <button
            v-if="total !== undefined"
            class="ml-auto whitespace-nowrap text-right text-soft hover:text-sea"
            :title="
              t('rulebook.comingInTheNext90DaysPress', {
                x: by === 'series' ? t('rulebook.occurrences') : t('rulebook.series'),
              })
            "
            @click="view.setQuery({ by: by === 'series' ? 'occurrences' : undefined })"
          >
            {{ total }} {{ by === 'series' ? t('rulebook.series') : t('rulebook.occurrences')
            }}<span class="hidden-label"> {{ t('rulebook.inTheNext90Days') }}</span>
          </button>
        </template>
      </div>
      <DraftNotes
        :draft="draft.line.value"
        :version="draft.version.value"
        :clashes="draft.clashes.value"
        :problem="draft.problem.value"
        :layer-title="layerTitle"
        @settle="(clash, mine) => draft.settle(clash, mine)"
        @bring-up="bringUp"
        @changed="draft.reload()"
        @published="afterPublishing({ edition: $event, letters: 0 })"
        @retry="draft.retry()"
        @keep="keepAsNew"
      />
      <p
        v-if="session.isUnitWarden && !isOwnLayer(view.layer.value) && !view.applied.value"
        class="border-b border-line bg-sheet px-5 py-2 text-soft"
        role="note"
      >
        {{ t('rulebook.youDraftForOwnNameThisLayerIs', { ownName }) }}
        <button class="link" @click="view.setQuery({ layer: `unit:${session.who?.unit}` })">
          {{ t('rulebook.toOwnName', { ownName }) }}
        </button>
      </p>
      <EmptyRulebook
        v-if="draft.inForce.data.value?.number === 0 && draftId === null"
        :editable="session.isWarden"
        @begin="beginStarter"
      />
      <StarterSteps
        v-if="view.query('walk') && draft.line.value"
        :families="catalogue.families"
        :family="view.onGuarantees.value ? 'guarantees' : view.family.value"
        @go="view.toFamily"
        @finish="openPublish"
        @leave="view.setQuery({ walk: undefined })"
      />
      <div class="min-h-0 flex-1 overflow-auto">
        <GuaranteeList
          v-if="view.onGuarantees.value"
          :guarantees="guarantees"
          :catalogue="catalogue"
          :editable="editable"
          :chosen="chosenGuarantee?.id ?? ''"
          :remarks="remarks"
          :breaking="view.found"
          :differs="view.guaranteeDiffers"
          @choose="view.setQuery({ guarantee: $event })"
          @change="acts.changeGuarantee"
          @add="acts.addGuarantee"
        />
        <template v-else>
          <ControlRow
            v-for="c in view.shown.value"
            :key="c.id"
            :control="c"
            :rule="rule(c.id)"
            :resolved="resolved(c.id)"
            :source="layerTitle(resolved(c.id)?.layer ?? '')"
            :rungs="withMeans(c.id, rungs(c.id), services ?? [])"
            :total="total ?? 0"
            :editable="editable"
            :chosen="c.id === view.chosen.value?.id"
            :differs="view.differs(c.id)"
            :remarks="view.remarksOn(c.id)"
            :reasons="!!view.query('walk')"
            @choose="view.setQuery({ control: c.id })"
            @start="acts.moveStart(c.id, $event)"
            @limit="acts.moveLimit(c.id, $event)"
          />
          <StatePanel
            v-if="!view.shown.value.length"
            state="empty"
            :title="
              view.search.value
                ? t('rulebook.noControlLikeThat')
                : t('rulebook.noControlInThisLayerIsLike')
            "
          />
        </template>
      </div>
      <DraftFooter
        :editable="session.mayDraft"
        :publishes="session.isWarden"
        :publishable="changed && !!draft.line.value && !draft.line.value.proposal"
        :can-undo="draft.canUndo.value"
        :can-redo="draft.canRedo.value"
        :saving="draft.line.value ? draft.saving.value : null"
        :said="said"
        :print="
          session.isHost && !view.applied.value
            ? { of: 'in-force', person: session.who?.email ?? '' }
            : { of: draftId ? `draft:${draftId}` : 'in-force', ...whom }
        "
        @publish="openPublish"
        @undo="draft.undo()"
        @redo="draft.redo()"
      />
    </div>

    <aside class="overflow-auto border-l border-ink bg-sheet px-5 py-3">
      <ImpactPanel
        v-if="!session.isHost"
        :impact="impact"
        :problem="impactProblem"
        :asking="asking"
        :changed="changed"
        :subject="subject"
        :subject-title="view.chosen.value?.title ?? t('rulebook.thisGuarantee')"
        :more="(impact?.touched ?? 0) > listed"
        @more="listed = Math.min(200, listed + 60)"
      />
      <RuleEditor
        v-if="view.chosen.value"
        :key="view.layer.value + view.chosen.value.id"
        class="mt-3 border-t border-ink pt-3"
        :control="view.chosen.value"
        :rule="rule(view.chosen.value.id)"
        :before="ruleOf(draft.published.value, view.layer.value, view.chosen.value.id)"
        :rungs="rungs(view.chosen.value.id)"
        :unknown="counts(view.chosen.value.id)['?'] ?? 0"
        :uncounted="!distribution"
        :editable="editable"
        :remarks="view.remarksOn(view.chosen.value.id)"
        :resolved="resolved(view.chosen.value.id)"
        :applied="view.applied.value"
        @change="acts.change(view.chosen.value.id, $event)"
      />
      <GuaranteePanel
        v-else-if="view.onGuarantees.value && chosenGuarantee && !view.applied.value"
        :book="draft.book.value"
        :layer="view.layer.value"
        :guarantee="chosenGuarantee.id"
      />
    </aside>
    <PublishDialog
      :open="publishing && !!draft.line.value"
      :draft="draft.line.value"
      :version="draft.version.value"
      :next="draft.inForce.data.value?.next ?? 1"
      :impact="impact"
      :remarks="remarks"
      :layer-title="layerTitle"
      @close="publishing = false"
      @published="afterPublishing"
      @bring-up="bringUp"
    />
  </div>
</template>
