<script setup lang="ts">
import { t } from '@/wording'
import { useQuery, useQueryCache } from '@pinia/colada'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { label, useCatalogue } from '@/api/catalogue'
import { api, take } from '@/api/client'
import type { MeetingView } from '@/api/schema'
import { useSession } from '@/api/session'
import TallyMark from '@/marks/TallyMark.vue'
import WaterLine from '@/marks/WaterLine.vue'
import { useKeys } from '@/shell/keys'
import { useAct, useRowAct } from '@/shell/act'
import { copyText } from '@/shell/copying'
import ProblemNote from '@/shell/ProblemNote.vue'
import StatePanel from '@/shell/StatePanel.vue'
import { shortTime } from '@/shell/times'
import { mayStart } from '@/stations/register/join'
import { recurrenceWords } from '@/stations/register/recurrence'

/** A host's own corner: what is asked of them first, then their meetings. */
const router = useRouter()
const cache = useQueryCache()
const session = useSession()
const { controls } = useCatalogue()
const { data, error, refetch } = useQuery({
  key: ['meetings', 'corner'],
  query: () => take(api.GET('/api/meetings', { params: { query: { size: 500, mine: true } } })),
})
const coming = computed(() => (data.value?.items ?? []).filter((m) => m.next))
const asked = computed(() =>
  (data.value?.items ?? [])
    .filter((m) => m.findings && m.next)
    .sort((a, b) => b.worst - a.worst || String(a.next).localeCompare(String(b.next))),
)
const opened = ref<MeetingView | null>(null)
const { busy, problem, attempt } = useAct()
const { attempt: toRow } = useRowAct(problem)
const said = ref('')
const mending = ref(false)
let wanted = ''
/** Opens a meeting, or closes it; of two that are pressed in turn the last one opens. */
async function look(id: string) {
  problem.value = null
  wanted = wanted === id ? '' : id
  if (!wanted) {
    opened.value = null
    return
  }
  try {
    const answer = await take(api.GET('/api/meetings/{id}', { params: { path: { id } } }))
    if (wanted === id) opened.value = answer
  } catch (e) {
    if (wanted !== id) return
    problem.value = e as Error
    wanted = '' // pressed again, it is asked for again
  }
}
const remedy = computed(() => opened.value?.assessment.remedy)
/** Mends a meeting with the least change, in one step. */
async function mend() {
  const m = opened.value
  const changes = remedy.value?.changes
  if (!m || !changes) return
  mending.value = true
  await attempt(async () => {
    await take(
      api.PATCH('/api/meetings/{id}/controls', {
        params: { path: { id: m.id } },
        body: {
          version: m.version,
          controls: Object.fromEntries(changes.map((c) => [c.control, c.to])),
        },
      }),
    )
    said.value = t('corner.titleIsMended', { title: m.title })
    opened.value = null
    wanted = ''
    await cache.invalidateQueries({ key: ['meetings'] })
  })
  mending.value = false
}
const copied = ref('')
/** A meeting that no service holds has no link: all there is to say of joining is copied then. */
const copyLink = (id: string) =>
  toRow(id, async () => {
    const join = await take(api.GET('/api/meetings/{id}/join', { params: { path: { id } } }))
    await copyText(join.link ?? join.text)
    copied.value = id
  })
const start = (id: string) =>
  attempt(async () => {
    const begun = await take(
      api.POST('/api/floor/meetings/{id}/start', { params: { path: { id } } }),
    )
    await router.push(`/floor/${begun.id}`)
  })
useKeys([{ key: 'n', does: t('corner.scheduleAMeeting'), act: () => router.push('/register/new') }])
</script>

