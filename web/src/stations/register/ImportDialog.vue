<script setup lang="ts">
import { t } from '@/wording'
import { useQuery, useQueryCache } from '@pinia/colada'
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import { api, Problem, take } from '@/api/client'
import type { ImportBatch, ImportReport } from '@/api/schema'
import { useSession } from '@/api/session'
import ModalSheet from '@/shell/ModalSheet.vue'
import { useAct } from '@/shell/act'
import ProblemNote from '@/shell/ProblemNote.vue'
import { fullTime } from '@/shell/times'
import { browserZone } from '@/stations/scheduling/zones'
import ReportRows from './ReportRows.vue'

/** Files in and out. A file is tried first, then taken; an import can be taken back as a whole. */
const props = defineProps<{
  open: boolean
  /** Chosen meetings as `&id=…`, or nothing for all. */
  chosen: string
}>()
const emit = defineEmits<{ close: []; changed: [] }>()

const cache = useQueryCache()
const session = useSession()
const file = ref<File | null>(null)
const report = ref<ImportReport | null>(null)
const { busy, problem, attempt } = useAct()
const progress = ref<{ done: number; total: number } | null>(null)
const stuck = ref<{ batch: ImportBatch; problem: Problem } | null>(null)
const said = ref('')
const withPasscodes = ref(false)
const done = computed(() => report.value && !report.value.dryRun)
/** What tables may say, for whoever writes one; the same files are read by the tests. */
const tables = [
  {
    name: t('register.meetings'),
    needed: t('register.titleStart'),
    more: t('register.minutesZoneHostRequiredOptionalRecurrence'),
    words: t('register.aStartIsWritten20270510'),
    template: '/templates/meetings.csv',
  },
  {
    name: t('register.people'),
    needed: t('register.emailName'),
    more: t('register.standingUnitActiveZone'),
    words: t('register.anEmptyCellChangesNothingADash'),
    template: '/templates/people.csv',
  },
  {
    name: t('register.lists'),
    needed: t('register.idMembers'),
    more: t('register.nameSortListOrSpace'),
    words: t('register.membersAreAddressesApartBySpacesOr'),
    template: '/templates/lists.csv',
  },
]
const formats: Record<string, string> = {
  bundle: t('register.aBundle'),
  calendar: t('register.aCalendar'),
  meetings: t('register.aTableOfMeetings'),
  people: t('register.aTableOfPeople'),
  lists: t('register.aTableOfLists'),
  scim: t('register.peopleInSCIM'),
  ldif: t('register.peopleInLDIF'),
}
/** What came of the file, or would. */
const cameTo = computed(() => ({
  ...report.value,
  format: formats[report.value?.format ?? ''] ?? report.value?.format,
}))
const { data: batches, refetch } = useQuery({
  key: ['imports'],
  query: () => take(api.GET('/api/exchange/imports')),
  enabled: () => props.open,
})

watch(
  () => props.open,
  (open) => {
    // what is still under way goes on, and is shown where it is opened again
    if (open && !busy.value) {
      file.value = report.value = problem.value = stuck.value = null
      said.value = ''
    }
  },
)

let timer: ReturnType<typeof setInterval> | undefined
onBeforeUnmount(() => clearInterval(timer))

function choose(event: Event) {
  const given = (event.target as HTMLInputElement).files?.[0]
  if (given) void tryOut(given)
}
function dropped(event: DragEvent) {
  const given = event.dataTransfer?.files[0]
  if (given) void tryOut(given)
}
/** One at a time: what is said of a file must be of the one that is named. */
async function tryOut(given: File) {
  if (busy.value) return
  report.value = problem.value = null
  said.value = ''
  file.value = given
  if (given.size > 32 * 1024 * 1024) {
    problem.value = new Problem(
      413,
      'too-large',
      t('register.nameIsLargerThan32MiBSplit', { name: given.name }),
      [],
    )
    return
  }
  await send(true)
}

