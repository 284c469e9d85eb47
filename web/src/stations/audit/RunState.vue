<script setup lang="ts">
import { t } from '@/wording'
import { useQueryCache } from '@pinia/colada'
import { computed } from 'vue'
import { api, take } from '@/api/client'
import type { AuditRun } from '@/api/schema'
import { useSession } from '@/api/session'
import { useAct } from '@/shell/act'
import ProblemNote from '@/shell/ProblemNote.vue'
import { counted } from '@/shell/counted'

/** A run that has not come to its end: how far it is, and how to stop it or let it go on. */
const props = defineProps<{ run: AuditRun }>()
const session = useSession()
const cache = useQueryCache()
const { busy, problem, attempt } = useAct()
const isGoing = computed(() => ['running', 'waiting'].includes(props.run.state))
const head = computed(
  () =>
    ({
      waiting: t('audit.waitingForTheAuditBeforeIt'),
      running: t('audit.auditing'),
      cancelled: t('audit.stoppedHalfWay2'),
      failed: t('audit.thisAuditDidNotComeToAn'),
    })[props.run.state] ?? '',
)
async function change(to: 'cancel' | 'resume') {
  await attempt(() => {
    const path = { params: { path: { id: props.run.id } } }
    return take(
      to === 'cancel'
        ? api.POST('/api/audits/{id}/cancel', path)
        : api.POST('/api/audits/{id}/resume', path),
    )
  })
  await cache.invalidateQueries({ key: ['audits'] })
}
</script>

<template>
  <div class="px-5 py-10" role="status">
    <h2 class="text-lg font-bold">{{ head }}</h2>
    <p class="mt-1">
      {{
        t('audit.lookedAtScannedOfMeetingsFindingsSo', {
          scanned: run.scanned,
          meetings: counted(run.meetings, 'meeting'),
          findings: counted(run.findings, 'finding'),
          message: isGoing ? t('audit.youMayLeaveItGoesOn') : run.message,
        })
      }}
    </p>
    <progress class="mt-2 w-96" :max="Math.max(run.meetings, 1)" :value="run.scanned" />
    <ProblemNote class="mt-3" :problem="problem" />
    <p v-if="session.mayAudit" class="mt-4">
      <button v-if="isGoing" class="button" :disabled="busy" @click="change('cancel')">
        {{ t('audit.stopIt') }}
      </button>
      <button v-else class="button button-main" :disabled="busy" @click="change('resume')">
        {{ t('audit.goOnFromHere') }}
      </button>
    </p>
  </div>
</template>
