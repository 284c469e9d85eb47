<script setup lang="ts">
import { t } from '@/wording'
import { useQuery, useQueryCache } from '@pinia/colada'
import { computed } from 'vue'
import { useRouter } from 'vue-router'
import { label, layerName, useCatalogue, useOrganisation } from '@/api/catalogue'
import { api, take } from '@/api/client'
import { useSession } from '@/api/session'
import type { FloorAlert, PreventingChange, PreventingWay } from '@/api/schema'
import { useAct } from '@/shell/act'
import TallyMark from '@/marks/TallyMark.vue'
import { useKeys } from '@/shell/keys'
import ProblemNote from '@/shell/ProblemNote.vue'
import StatePanel from '@/shell/StatePanel.vue'
import AttendanceTable from './AttendanceTable.vue'
import IncidentPart from './IncidentPart.vue'
import RecordingsPart from './RecordingsPart.vue'
import RollPart from './RollPart.vue'

/** What a session leaves behind: attendance, who gets what, incidents, and what it teaches. */
const props = defineProps<{ id: string }>()
const router = useRouter()
const cache = useQueryCache()
const session = useSession()
const { catalogue, controls } = useCatalogue()
const { unitName, kindName } = useOrganisation()
const { data: page } = useQuery({
  key: () => ['floor', 'session', props.id, '', 60],
  query: () =>
    take(
      api.GET('/api/floor/sessions/{id}', {
        params: { path: { id: props.id }, query: { most: 60 } },
      }),
    ),
})
const { data, error, refetch } = useQuery({
  key: () => ['floor', 'after', props.id],
  query: () =>
    take(api.GET('/api/floor/sessions/{id}/after', { params: { path: { id: props.id } } })),
})
const over = computed(() => ['ended', 'lost'].includes(page.value?.line.state ?? ''))
/** Alerts that the same changes would have prevented stand together. */
const lessons = computed(() => {
  const groups = new Map<string, { alerts: FloorAlert[]; ways: PreventingWay[] }>()
  for (const lesson of data.value?.lessons ?? []) {
    const key = JSON.stringify(lesson.ways)
    const group = groups.get(key) ?? { alerts: [], ways: lesson.ways }
    group.alerts.push(lesson.alert)
    groups.set(key, group)
  }
  return [...groups.values()]
})
/** The rule has it so already, and the meeting is looser. */
const isRuled = (c: PreventingChange) => JSON.stringify(c.limit) === JSON.stringify(c.to)
const words = (c: PreventingChange) =>
  `${controls.value.get(c.control)?.title ?? c.control}: ${label(controls.value.get(c.control), c.to)}`
const was = (c: PreventingChange) => label(controls.value.get(c.control), c.from)
const layer = (text: string) => {
  const [level, id] = text.split(':')
  return layerName({ level: level ?? '', ...(id ? { id } : {}) }, unitName, kindName)
}
const persona = (id: string) =>
  catalogue.value?.personas.find((p) => p.id === id)?.phrase.replace(/^(is|was) /, '') ?? id
const kept: Record<string, string> = {
  recording: t('floor.recording'),
  'chat-log': t('floor.chatLog'),
  attendance: t('floor.attendance'),
}
const names = (addresses: string[]) => addresses.map((a) => a.split('@')[0]).join(', ')
const { busy, problem, attempt } = useAct()
async function draft(change: PreventingChange) {
  if (busy.value) return
  await attempt(async () => {
    const begun = await take(
      api.POST('/api/floor/sessions/{id}/draft', {
        params: { path: { id: props.id } },
        body: { control: change.control, value: change.to },
      }),
    )
    await cache.invalidateQueries({ key: ['drafts'] })
    await router.push({
      path: '/rulebook',
      query: { draft: String(begun.id), layer: change.layer, control: change.control },
    })
  })
}
const zone = Intl.DateTimeFormat().resolvedOptions().timeZone
const file = (as: string) =>
  `/api/floor/sessions/${encodeURIComponent(props.id)}/attendance?${new URLSearchParams({ as, zone })}`
useKeys([
  { key: 'Escape', does: t('floor.theSession2'), act: () => router.push(`/floor/${props.id}`) },
])
</script>

