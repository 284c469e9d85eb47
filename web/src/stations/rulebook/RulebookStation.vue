<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { computed, nextTick, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { layerName, useCatalogue, useOrganisation, type Plain } from '@/api/catalogue'
import { api, take } from '@/api/client'
import { useSession } from '@/api/session'
import TallyMark from '@/marks/TallyMark.vue'
import { useKeys } from '@/shell/keys'
import StatePanel from '@/shell/StatePanel.vue'
import ControlLadder from './ControlLadder.vue'
import { scopeKey, useDraft, type Layer, type Rule } from './draft'
import PublishDialog from './PublishDialog.vue'
import RuleEditor from './RuleEditor.vue'
import { rungsOf, startOf } from './rungs'

const route = useRoute()
const router = useRouter()
const session = useSession()
const { catalogue, controls, error: catalogueError } = useCatalogue()
const { organisation, unitName, kindName } = useOrganisation()
const draft = useDraft()
const { data: distribution } = useQuery({
  key: ['meetings', 'distribution'],
  query: () => take(api.GET('/api/meetings/distribution')),
  enabled: () => !session.isHost,
})
const publishing = ref(false)

const query = (key: string) => String(route.query[key] ?? '')
function setQuery(part: Record<string, string | undefined>) {
  router.replace({ query: { ...route.query, ...part } })
}
const layer = computed(() => query('layer') || 'organisation')
const family = computed(
  () =>
    controls.value.get(query('control'))?.family ||
    query('family') ||
    catalogue.value?.families[0]?.id ||
    '',
)
const search = computed(() => query('text').toLowerCase())
const onlyChanged = computed(() => query('changed') === '1')

const layers = computed(() => {
  const of = (level: Layer['scope']['level'], id?: string) => ({ level, ...(id ? { id } : {}) })
  return [
    of('organisation'),
    ...(organisation.value?.units ?? []).map((u) => of('unit', u.id)),
    ...(organisation.value?.kinds ?? []).map((k) => of('kind', k.id)),
  ].map((scope) => ({
    key: scopeKey(scope),
    name: layerName(
      scope,
      (id) => unitName(id),
      (id) => kindName(id),
    ),
    rules:
      draft.rulebook.value?.layers.find((l) => scopeKey(l.scope) === scopeKey(scope))?.rules
        .length ?? 0,
  }))
})
const differs = (id: string) =>
  JSON.stringify(draft.rule(layer.value, id)) !==
  JSON.stringify(draft.publishedRule(layer.value, id))
const shown = computed(() =>
  (catalogue.value?.controls ?? []).filter((c) => {
    if (search.value)
      return `${c.title} ${c.effect} ${c.risk} ${c.id} ${c.rungs.map((r) => r.label).join(' ')}`
        .toLowerCase()
        .includes(search.value)
    if (onlyChanged.value) return differs(c.id)
    return c.family === family.value
  }),
)
const chosen = computed(() => shown.value.find((c) => c.id === query('control')) ?? shown.value[0])
const countOf = (id: string) => {
  const rules = draft.rulebook.value?.layers.find((l) => scopeKey(l.scope) === layer.value)?.rules
  return rules?.filter((r) => controls.value.get(r.control)?.family === id).length ?? 0
}
const counts = (id: string) => distribution.value?.controls[id] ?? {}
const rungs = (id: string) => {
  const control = controls.value.get(id)
  return control ? rungsOf(control, draft.rule(layer.value, id), counts(id)) : []
}
const guarantees = computed(
  () =>
    draft.rulebook.value?.layers.find((l) => scopeKey(l.scope) === layer.value)?.guarantees ?? [],
)
const phrase = (list: { id: string; phrase: string }[] | undefined, id: string) =>
  list?.find((n) => n.id === id)?.phrase ?? id

function change(id: string, rule: Rule | null) {
  draft.setRule(layer.value, id, rule)
}
function moveStart(id: string, value: Plain) {
  const rule = draft.rule(layer.value, id)
  if (!rule) return
  change(id, rule.mode === 'fix' ? { ...rule, value } : { ...rule, start: value })
}
function moveLimit(id: string, value: Plain) {
  const rule = draft.rule(layer.value, id)
  if (rule) change(id, { ...rule, limit: value })
}
function step(by: number) {
  const at = shown.value.findIndex((c) => c.id === chosen.value?.id)
  const next = shown.value[at + by]
  if (next) setQuery({ control: next.id })
}
watch(
  () => query('control'),
  async (id) => {
    await nextTick()
    document.getElementById(`control-${id}`)?.scrollIntoView({ block: 'nearest' })
  },
)
async function publish(reason: string) {
  if (await draft.publish(reason)) publishing.value = false
}
useKeys([
  { key: 'j', does: 'next control', act: () => step(1) },
  { key: 'k', does: 'previous control', act: () => step(-1) },
  { key: 'u', does: 'undo', act: () => draft.undo() },
])
</script>

<template>
  <StatePanel
    v-if="catalogueError || draft.inForce.error.value"
    state="failed"
    :problem="catalogueError ?? draft.inForce.error.value"
    @retry="draft.inForce.refetch()"
  />
  <StatePanel v-else-if="!catalogue || !draft.rulebook.value" state="loading" />
  <div v-else class="grid h-full grid-cols-[178px_minmax(0,1fr)_290px]">
    <nav class="overflow-auto border-r border-line py-3" aria-label="Families of controls">
      <p class="mb-2 px-5 text-[12.5px] text-soft">
        {{
          draft.changed.value ? `draft, ${draft.differences.value.length} changed` : 'as in force'
        }}
      </p>
      <button
        v-for="f in catalogue.families"
        :key="f.id"
        class="flex w-full justify-between px-5 py-1.5 text-left hover:bg-sheet"
        :class="f.id === family && !search && !onlyChanged ? 'font-bold text-ink' : 'text-soft'"
        :aria-current="f.id === family ? 'true' : undefined"
        @click="setQuery({ family: f.id, control: undefined, text: undefined, changed: undefined })"
      >
        {{ f.title }}
        <span class="value" :title="`${countOf(f.id)} rules in this layer`">{{
          countOf(f.id)
        }}</span>
      </button>
      <button
        class="flex w-full justify-between px-5 py-1.5 text-left hover:bg-sheet"
        :class="family === 'guarantees' ? 'font-bold text-ink' : 'text-soft'"
        @click="
          setQuery({
            family: 'guarantees',
            control: undefined,
            text: undefined,
            changed: undefined,
          })
        "
      >
        Guarantees <span class="value">{{ guarantees.length }}</span>
      </button>
      <div class="mt-4 px-5">
        <input
          class="field w-full"
          type="search"
          placeholder="Find a control"
          aria-label="Find a control"
          :value="query('text')"
          @input="
            setQuery({
              text: ($event.target as HTMLInputElement).value || undefined,
              control: undefined,
            })
          "
        />
        <label class="mt-2 flex items-start gap-2 text-[12.5px] text-soft">
          <input
            type="checkbox"
            class="mt-0.5"
            :checked="onlyChanged"
            @change="setQuery({ changed: onlyChanged ? undefined : '1', control: undefined })"
          />
          only what differs from the edition in force
        </label>
      </div>
    </nav>

    <div class="flex min-h-0 flex-col">
      <div class="flex min-h-11 shrink-0 items-center gap-4 border-b border-line px-5">
        <label class="flex items-center gap-2">
          <span class="text-soft">Layer</span>
          <select
            class="field font-bold"
            :value="layer"
            @change="setQuery({ layer: ($event.target as HTMLSelectElement).value })"
          >
            <option v-for="l in layers" :key="l.key" :value="l.key">
              {{ l.name }}{{ l.rules ? ` · ${l.rules}` : '' }}
            </option>
          </select>
        </label>
        <span class="ml-auto text-soft">
          {{ distribution ? `${distribution.meetings} series in the next 90 days` : '' }}
        </span>
      </div>
      <div
        v-if="draft.inForce.data.value?.number === 0 && !draft.changed.value"
        class="border-b border-line bg-sheet px-5 py-4"
      >
        <p class="head">There is no rulebook yet.</p>
        <p class="max-w-prose">
          Begin with a starter drawn from published guidance on securing online meetings: it comes
          as a draft, each rule says what it follows, and nothing counts until you publish edition
          1. Or write your own, control by control.
        </p>
        <button
          v-if="session.isWarden"
          class="button button-main mt-2"
          @click="draft.takeStarter()"
        >
          Begin with the starter rulebook
        </button>
      </div>
      <div class="min-h-0 flex-1 overflow-auto">
        <ul v-if="family === 'guarantees' && !search && !onlyChanged">
          <li v-for="g in guarantees" :key="g.id" class="flex gap-4 border-b border-hair px-5 py-3">
            <TallyMark :severity="g.importance ?? 2" class="mt-0.5 shrink-0" />
            <div>
              <p class="text-[15px]">
                Nobody who
                <em>{{ g.who.map((w) => phrase(catalogue?.personas, w)).join(' or ') }}</em> may
                <em>{{ g.rights.map((r) => phrase(catalogue?.rights, r)).join(' or ') }}</em>
                <template v-if="g.ceiling !== 'never'">
                  except <em>{{ phrase(catalogue?.levels, g.ceiling) }}</em></template
                >.
              </p>
              <p class="text-soft">{{ g.reason }}</p>
            </div>
          </li>
          <li v-if="!guarantees.length">
            <StatePanel state="empty" title="This layer gives no guarantees" />
          </li>
        </ul>
        <template v-else>
          <div
            v-for="c in shown"
            :id="`control-${c.id}`"
            :key="c.id"
            class="grid grid-cols-[minmax(130px,180px)_minmax(0,1fr)_76px] items-center gap-3 border-b border-hair border-l-[3px] px-4 py-1.5"
            :class="c.id === chosen?.id ? 'border-l-ink bg-sheet' : 'border-l-transparent'"
            @click="setQuery({ control: c.id })"
            @focusin="query('control') !== c.id && setQuery({ control: c.id })"
          >
            <div>
              <button class="head text-left" :aria-pressed="c.id === chosen?.id">
                {{ c.title }}<span v-if="differs(c.id)" class="text-sea" title="differs"> ∗</span>
              </button>
              <p class="text-[12.5px] leading-tight text-soft">{{ c.effect }}</p>
            </div>
            <ControlLadder
              :control="c"
              :rule="draft.rule(layer, c.id)"
              :rungs="rungs(c.id)"
              :total="distribution?.meetings ?? 0"
              :editable="session.isWarden"
              @start="moveStart(c.id, $event)"
              @limit="moveLimit(c.id, $event)"
            />
            <div class="text-right text-[12.5px] text-soft">
              <template v-if="draft.rule(layer, c.id)">
                {{ draft.rule(layer, c.id)?.mode }}
                <template v-if="draft.rule(layer, c.id)?.sealed"><br />sealed</template>
                <div v-if="draft.rule(layer, c.id)?.mode !== 'suggest'">
                  <TallyMark :severity="draft.rule(layer, c.id)?.importance ?? 2" />
                </div>
              </template>
              <template v-else>no rule</template>
              <span class="hidden-label">{{ startOf(draft.rule(layer, c.id)) }}</span>
            </div>
          </div>
          <StatePanel
            v-if="!shown.length"
            state="empty"
            :title="onlyChanged ? 'Nothing differs in this layer' : 'No control of that name'"
          />
        </template>
      </div>
      <div class="flex shrink-0 items-center gap-3 border-t border-line px-5 py-2.5">
        <template v-if="session.isWarden">
          <button
            class="button button-main"
            :disabled="!draft.changed.value"
            @click="publishing = true"
          >
            Compare and publish…
          </button>
          <button class="button" :disabled="!draft.canUndo.value" @click="draft.undo()">
            Undo
          </button>
          <button v-if="draft.changed.value" class="link" @click="draft.discard()">
            Discard the draft
          </button>
          <span v-if="draft.changed.value" class="text-soft" role="status">
            {{
              draft.saving.value === 'saved'
                ? 'draft saved'
                : draft.saving.value === 'saving'
                  ? 'saving…'
                  : 'not saved: the server does not answer'
            }}
          </span>
        </template>
        <span class="ml-auto text-[12.5px] text-soft">
          peg = start · bar = limit · <span class="text-rust">●</span> sealed · hatched = too loose
        </span>
      </div>
    </div>

    <aside class="overflow-auto border-l border-ink bg-sheet px-5 py-4">
      <RuleEditor
        v-if="chosen && (family !== 'guarantees' || search || onlyChanged)"
        :key="layer + chosen.id"
        :control="chosen"
        :rule="draft.rule(layer, chosen.id)"
        :before="draft.publishedRule(layer, chosen.id)"
        :rungs="rungs(chosen.id)"
        :unknown="counts(chosen.id)['?'] ?? 0"
        :editable="session.isWarden"
        @change="change(chosen.id, $event)"
      />
      <p v-else class="text-soft">
        A guarantee says what must never happen, whatever the settings are called. An audit names
        who could do it, and their way through the door.
      </p>
    </aside>
    <PublishDialog
      :open="publishing"
      :next="(draft.inForce.data.value?.number ?? 0) + 1"
      :overtaken="draft.overtaken.value"
      :problem="draft.problem.value"
      :differences="draft.differences.value"
      @close="publishing = false"
      @publish="publish"
      @rebase="draft.rebase()"
    />
  </div>
</template>
