<script setup lang="ts">
import { counted } from '@/shell/counted'
import { useQuery, useQueryCache } from '@pinia/colada'
import { ref } from 'vue'
import { useOrganisation } from '@/api/catalogue'
import { api, take } from '@/api/client'
import type { AuditRun, Schedule } from '@/api/schema'
import { useSession } from '@/api/session'
import ProblemNote from '@/shell/ProblemNote.vue'
import StatePanel from '@/shell/StatePanel.vue'
import { fullTime, shortTime } from '@/shell/times'
import NewAuditDialog from './NewAuditDialog.vue'
import PartFrame from './PartFrame.vue'
import ScheduleDialog from './ScheduleDialog.vue'

/** Every audit on record, how those that run get on, and when the next ones begin by themselves. */
const session = useSession()
const cache = useQueryCache()
const { unitName, kindName } = useOrganisation()
const {
  data: runs,
  error,
  refetch,
} = useQuery({
  key: ['audits', 'all'],
  query: () => take(api.GET('/api/audits', { params: { query: { most: 200 } } })),
})
const { data: schedules } = useQuery({
  key: ['audits', 'schedules'],
  query: () => take(api.GET('/api/audit-history/schedules')),
  enabled: () => !session.isUnitWarden,
})
const problem = ref<Error | null>(null)
async function attempt(what: () => Promise<unknown>) {
  problem.value = null
  try {
    await what()
    await cache.invalidateQueries({ key: ['audits'] })
  } catch (e) {
    problem.value = e as Error
  }
}
const path = (r: AuditRun) => ({ params: { path: { id: r.id } } })
const cancel = (r: AuditRun) => attempt(() => take(api.POST('/api/audits/{id}/cancel', path(r))))
const resume = (r: AuditRun) => attempt(() => take(api.POST('/api/audits/{id}/resume', path(r))))
const baseline = (r: AuditRun) =>
  attempt(() =>
    take(
      r.baseline
        ? api.DELETE('/api/audits/{id}/baseline', path(r))
        : api.PUT('/api/audits/{id}/baseline', path(r)),
    ),
  )
const states: Record<string, string> = {
  waiting: 'waiting',
  running: 'running',
  done: 'done',
  cancelled: 'stopped half-way',
  failed: 'failed',
}
const causes: Record<string, string> = {
  'by-hand': 'by hand',
  schedule: 'on schedule',
  publication: 'after a publication',
}
function scope(s: { unit?: string | null; kind?: string | null; host?: string | null }): string {
  const parts = [s.unit && unitName(s.unit), s.kind && kindName(s.kind), s.host].filter(Boolean)
  return parts.length ? parts.join(', ') : 'everything'
}
const starting = ref(false)
const editing = ref<Schedule | 'new' | null>(null)
</script>

<template>
  <PartFrame title="Runs">
    <template v-if="session.mayAudit" #acts>
      <button class="button" @click="starting = true">Audit…</button>
    </template>
    <ProblemNote class="m-4" :problem="problem" />
    <StatePanel v-if="error" state="failed" :problem="error" @retry="refetch()" />
    <StatePanel v-else-if="!runs" state="loading" />
    <template v-else>
      <section v-if="schedules" class="border-b border-line px-5 py-3">
        <h2 class="flex items-baseline gap-3">
          <span class="head">By themselves</span>
          <span class="text-soft">one after each publication, and</span>
          <button v-if="session.isWarden" class="link" @click="editing = 'new'">
            Add a schedule
          </button>
        </h2>
        <ul>
          <li v-for="s in schedules" :key="s.id" class="flex flex-wrap gap-x-3">
            <button v-if="session.isWarden" class="head link" @click="editing = s">
              {{ s.name }}
            </button>
            <strong v-else>{{ s.name }}</strong>
            <span class="value">{{ s.days.join(' ').toLowerCase() }} {{ s.time }}</span>
            <span class="text-soft"
              >{{ scope(s.scope) }}, {{ counted(s.windowDays, 'day') }} ahead;
              {{ s.active ? `next ${shortTime(s.nextAt)}` : 'paused' }};
              {{
                s.recipients.length ? `report to ${s.recipients.join(', ')}` : 'no report sent'
              }}</span
            >
          </li>
        </ul>
      </section>
      <StatePanel v-if="!runs.length" state="empty" title="No audit is on record">
        The wall shows how things stand now; an audit keeps it.
      </StatePanel>
      <table v-else class="grid-lines stack">
        <thead>
          <tr>
            <th class="!pl-5">Audit</th>
            <th>Begun</th>
            <th>Of</th>
            <th>Edition</th>
            <th>How it stands</th>
            <th class="!text-right">Meetings</th>
            <th class="!text-right">Findings</th>
            <th scope="col"><span class="hidden-label">Acts</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in runs" :key="r.id">
            <td class="!pl-5">
              <RouterLink class="head link" :to="`/audit/${r.id}`">Audit {{ r.id }}</RouterLink>
              <span v-if="r.baseline" class="ml-1.5 text-sea">baseline</span>
            </td>
            <td class="value whitespace-nowrap" :title="fullTime(r.startedAt)">
              {{ shortTime(r.startedAt) }}
              <span class="text-soft">{{ causes[r.cause] ?? r.cause }}</span>
            </td>
            <td>{{ scope(r.scope) }}</td>
            <td class="value">{{ r.edition }}</td>
            <td>
              {{ states[r.state] ?? r.state }}
              <progress
                v-if="r.state === 'running'"
                class="ml-1 w-28 align-middle"
                :max="Math.max(r.meetings, 1)"
                :value="r.scanned"
              />
            </td>
            <td class="value text-right">{{ r.judged }}</td>
            <td class="value text-right">{{ r.findings }}</td>
            <td class="!pr-5 text-right whitespace-nowrap">
              <template v-if="session.isWarden">
                <button
                  v-if="['running', 'waiting'].includes(r.state)"
                  class="link"
                  @click="cancel(r)"
                >
                  Stop it
                </button>
                <button
                  v-else-if="['cancelled', 'failed'].includes(r.state)"
                  class="link"
                  @click="resume(r)"
                >
                  Go on
                </button>
                <button v-else class="link" @click="baseline(r)">
                  {{ r.baseline ? 'No baseline' : 'Make it the baseline' }}
                </button>
              </template>
            </td>
          </tr>
        </tbody>
      </table>
    </template>
    <NewAuditDialog :open="starting" @close="starting = false" />
    <ScheduleDialog
      v-if="editing"
      :schedule="editing === 'new' ? null : editing"
      @close="editing = null"
    />
  </PartFrame>
</template>