async function send(dryRun: boolean) {
  const given = file.value
  if (!given || busy.value) return
  const name = `i-${Math.random().toString(36).slice(2)}`
  timer = setInterval(async () => {
    progress.value = await take(
      api.GET('/api/exchange/progress/{name}', { params: { path: { name } } }),
    ).catch(() => null)
  }, 700)
  await attempt(async () => {
    report.value = await take(
      api.POST('/api/exchange/files', {
        params: {
          query: { name: given.name.slice(0, 200), dryRun, zone: browserZone, progress: name },
        },
        body: given as never,
        bodySerializer: (body) => body as never,
        headers: { 'Content-Type': 'application/octet-stream' },
      }),
    )
  })
  clearInterval(timer)
  progress.value = null
  if (problem.value) report.value = null
  else if (!dryRun) await changed()
}
/** The next file need not wait until everything was read again. */
async function changed() {
  await cache.invalidateQueries()
  await refetch()
  emit('changed')
}

async function takeBack(batch: ImportBatch, force: boolean) {
  stuck.value = null
  await attempt(async () => {
    const back = await take(
      api.POST('/api/exchange/imports/{id}/take-back', {
        params: { path: { id: batch.id }, query: { force } },
      }),
    )
    said.value = t('register.takenBackRemovedRemovedRestoredAsThey', {
      removed: back.removed,
      restored: back.restored,
      x: back.left.length ? t('register.leftLeftAsTheyAreNow', { left: back.left.length }) : '',
    })
    report.value = null
  })
  if (!problem.value) await changed()
  const failed = problem.value
  if (failed instanceof Problem && failed.code === 'changed-since') {
    stuck.value = { batch, problem: failed }
    problem.value = null
  }
}
const secret = computed(() => (withPasscodes.value ? '&passcodes=true' : ''))
</script>

