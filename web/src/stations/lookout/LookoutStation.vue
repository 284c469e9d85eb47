<script setup lang="ts">
import { severities } from '@/marks/severity'
import { t } from '@/wording'
import { useQuery } from '@pinia/colada'
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { useSession } from '@/api/session'
import TallyMark from '@/marks/TallyMark.vue'
import { useKeys } from '@/shell/keys'
import StatePanel from '@/shell/StatePanel.vue'
import { day, shortTime } from '@/shell/times'
import { driftWords } from '@/stations/audit/compare'
import { counted } from '@/shell/counted'
import ServiceNotices from '@/stations/house/ServiceNotices.vue'
import AskedOfYou from './AskedOfYou.vue'
import FirstSteps from './FirstSteps.vue'
import HostLookout from './HostLookout.vue'
import { lookoutQuery } from './query'
import { movedWords } from './tide'
import TideStrip from './TideStrip.vue'

/** What needs eyes now, the first page after sign-in. */
const session = useSession()
const router = useRouter()
const {
  data: lookout,
  error,
  refetch,
} = useQuery({
  ...lookoutQuery,
  enabled: () => !session.isHost,
})
// an answer that was older than what the page was told of is asked for once more
const soon = 1500
let asking: ReturnType<typeof setTimeout> | undefined
watch(lookout, (now) => {
  clearTimeout(asking)
  if (now?.again) asking = setTimeout(refetch, soon)
})
onBeforeUnmount(() => clearTimeout(asking))
// what to do comes first; the strip above it takes longest to draw, and waits for keys and clicks
const isDrawn = ref(false)
const whenIdle = (then: () => void) =>
  'requestIdleCallback' in window
    ? window.requestIdleCallback(then, { timeout: 500 })
    : setTimeout(then)
watch(
  () => !!lookout.value,
  (isHere) => {
    if (!isHere) return
    whenIdle(() => (isDrawn.value = true))
  },
  { immediate: true, flush: 'post' },
)
const before = computed(() => lookout.value?.moved.at(-1)?.bySeverity)
const storms = computed(() => lookout.value?.storms ?? [])
function toWall(meeting: string, family?: string) {
  router.push({ path: '/audit', query: { meeting, ...(family ? { family } : {}) } })
}
useKeys([
  {
    key: 'Enter',
    does: t('lookout.theWorstFinding'),
    act: () => {
      const worst = storms.value[0]
      if (worst) toWall(worst.meeting, worst.family)
      else router.push('/audit')
    },
  },
  {
    key: 'a',
    does: t('lookout.auditNow2'),
    act: () => session.mayAudit && router.push('/audit?run=1'),
  },
])
const most = (values: number[]) => Math.max(1, ...values)
function spark(severity: number): string {
  const values = (lookout.value?.moved ?? []).map((m) => m.bySeverity[String(severity)] ?? 0)
  const now = lookout.value?.bySeverity[String(severity)] ?? 0
  const all = [...values, now]
  const top = most(all)
  return all
    .map(
      (v, i) =>
        `${((i / Math.max(all.length - 1, 1)) * 88 + 1).toFixed(1)},${(17 - (v / top) * 15).toFixed(1)}`,
    )
    .join(' ')
}
</script>