<template>
  <StatePanel v-if="error" state="failed" :problem="error" @retry="refetch()" />
  <StatePanel v-else-if="!data" state="loading" />
  <div v-else class="grid h-full grid-cols-2 narrow:block narrow:h-auto">
    <section
      class="overflow-auto border-r border-ink px-5 py-4 narrow:border-r-0 narrow:border-b phone:px-3"
      :aria-label="t('corner.whatIsAskedOfYou')"
    >
      <h1 class="text-xl font-bold">{{ t('corner.whatIsAskedOfYou') }}</h1>
      <p v-if="!asked.length" class="mt-2 text-kelp">
        {{ t('corner.nothingYourMeetingsAreAsTheRulebook') }}
      </p>
      <p v-else class="mt-1 text-soft">
        {{
          asked.length === 1
            ? t('corner.oneOfYourMeetingsNeedsALook')
            : t('corner.askedOfYourMeetingsNeedALook', { asked: asked.length })
        }}
      </p>
      <p v-if="said" class="mt-2 border-l-4 border-kelp bg-sheet px-3 py-1.5" role="status">
        {{ said }}
      </p>
      <ProblemNote class="mt-2" :problem="problem" />
      <ul class="mt-3">
        <li v-for="m in asked" :key="m.id" class="border-b border-hair py-2">
          <button
            type="button"
            class="flex w-full items-center gap-3 text-left"
            :aria-expanded="opened?.id === m.id"
            @click="look(m.id)"
          >
            <TallyMark :severity="m.worst" :count="m.findings" />
            <strong class="truncate" dir="auto">{{ m.title }}</strong>
            <span class="value ml-auto whitespace-nowrap">{{ shortTime(m.next) }}</span>
          </button>
          <div v-if="opened?.id === m.id" class="ml-8 mt-2">
            <ul>
              <li v-for="(f, i) in opened.assessment.findings ?? []" :key="i" class="py-0.5">
                {{ f.text }}
              </li>
            </ul>
            <template v-if="remedy?.changes.length">
              <p class="mt-2 text-soft">{{ t('corner.theLeastChangeThatMendsIt') }}</p>
              <p v-for="c in remedy.changes" :key="c.control">
                {{ controls.get(c.control)?.title }}:
                <span class="text-soft">{{ label(controls.get(c.control), c.from) }}</span> →
                <strong>{{ label(controls.get(c.control), c.to) }}</strong>
              </p>
              <button
                v-if="opened.mayChange"
                type="button"
                class="button button-main mt-2"
                :disabled="busy"
                @click="mend"
              >
                {{ mending ? t('corner.changing') : t('corner.changeIt') }}
              </button>
            </template>
            <RouterLink class="link ml-3" :to="`/register/${encodeURIComponent(m.id)}/edit`">{{
              t('corner.changeItMyself')
            }}</RouterLink>
          </div>
        </li>
      </ul>
    </section>
    <section class="overflow-auto px-5 py-4 phone:px-3" :aria-label="t('corner.yourMeetings')">
      <div class="flex items-baseline gap-4">
        <h2 class="text-xl font-bold">{{ t('corner.yourMeetings') }}</h2>
        <RouterLink class="button button-main ml-auto" to="/register/new">{{
          t('corner.schedule')
        }}</RouterLink>
        <RouterLink class="link" to="/register?feeds=1">{{ t('corner.subscribe') }}</RouterLink>
      </div>
      <p v-if="!coming.length" class="mt-2 text-soft">
        {{ t('corner.nothingIsComingName', { name: session.who?.name }) }}
      </p>
      <ul class="mt-3">
        <li
          v-for="m in coming"
          :key="m.id"
          class="grid grid-cols-[8.5rem_1fr_8rem] items-center gap-x-3 border-b phone:grid-cols-1 border-hair py-1.5"
        >
          <span class="value">{{ shortTime(m.next) }}</span>
          <span class="min-w-0">
            <RouterLink class="head block truncate" :to="`/register/${encodeURIComponent(m.id)}`">{{
              m.title
            }}</RouterLink>
            <span class="text-[12.5px] text-soft"
              >{{
                t('corner.recurrenceInvitedInvited', {
                  recurrence: recurrenceWords(m.recurrence),
                  invited: m.invited,
                })
              }}
              <button type="button" class="link" @click="copyLink(m.id)">
                {{ copied === m.id ? t('corner.copied') : t('corner.copyTheLink')
                }}<span class="hidden-label"> {{ t('corner.ofTitle', { title: m.title }) }}</span>
              </button>
              <button
                v-if="mayStart(m.next, Date.now())"
                type="button"
                class="link ml-2"
                @click="start(m.id)"
              >
                {{ t('corner.startNow') }}<span class="hidden-label">: {{ m.title }}</span>
              </button>
            </span>
          </span>
          <WaterLine :score="m.exposure" :band="m.band" word />
        </li>
      </ul>
    </section>
  </div>
</template>
