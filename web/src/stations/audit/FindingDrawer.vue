<script setup lang="ts">
import { useQuery, useQueryCache } from '@pinia/colada'
import { computed, ref, watch } from 'vue'
import { label, layerName, useCatalogue, useOrganisation } from '@/api/catalogue'
import { api, take } from '@/api/client'
import { useSession } from '@/api/session'
import type { FindingView } from '@/api/schema'
import GateMark from '@/marks/GateMark.vue'
import TallyMark from '@/marks/TallyMark.vue'
import ProblemNote from '@/shell/ProblemNote.vue'
import TrailPath from './TrailPath.vue'

/** What was found in a cell of the wall: what, what is allowed, which layer says so, why, and the mend. */
const props = defineProps<{
  audit: number
  edition: number
  meeting: string
  title: string
  family: string | null
  familyTitle: string
}>()
const emit = defineEmits<{ close: [] }>()

const session = useSession()
const cache = useQueryCache()
const { catalogue, controls } = useCatalogue()
const { unitName, kindName } = useOrganisation()
const { data: page, error } = useQuery({
  key: () => ['audit', props.audit, 'findings', props.meeting],
  query: () =>
    take(
      api.GET('/api/audits/{id}/findings', {
        params: { path: { id: props.audit }, query: { meeting: props.meeting, size: 200 } },
      }),
    ),
})
const { data: now } = useQuery({
  key: () => ['meeting', props.meeting],
  query: () => take(api.GET('/api/meetings/{id}', { params: { path: { id: props.meeting } } })),
})
const busy = ref(false)
const said = ref('')
const problem = ref<Error | null>(null)
watch(
  () => props.meeting,
  () => {
    said.value = ''
    problem.value = null
  },
)

const findings = computed(() =>
  (page.value?.items ?? [])
    .map((i) => i.finding)
    .filter((f) => !props.family || f.family === props.family),
)
const remedy = computed(() => now.value?.assessment.remedy)
const check = (id: string) => catalogue.value?.checks.find((c) => c.id === id)
const phrase = (list: { id: string; phrase: string }[] | undefined, id?: string | null) =>
  list?.find((n) => n.id === id)?.phrase ?? id
function source(layer: string): string {
  const [level = '', id] = layer.split(':')
  return layerName(
    { level, ...(id ? { id } : {}) },
    (i) => unitName(i),
    (i) => kindName(i),
  )
}
/** Whether the meeting still has this finding, as it stands now. */
const still = (f: FindingView) =>
  !now.value ||
  (now.value.assessment.findings ?? []).some(
    (g) => g.check === f.check && g.control === f.control && g.guarantee === f.guarantee,
  ) ||
  ['number-spillover', 'host-double-booked', 'reused-passcode'].includes(f.check)

async function apply() {
  if (!now.value || !remedy.value) return
  busy.value = true
  problem.value = null
  try {
    const changes = remedy.value.changes
    const after = await take(
      api.PATCH('/api/meetings/{id}/controls', {
        params: { path: { id: props.meeting } },
        body: {
          version: now.value.version,
          controls: Object.fromEntries(changes.map((c) => [c.control, c.to])) as Record<
            string,
            never
          >,
        },
      }),
    )
    cache.setQueryData(['meeting', props.meeting], after)
    await cache.invalidateQueries({ key: ['meetings'] })
    said.value = `${changes.length} control${changes.length === 1 ? '' : 's'} changed. Audit again to have it on record.`
  } catch (e) {
    problem.value = e as Error
    await cache.invalidateQueries({ key: ['meeting', props.meeting] })
  } finally {
    busy.value = false
  }
}
defineExpose({ apply })
</script>