<template>
  <HostLookout v-if="session.isHost" />
  <StatePanel v-else-if="error" state="failed" :problem="error" @retry="refetch()" />
  <StatePanel v-else-if="!lookout" state="loading" />
  <div v-else-if="!lookout.now">
    <FirstSteps v-if="session.isWarden" :edition="false" :audited="false" />
    <StatePanel state="empty" :title="t('lookout.nothingIsLookedAtYet')">
      {{ t('lookout.onceTheFirstEditionIsPublishedThe') }}
    </StatePanel>
  </div>
  <div v-else class="flex min-h-full flex-col">
    <FirstSteps v-if="isDrawn && session.isWarden" edition :audited="!!lookout.lastRun" />
    <ServiceNotices v-if="isDrawn" />
    <section
      class="border-b border-line px-5 pb-2 pt-3"
      :aria-label="t('lookout.theNextFourteenDays')"
    >
      <div class="mb-1 flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <h1 class="text-xl font-bold">
          {{ lookout.grave ? counted(lookout.grave, 'graveFinding') : t('lookout.noGraveFinding') }}
        </h1>
        <span class="text-soft" role="status">
          <template v-if="lookout.renewing">{{
            t('lookout.lookingAtEverythingAgainScannedOfMeetings', {
              scanned: lookout.renewing.scanned,
              meetings: lookout.renewing.meetings,
            })
          }}</template>
          <template v-else-if="lookout.lastRun"
            >{{ t('lookout.lastAudit') }}
            <RouterLink class="link" :to="`/audit/${lookout.lastRun.id}`">{{
              lookout.lastRun.id
            }}</RouterLink>, {{ shortTime(lookout.lastRun.startedAt) }}</template
          >
        </span>
        <RouterLink v-if="session.mayAudit" class="button button-main ml-auto" to="/audit?run=1">{{
          t('lookout.auditNow')
        }}</RouterLink>
      </div>
      <div class="min-h-48">
        <TideStrip v-if="isDrawn" :tide="lookout.tide" @open="toWall($event)" />
      </div>
    </section>
    <div class="grid flex-1 grid-cols-[minmax(0,5fr)_minmax(0,3.2fr)_minmax(0,4fr)] narrow:block">
      <section class="border-r border-line px-5 py-3" :aria-label="t('lookout.gravestFirst')">
        <h2 class="head border-b border-ink pb-1">{{ t('lookout.gravestFirst') }}</h2>
        <p v-if="!storms.length" class="py-2 text-kelp">
          {{ t('lookout.noMeetingHasAGraveFinding') }}
          <RouterLink class="link" to="/audit">{{ t('lookout.seeWhatIsOpen') }}</RouterLink>
        </p>
        <ul>
          <li v-for="(s, i) in storms" :key="i" class="border-b border-hair py-1.5">
            <button class="block w-full text-left" @click="toWall(s.meeting, s.family)">
              <span class="flex items-center gap-2">
                <TallyMark :severity="s.severity" />
                <strong class="truncate" dir="auto">{{ s.title }}</strong>
                <span class="value ml-auto whitespace-nowrap">{{ shortTime(s.next) }}</span>
              </span>
              <span class="block pl-[30px] leading-snug"
                >{{ s.text
                }}<span v-if="s.more" class="text-soft">
                  {{ t('lookout.andMoreMore', { more: s.more }) }}</span
                ></span
              >
            </button>
          </li>
        </ul>
        <RouterLink v-if="storms.length" class="link mt-1 block" to="/audit?severity=5">{{
          t('lookout.allOfThemOnTheWall')
        }}</RouterLink>
      </section>
      <section class="border-r border-line px-5 py-3" :aria-label="t('lookout.openFindings')">
        <h2 class="head border-b border-ink pb-1">{{ t('lookout.openFindingsAndTheTrend') }}</h2>
        <table class="w-full">
          <tbody>
            <tr v-for="s in [5, 4, 3, 2, 1]" :key="s" class="border-b border-hair">
              <td class="py-1">
                <RouterLink :to="`/audit?severity=${s}`" class="flex items-center gap-2">
                  <TallyMark :severity="s" />{{ severities[s] }}
                </RouterLink>
              </td>
              <td class="value text-right text-[15px]">{{ lookout.bySeverity[String(s)] }}</td>
              <td class="pl-3">
                <svg width="90" height="18" aria-hidden="true">
                  <polyline
                    :points="spark(s)"
                    fill="none"
                    :stroke="s >= 4 ? 'var(--rust)' : 'var(--soft)'"
                    stroke-width="1.5"
                  />
                </svg>
              </td>
              <td class="whitespace-nowrap pl-2 text-[12.5px] text-soft">
                {{ movedWords(lookout.bySeverity[String(s)] ?? 0, before?.[String(s)]) }}
              </td>
            </tr>
          </tbody>
        </table>
        <p class="mt-1 text-[12.5px] text-soft">
          {{
            t('lookout.againstTheLastAuditWaivedMoreX', {
              waived: lookout.waived,
              x: lookout.waived === 1 ? t('lookout.is') : t('lookout.are'),
            })
          }}
          <RouterLink class="link" to="/audit?show=waived">{{ t('lookout.waived') }}</RouterLink>
        </p>
        <h2 class="head mt-4 border-b border-ink pb-1">{{ t('lookout.newlyOutOfLine') }}</h2>
        <p v-if="!lookout.drifted.length" class="py-1.5 text-kelp">{{ t('lookout.nothingHas') }}</p>
        <ul>
          <li
            v-for="d in lookout.drifted.slice(0, 4)"
            :key="d.meeting"
            class="border-b border-hair py-1"
          >
            <button class="block w-full text-left" @click="toWall(d.meeting)">
              <span class="flex items-center gap-2"
                ><TallyMark :severity="d.worst" /><strong class="truncate" dir="auto">{{
                  d.title
                }}</strong>
              </span>
              <span class="block pl-[30px] text-[12.5px] text-soft">{{ driftWords(d) }}</span>
            </button>
          </li>
        </ul>
      </section>
      <section class="px-5 py-3" :aria-label="t('lookout.waiting')">
        <AskedOfYou v-if="session.isUnitWarden" />
        <h2 class="head border-b border-ink pb-1">
          <RouterLink to="/audit/requests">{{ t('lookout.hostsWhoHaveNotAnswered') }}</RouterLink>
        </h2>
        <p v-if="!lookout.requests.length" class="py-1.5 text-kelp">
          {{ t('lookout.nobodyIsWaitedFor') }}
        </p>
        <ul>
          <li
            v-for="r in lookout.requests.slice(0, 4)"
            :key="r.id"
            class="border-b border-hair py-1"
          >
            <RouterLink to="/audit/requests" class="block">
              <span class="flex justify-between gap-2"
                ><strong class="truncate">{{ r.host }}</strong>
                <span class="value whitespace-nowrap">{{
                  t('lookout.askedAskedAt', { askedAt: day(r.askedAt) })
                }}</span></span
              >
              <span class="block text-[12.5px] text-soft"
                >{{ counted(r.items.length, 'finding')
                }}<template v-if="r.items.some((i) => i.state !== 'open')"
                  >, <strong class="text-rust">{{ t('lookout.answered') }}</strong></template
                >{{
                  t('lookout.mayBeAppliedFromApplyAfter', { applyAfter: day(r.applyAfter) })
                }}</span
              >
            </RouterLink>
          </li>
        </ul>
        <h2 class="head mt-4 border-b border-ink pb-1">
          <RouterLink to="/audit/waivers">{{ t('lookout.waiversAboutToLapse') }}</RouterLink>
        </h2>
        <p v-if="!lookout.lapsing.length" class="py-1.5 text-soft">
          {{ t('lookout.noneWithinAWeek') }}
        </p>
        <ul>
          <li
            v-for="w in lookout.lapsing.slice(0, 4)"
            :key="w.id"
            class="border-b border-hair py-1"
          >
            <RouterLink to="/audit/waivers" class="block">
              <span class="flex justify-between gap-2"
                ><strong class="truncate" dir="auto">{{ w.title ?? w.subject }}</strong>
                <span class="value whitespace-nowrap">{{ shortTime(w.until) }}</span></span
              >
              <span class="block truncate text-[12.5px] text-soft">{{ w.reason }}</span>
            </RouterLink>
          </li>
        </ul>
        <p
          v-if="lookout.waiversAsked.length || lookout.waitingForSecond"
          class="mt-3 border-l-4 border-sand bg-sand-wash px-3 py-1.5"
        >
          <RouterLink class="link" to="/audit/waivers">
            <template v-if="lookout.waiversAsked.length"
              >{{
                t('lookout.waiversAskedForByHosts', {
                  waivers: counted(lookout.waiversAsked.length, 'waiver'),
                })
              }}
            </template>
            <template v-if="lookout.waitingForSecond">{{
              t('lookout.waiversWaitingForYourWord', {
                waivers: counted(lookout.waitingForSecond, 'waiver'),
              })
            }}</template>
          </RouterLink>
        </p>
      </section>
    </div>
  </div>
</template>
