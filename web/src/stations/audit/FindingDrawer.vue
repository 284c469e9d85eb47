<script setup lang="ts">
import { t } from '@/wording'
import { useQuery } from '@pinia/colada'
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, take } from '@/api/client'
import type { FindingView } from '@/api/schema'
import { useSession } from '@/api/session'
import ProblemNote from '@/shell/ProblemNote.vue'
import { day, shortTime } from '@/shell/times'
import AskDialog from './AskDialog.vue'
import FindingStory from './FindingStory.vue'
import RemedyPart from './RemedyPart.vue'
import TallyMark from '@/marks/TallyMark.vue'
import WaiveDialog from './WaiveDialog.vue'
import { identityOf, subjectOf } from './wall'

/** What was found in a cell of the wall, one finding in hand at a time, and the acts on it. */
const props = defineProps<{
  audit: number
  edition: number
  meeting: string
  title: string
  family: string | null
  familyTitle: string
}>()
const emit = defineEmits<{ close: [] }>()

const route = useRoute()
const router = useRouter()
const session = useSession()
const isNow = computed(() => props.audit === 0)
const { data: page, error } = useQuery({
  key: () => [isNow.value ? 'standing' : 'audits', props.audit, 'findings', props.meeting],
  query: () =>
    take(
      api.GET('/api/audits/{id}/findings', {
        params: { path: { id: props.audit }, query: { meeting: props.meeting, size: 200 } },
      }),
    ),
})
const { data: requests } = useQuery({
  key: ['requests', 'open'],
  query: () => take(api.GET('/api/host-requests')),
})
const { data: waivers } = useQuery({
  key: () => ['waivers', 'of', props.meeting],
  query: () => take(api.GET('/api/waivers', { params: { query: { meeting: props.meeting } } })),
})
const found = computed(() =>
  (page.value?.items ?? []).filter((i) => !props.family || i.finding.family === props.family),
)
const index = computed(() =>
  Math.min(Number(route.query.finding ?? 0) || 0, Math.max(found.value.length - 1, 0)),
)
const inHand = computed(() => found.value[index.value])
const finding = computed<FindingView | undefined>(() => inHand.value?.finding)
function take1(i: number) {
  router.replace({
    path: route.path,
    query: { ...route.query, finding: i ? String(i) : undefined },
  })
}
/** The story in hand stays while what it tells of is mended, so that one sees what became of it. */
const lastTold = ref<FindingView | null>(null)
watch(finding, (f) => f && (lastTold.value = f), { immediate: true })
watch(
  () => [props.meeting, props.family],
  () => (lastTold.value = finding.value ?? null),
)
const asked = computed(() => {
  for (const r of requests.value ?? []) {
    const item = r.items.find((i) => i.meeting === props.meeting)
    if (item) return { request: r, item }
  }
  return null
})
const waiver = computed(() => waivers.value?.find((w) => w.id === inHand.value?.waiver))
const asking = ref(false)
const waiving = ref(false)
const said = ref('')
watch(
  () => props.meeting,
  () => (said.value = ''),
)
const remedy = ref<InstanceType<typeof RemedyPart> | null>(null)
defineExpose({
  apply: () => remedy.value?.apply(),
  undo: () => remedy.value?.undo(),
  ask: () => (asking.value = !!finding.value && isNow.value),
  waive: () => (waiving.value = !!finding.value && isNow.value),
  next: () => take1((index.value + 1) % Math.max(found.value.length, 1)),
})
</script>