<template>
  <StatePanel v-if="error && !data" state="failed" :problem="error" @retry="refetch()" />
  <StatePanel v-else-if="!data || !page" state="loading" />
  <div v-else class="flex h-full flex-col">
    <header class="flex shrink-0 items-center gap-4 border-b border-line px-5 py-2">
      <RouterLink class="link" to="/floor">{{ t('floor.sessions') }}</RouterLink>
      <h1 class="max-w-[30rem] truncate text-[17px] font-bold">{{ page.line.title }}</h1>
      <span class="value">{{ over ? t('floor.over') : t('floor.stillInProgress') }}</span>
      <RouterLink class="link ml-auto" :to="`/floor/${id}`">{{ t('floor.theSession') }}</RouterLink>
    </header>
    <div
      class="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_440px] narrow:block narrow:overflow-auto"
    >
      <section class="flex min-h-0 flex-col" :aria-label="t('floor.attendance')">
        <div class="flex h-11 shrink-0 items-center gap-3 border-b border-line px-5">
          <h2 class="head">{{ t('floor.attendance') }}</h2>
          <span class="text-soft">{{
            t('floor.attendancePresentAbsentNotThere', {
              attendance: data.attendance.length,
              absent: data.roll.absent.length,
            })
          }}</span>
          <span class="ml-auto flex gap-3">
            <a class="link" :href="file('csv')" download>{{ t('floor.cSV') }}</a>
            <a class="link" :href="file('xlsx')" download>{{ t('floor.workbook') }}</a>
          </span>
        </div>
        <div class="min-h-0 flex-1 overflow-auto" tabindex="0">
          <AttendanceTable :rows="data.attendance" />
          <RollPart v-if="data.attendance.length" :roll="data.roll" :meeting="page.line.meeting" />
        </div>
      </section>
      <aside class="min-h-0 overflow-auto border-l border-ink bg-sheet px-5 py-4">
        <RecordingsPart
          :session="id"
          :recordings="data.recordings"
          :kept="data.kept"
          @changed="refetch()"
        />
        <h2 class="head mt-5">{{ t('floor.whoGetsWhatWasKept') }}</h2>
        <dl class="mt-1 text-[13.5px]">
          <template v-for="s in data.shares" :key="s.what">
            <dt class="mt-1 font-bold">{{ kept[s.what] }}</dt>
            <dd v-if="!s.exists" class="text-soft">{{ t('floor.thereIsNone') }}</dd>
            <dd v-else>
              {{ names(s.gets) }}. <span class="text-soft">{{ s.words }}</span>
              <span v-if="s.without.length" class="block text-rust">
                {{ t('floor.notWithout', { without: names(s.without) }) }}
              </span>
            </dd>
          </template>
        </dl>
        <IncidentPart
          class="mt-5"
          :session="id"
          :meeting="page.line.title"
          :incidents="data.incidents"
          @written="refetch()"
        />
        <h2 class="head mt-5">{{ t('floor.whatWouldHavePreventedIt') }}</h2>
        <p v-if="!lessons.length" class="text-soft">
          {{ t('floor.nothingWentWrongThatTheGuardKnows') }}
        </p>
        <ProblemNote :problem="problem" />
        <ul>
          <li v-for="(l, at) in lessons" :key="at" class="border-b border-hair py-2">
            <template v-for="a in l.alerts" :key="a.id">
              <p class="flex gap-2">
                <TallyMark :severity="a.severity" />
                <span>{{ a.words }}</span>
              </p>
              <p v-if="a.note" class="pl-7 text-[12.5px] text-soft">
                {{ a.handledBy?.split('@')[0] }}: {{ a.note }}
              </p>
            </template>
            <p v-if="!l.ways.length" class="mt-1 text-soft">
              {{ t('floor.noControlWouldHavePreventedItPeople') }}
            </p>
            <div v-for="(w, i) in l.ways.slice(0, 2)" :key="i" class="mt-1">
              <p v-for="c in w.changes" :key="c.control" class="flex items-baseline gap-2">
                <span class="min-w-0 flex-1">
                  <strong>{{ words(c) }}</strong>
                  <span class="text-soft">
                    {{
                      t('floor.insteadOfCX', {
                        c: was(c),
                        x: isRuled(c)
                          ? t('floor.theRuleOfLayerHasItSo', { layer: layer(c.layer) })
                          : c.limit == null
                            ? t('floor.noRuleHasItSo')
                            : t('floor.theRuleOfLayerAllowsLabel', {
                                layer: layer(c.layer),
                                label: label(controls.get(c.control), c.limit),
                              }),
                      })
                    }}</span
                  >
                </span>
                <RouterLink
                  v-if="isRuled(c)"
                  class="link shrink-0"
                  :to="`/register/${encodeURIComponent(page.line.meeting)}`"
                  >{{ t('floor.theMeeting') }}</RouterLink
                >
                <button
                  v-else-if="session.isWarden"
                  class="button shrink-0"
                  :disabled="busy"
                  @click="draft(c)"
                >
                  {{ t('floor.draftTheRule') }}
                </button>
              </p>
              <p v-if="w.beside.length" class="text-[12.5px] text-sand">
                {{ t('floor.feltTooByWhoeverIsJoin', { join: w.beside.map(persona).join('; ') }) }}
              </p>
            </div>
          </li>
        </ul>
      </aside>
    </div>
  </div>
</template>