<template>
  <aside
    class="flex h-full flex-col overflow-auto border-l border-ink bg-sheet px-5 py-4"
    :aria-label="`Findings of ${title}`"
  >
    <div class="flex items-start justify-between gap-2">
      <p class="text-soft">{{ title }}{{ family ? ` · ${familyTitle}` : '' }}</p>
      <button class="link shrink-0" @click="emit('close')">Close</button>
    </div>
    <ProblemNote class="mt-2" :problem="error" />
    <p v-if="page && !findings.length" class="mt-3 text-soft">Nothing was found here.</p>
    <article
      v-for="(f, i) in findings"
      :key="i"
      class="border-b border-line py-3 last:border-b-0"
      :class="still(f) ? '' : 'opacity-70'"
    >
      <h2 class="text-[16px] font-bold leading-snug">{{ f.text }}</h2>
      <p class="mt-1 flex flex-wrap items-center gap-x-2">
        <TallyMark :severity="f.severity" word />
        <RouterLink class="link" :to="`/help/checks#${f.check}`">{{ f.check }}</RouterLink>
        <span v-if="f.occurrence" class="value text-soft">on {{ f.occurrence }}</span>
        <span v-if="!still(f)" class="font-bold text-kelp">mended since</span>
      </p>
      <dl class="mt-2 grid grid-cols-[5.5rem_1fr] gap-y-0.5">
        <template v-if="f.control">
          <dt class="text-soft">found</dt>
          <dd class="value">
            <strong>{{ f.control }}</strong> {{ label(controls.get(f.control), f.value) }}
          </dd>
          <dt class="text-soft">allowed</dt>
          <dd class="value">{{ label(controls.get(f.control), f.allowed) }}</dd>
        </template>
        <template v-else-if="f.guarantee">
          <dt class="text-soft">found</dt>
          <dd class="flex items-center gap-1">
            {{ phrase(catalogue?.rights, f.right) }} <GateMark :level="f.level ?? ''" word />
          </dd>
          <dt class="text-soft">allowed</dt>
          <dd><GateMark :level="String(f.allowed ?? '')" word /></dd>
        </template>
        <template v-if="f.defeatedBy?.length">
          <dt class="text-soft">because of</dt>
          <dd class="value">{{ f.defeatedBy.join(', ') }}</dd>
        </template>
        <template v-if="f.layer">
          <dt class="text-soft">because</dt>
          <dd>
            {{ source(f.layer) }} layer, edition {{ edition
            }}<template v-if="f.reason">: “{{ f.reason }}”</template>
          </dd>
        </template>
      </dl>
      <p v-if="f.trace && f.trace.length > 1" class="mt-1 text-[12.5px] text-soft">
        {{ f.trace.join(' ') }}
      </p>
      <template v-if="f.trail?.length">
        <h3 class="head mb-2 mt-3">How it would go</h3>
        <TrailPath :trail="f.trail" />
      </template>
      <p class="mt-2 text-[12.5px] text-soft">{{ check(f.check)?.mend }}</p>
    </article>

    <section v-if="remedy?.changes.length && now" class="mt-2">
      <h3 class="head border-b border-line pb-1">Least change</h3>
      <ul>
        <li
          v-for="c in remedy.changes"
          :key="c.control"
          class="value flex justify-between gap-2 border-b border-hair py-1"
        >
          <span>
            <strong>{{ c.control }}</strong>
            <span class="ml-2 text-soft">{{ label(controls.get(c.control), c.from) }}</span> →
            {{ label(controls.get(c.control), c.to) }}
          </span>
          <span class="text-soft">friction {{ controls.get(c.control)?.friction }}</span>
        </li>
      </ul>
      <p v-if="!remedy.complete" class="mt-1 text-[12.5px] text-soft">
        It does not mend everything: no small set of changes does.
      </p>
    </section>
    <p v-if="said" class="mt-3 border-l-4 border-kelp px-3 py-1.5" role="status">{{ said }}</p>
    <ProblemNote class="mt-3" :problem="problem" />
    <div class="mt-3 flex gap-2">
      <button
        v-if="session.isWarden && remedy?.changes.length"
        class="button button-main"
        :disabled="busy"
        @click="apply"
      >
        {{ busy ? 'Applying…' : 'Apply' }}
      </button>
      <RouterLink class="button" :to="`/register/${encodeURIComponent(meeting)}`">
        Open the meeting
      </RouterLink>
    </div>
  </aside>
</template>