<template>
  <aside
    class="flex h-full flex-col overflow-auto border-l border-ink bg-sheet px-5 py-4"
    :aria-label="t('audit.findingsOfTitle', { title })"
  >
    <div class="flex items-start justify-between gap-2">
      <p class="text-soft">{{ title }}{{ family ? ` · ${familyTitle}` : '' }}</p>
      <span class="flex shrink-0 gap-3">
        <RouterLink class="link" :to="`/register/${encodeURIComponent(meeting)}`">{{
          t('audit.openTheMeeting')
        }}</RouterLink>
        <button class="link" @click="emit('close')">{{ t('audit.close2') }}</button>
      </span>
    </div>
    <ProblemNote class="mt-2" :problem="error" />
    <p v-if="!page && !error" class="mt-2 text-soft">{{ t('shell.readingTheChart') }}</p>
    <p v-if="page && !found.length" class="mt-2 text-kelp">
      {{ t('audit.nothingIsFoundHereX', { x: isNow ? t('audit.anyMore') : '' }) }}
    </p>
    <FindingStory
      v-if="finding ?? lastTold"
      class="mt-2"
      :class="finding ? '' : 'opacity-70'"
      :finding="(finding ?? lastTold)!"
      :edition="edition"
      :seen="inHand?.seen ?? null"
    />
    <p v-if="waiver" class="mt-2 border-l-4 border-sand bg-sand-wash px-3 py-1.5">
      {{
        t('audit.waivedUntilUntilByGrantedByReason', {
          until: shortTime(waiver.until),
          grantedBy: waiver.grantedBy,
          reason: waiver.reason,
        })
      }}
    </p>
    <p v-if="asked" class="mt-2 border-l-4 border-sea bg-sea-wash px-3 py-1.5">
      <template v-if="asked.item.state === 'open'">{{
        t('audit.hostWasAskedAskedAtAndHasUntil', {
          host: asked.request.host,
          askedAt: day(asked.request.askedAt),
          applyAfter: day(asked.request.applyAfter),
        })
      }}</template>
      <template v-else
        >{{
          t('audit.hostAnsweredAnswer', {
            host: asked.request.host,
            answer: asked.item.answer || asked.item.state,
          })
        }}
        <RouterLink class="link" to="/audit/requests">{{
          t('audit.lookAtIt')
        }}</RouterLink></template
      >
    </p>
    <ol
      v-if="found.length > 1"
      class="mt-3 max-h-44 shrink-0 overflow-auto border-t border-line"
      :aria-label="t('audit.allThatIsFoundHere')"
    >
      <li v-for="(f, i) in found" :key="f.identity" class="border-b border-hair">
        <button
          class="flex w-full items-center gap-2 py-1 text-left"
          :aria-current="i === index ? 'true' : undefined"
          @click="take1(i)"
        >
          <TallyMark :severity="f.finding.severity" />
          <span class="truncate" :class="i === index ? 'font-bold' : 'text-soft'">{{
            f.finding.text
          }}</span>
          <span v-if="f.waiver" class="value ml-auto text-soft">{{ t('audit.waived') }}</span>
        </button>
      </li>
    </ol>
    <RemedyPart
      v-if="isNow"
      ref="remedy"
      :meeting="meeting"
      :finding="finding ?? null"
      :asked-until="asked?.item.state === 'open' ? asked.request.applyAfter : null"
      @ask="asking = true"
      @waive="waiving = true"
    />
    <p v-else class="mt-3 text-soft">
      {{ t('audit.thisIsAsAuditAuditFoundIt', { audit }) }}
      <RouterLink
        class="link"
        :to="{ path: '/audit', query: { ...route.query, finding: undefined } }"
        >{{ t('audit.seeHowItStandsNow') }}</RouterLink
      >
    </p>
    <p v-if="said" class="mt-3 border-l-4 border-kelp px-3 py-1.5" role="status">{{ said }}</p>
    <template v-if="session.mayMend && finding">
      <AskDialog
        :open="asking"
        :meeting="meeting"
        :title="title"
        :findings="found.filter((f) => !f.waiver).map((f) => f.finding)"
        :first="finding"
        @close="asking = false"
        @done="(words) => ((said = words), (asking = false))"
      />
      <WaiveDialog
        :key="identityOf(meeting, finding)"
        :open="waiving"
        :meeting="meeting"
        :title="title"
        :finding="finding"
        :subject="subjectOf(finding)"
        @close="waiving = false"
        @done="(words) => ((said = words), (waiving = false))"
      />
    </template>
  </aside>
</template>