<template>
  <ModalSheet :open="open" :title="t('register.importAndExport')" wide @close="emit('close')">
    <template v-if="session.isWarden">
      <p class="text-soft">
        {{ t('register.aCalendarIcsATableOfMeetings') }}
        <RouterLink class="link" to="/help/files">{{ t('register.theFormats') }}</RouterLink>
      </p>
      <details class="mt-2">
        <summary class="cursor-pointer text-soft">{{ t('register.theColumnsOfATable') }}</summary>
        <dl class="mt-1 grid grid-cols-[6rem_1fr] gap-x-3 gap-y-1 border-l-2 border-hair pl-3">
          <template v-for="table in tables" :key="table.name">
            <dt>
              {{ table.name }}
              <a class="link block text-[12.5px]" :href="table.template" download>{{
                t('register.template')
              }}</a>
            </dt>
            <dd>
              <span class="value">{{ table.needed }}</span>
              <span class="value text-soft">, {{ table.more }}</span>
              <span class="block text-[12.5px] text-soft">{{ table.words }}</span>
            </dd>
          </template>
        </dl>
      </details>
      <label
        class="mt-3 flex items-center gap-3 border border-dashed border-line px-4 py-3 has-[:focus-visible]:outline-2 has-[:focus-visible]:outline-sea"
        @dragover.prevent
        @drop.prevent="dropped"
      >
        <span class="button">{{ t('register.chooseAFile') }}</span>
        <input
          class="hidden-label"
          type="file"
          accept=".ics,.ical,.csv,.json,.ldif,.ldf,.txt,text/calendar,text/csv,application/json"
          :aria-label="t('register.fileToBringIn')"
          :disabled="busy"
          @click="($event.target as HTMLInputElement).value = ''"
          @change="choose"
        />
        <span class="value">{{ file?.name ?? t('register.orDropItHere') }}</span>
      </label>
      <p v-if="busy" class="mt-3 flex items-center gap-3 text-soft" role="status">
        {{
          progress?.total
            ? t('register.doneOfTotal', { done: progress.done, total: progress.total })
            : t('register.reading')
        }}
        <progress
          v-if="progress?.total"
          class="h-2 w-64"
          :value="progress.done"
          :max="progress.total"
        />
      </p>
    </template>
    <ProblemNote class="mt-3" :problem="problem" />
    <p v-if="said" class="mt-3 border-l-4 border-kelp bg-paper px-3 py-1.5" role="status">
      {{ said }}
    </p>
    <div v-if="report" class="mt-3" role="status">
      <p class="head">
        {{ done ? t('register.takenInFormat', cameTo) : t('register.readAsFormatItWould', cameTo) }}
      </p>
      <ul v-if="report.notes.length" class="mt-1 max-h-28 overflow-auto">
        <li v-for="(n, i) in report.notes" :key="i" class="border-l-4 border-sand pl-2">{{ n }}</li>
      </ul>
      <ReportRows v-if="report.rows.length" :rows="report.rows" />
      <div class="mt-3 flex gap-3">
        <button
          v-if="!done"
          class="button button-main"
          :disabled="busy || (!report.added && !report.changed)"
          @click="send(false)"
        >
          {{ report.refused ? t('register.importTheRest') : t('register.importIt') }}
        </button>
        <button class="button" @click="emit('close')">
          {{ done ? t('register.done') : t('register.leaveIt') }}
        </button>
      </div>
    </div>
    <div v-if="stuck" class="mt-3">
      <ProblemNote :problem="stuck.problem" />
      <button class="button mt-2" :disabled="busy" @click="takeBack(stuck.batch, true)">
        {{ t('register.takeBackTheRest') }}
      </button>
    </div>

    <section v-if="batches?.length" class="mt-5">
      <h3 class="head border-b border-line pb-1">{{ t('register.whatWasBroughtIn') }}</h3>
      <ul class="max-h-48 overflow-auto">
        <li
          v-for="b in batches"
          :key="b.id"
          class="flex items-baseline gap-3 border-b border-hair py-1"
        >
          <span class="value truncate">{{ b.name }}</span>
          <span class="whitespace-nowrap text-[12.5px] text-soft">{{
            t('register.atAddedAddedChangedChanged', {
              at: fullTime(b.at),
              added: b.added,
              changed: b.changed,
            })
          }}</span>
          <span v-if="b.takenBackAt" class="ml-auto whitespace-nowrap text-soft">{{
            t('register.takenBack')
          }}</span>
          <button
            v-else-if="session.isWarden && b.added + b.changed"
            class="link ml-auto whitespace-nowrap"
            :disabled="busy"
            :aria-label="t('register.takeBackName', { name: b.name })"
            @click="takeBack(b, false)"
          >
            {{ t('register.takeBack') }}
          </button>
        </li>
      </ul>
    </section>

    <section class="mt-5">
      <h3 class="head border-b border-line pb-1">
        {{
          t('register.exportX', {
            x: chosen ? t('register.theChosenMeetings') : t('register.everything'),
          })
        }}
      </h3>
      <p class="mt-2 flex flex-wrap items-center gap-4">
        <a class="link" :href="`/api/exchange/calendar?_=1${secret}${chosen}`" download>{{
          t('register.calendarIcs')
        }}</a>
        <a class="link" :href="`/api/exchange/table?of=meetings${secret}${chosen}`" download>{{
          t('register.tableCsv')
        }}</a>
        <template v-if="!chosen">
          <a
            class="link"
            :href="`/api/exchange/bundle?passcodes=${withPasscodes}`"
            download="bundle.json"
            >{{ t('register.bundleJson') }}</a
          >
          <a class="link" href="/api/exchange/table?of=people" download>{{
            t('register.peopleCsv')
          }}</a>
          <a class="link" href="/api/exchange/table?of=lists" download>{{
            t('register.listsCsv')
          }}</a>
        </template>
        <label v-if="session.isWarden" class="flex items-center gap-1.5 text-soft">
          <input v-model="withPasscodes" type="checkbox" /> {{ t('register.withPasscodes') }}
        </label>
      </p>
    </section>
  </ModalSheet>
</template>
