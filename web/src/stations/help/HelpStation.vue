<script setup lang="ts">
import { computed, nextTick, watch } from 'vue'
import { useRoute } from 'vue-router'
import { useCatalogue } from '@/api/catalogue'
import GateMark from '@/marks/GateMark.vue'
import TallyMark from '@/marks/TallyMark.vue'
import WaterLine from '@/marks/WaterLine.vue'
import StatePanel from '@/shell/StatePanel.vue'
import AuditHelp from './AuditHelp.vue'
import DoorHelp from './DoorHelp.vue'
import FloorHelp from './FloorHelp.vue'
import HouseHelp from './HouseHelp.vue'
import LedgerHelp from './LedgerHelp.vue'
import RulebookHelp from './RulebookHelp.vue'
import SchedulingHelp from './SchedulingHelp.vue'

/** Help: the way of working, and pages made from the core's own declarations. */
const props = defineProps<{ topic?: string }>()
const route = useRoute()
const { catalogue } = useCatalogue()

const topics = [
  { id: 'work', name: 'The way of working' },
  { id: 'rulebook', name: 'The rulebook' },
  { id: 'scheduling', name: 'Scheduling' },
  { id: 'audit', name: 'Audit and Lookout' },
  { id: 'door', name: 'Rehearsing the door' },
  { id: 'floor', name: 'Running a session' },
  { id: 'ledger', name: 'The ledger' },
  { id: 'house', name: 'The house' },
  { id: 'formats', name: 'Files in and out' },
  { id: 'marks', name: 'Marks' },
  { id: 'checks', name: 'Checks' },
  { id: 'controls', name: 'Controls' },
  { id: 'bundle', name: 'The bundle format' },
  { id: 'rulebook-file', name: 'The rulebook as a file' },
  { id: 'programs', name: 'For programs' },
]
const topic = computed(() => props.topic || 'work')
watch(
  [() => route.hash, catalogue],
  async () => {
    await nextTick()
    if (route.hash) document.getElementById(route.hash.slice(1))?.scrollIntoView()
  },
  { immediate: true },
)
const example = `{
  "format": "upright-warden/1",
  "meetings": [
    {"id": "m-0001", "title": "Berth plan", "host": "n.fitzgibbon@saltmarsh.example",
     "invitees": [{"email": "g.pryce@saltmarsh.example", "need": "required"}],
     "start": "2027-01-11T09:00", "zone": "Europe/Dublin", "minutes": 60,
     "recurrence": "FREQ=WEEKLY;BYDAY=TU,TH;UNTIL=20270630T220000Z",
     "controls": {"passcode": "required", "waiting-room": "on", "early-entry": 0}}
  ]
}`
</script>

<template>
  <div class="grid h-full grid-cols-[200px_minmax(0,1fr)] narrow:block narrow:h-auto">
    <nav class="border-r border-line py-4" aria-label="Help">
      <RouterLink
        v-for="t in topics"
        :key="t.id"
        :to="`/help/${t.id}`"
        class="block px-5 py-1.5 hover:bg-sheet"
        :class="t.id === topic ? 'font-bold' : 'text-soft'"
        >{{ t.name }}</RouterLink
      >
    </nav>
    <article class="help overflow-auto px-8 py-6 phone:px-3" tabindex="0">
      <template v-if="topic === 'work'">
        <h1>The way of working</h1>
        <ol class="list-decimal pl-5">
          <li>
            <strong>Rulebook.</strong> Say for each control what new meetings begin with (the peg)
            and how far hosts may go (the bar). A fix leaves no choice; a seal keeps units and kinds
            from loosening. Nothing counts until you publish an edition, with a reason.
          </li>
          <li>
            <strong>Register.</strong> Schedule meetings, or bring in what is scheduled elsewhere: a
            calendar, a table, a bundle. It is tried first and shows what it would do. A meeting’s
            page has each value beside its limit and where that comes from.
          </li>
          <li>
            <strong>Audit.</strong> Judge every meeting against the edition in force. The wall has
            the worst first; a cell tells what was found, what is allowed, which layer says so, what
            could happen, and the least change that mends it.
          </li>
        </ol>
        <p>
          Publishing an edition changes no meeting that is scheduled already: it keeps its values,
          and the next audit shows where it falls short.
        </p>
        <h2>Who may do what</h2>
        <p>
          A <em>warden</em> may do everything. A <em>unit’s warden</em> drafts rules for a unit and
          those below it and audits it; a warden publishes them. An <em>auditor</em> reads
          everything but passcodes and changes nothing. A <em>host</em> reaches their own meetings
          and changes them within the limits.
        </p>
      </template>
      <RulebookHelp v-else-if="topic.startsWith('rulebook')" :topic="topic" />
      <AuditHelp v-else-if="topic === 'audit'" />
      <DoorHelp v-else-if="topic === 'door'" />
      <FloorHelp v-else-if="topic === 'floor'" />
      <LedgerHelp v-else-if="topic === 'ledger'" />
      <HouseHelp v-else-if="topic === 'house'" />
      <SchedulingHelp v-else-if="topic === 'scheduling' || topic === 'formats'" :topic="topic" />
      <template v-else-if="topic === 'marks'">
        <h1>Marks</h1>
        <h2>How freely somebody comes in</h2>
        <p v-for="l in catalogue?.levels ?? []" :key="l.id"><GateMark :level="l.id" word /></p>
        <h2>How bad a finding is</h2>
        <p v-for="s in [1, 2, 3, 4, 5]" :key="s"><TallyMark :severity="s" word /></p>
        <h2>Exposure</h2>
        <p v-for="s in [4, 18, 37, 72]" :key="s"><WaterLine :score="s" word /></p>
        <p>
          Exposure is made of what uninvited people could do (seven tenths) and what invited people
          could disturb (three tenths). Below 10 a meeting is shut, below 25 guarded, below 50 ajar.
        </p>
      </template>
      <template v-else-if="topic === 'checks'">
        <h1>Checks</h1>
        <StatePanel v-if="!catalogue" state="loading" />
        <section v-for="c in catalogue?.checks ?? []" :id="c.id" :key="c.id">
          <h2>{{ c.title }}</h2>
          <p>
            <strong>{{ c.summary }}</strong>
          </p>
          <p>{{ c.why }} {{ c.mend }}</p>
          <p class="flex items-center gap-2 text-soft">
            Severity:
            <TallyMark v-if="c.baseSeverity" :severity="c.baseSeverity" word />
            <span v-else>the importance of the rule or guarantee</span>
          </p>
        </section>
      </template>
      <template v-else-if="topic === 'controls'">
        <h1>Controls</h1>
        <StatePanel v-if="!catalogue" state="loading" />
        <section v-for="f in catalogue?.families ?? []" :key="f.id">
          <h2>{{ f.title }}</h2>
          <table class="grid-lines">
            <tbody>
              <tr v-for="c in catalogue?.controls.filter((c) => c.family === f.id)" :key="c.id">
                <td class="w-44 align-top">
                  <strong>{{ c.title }}</strong><br /><span class="text-soft"
                    >in files <span class="value">{{ c.id }}</span></span
                  >
                </td>
                <td class="align-top">{{ c.effect }}. {{ c.risk }}</td>
                <td class="value w-72 align-top text-soft">
                  {{ c.allowed.replace('one of ', '') }}
                </td>
              </tr>
            </tbody>
          </table>
        </section>
      </template>
      <template v-else-if="topic === 'bundle'">
        <h1>The bundle format</h1>
        <p>
          One JSON document, <span class="value">"format": "upright-warden/1"</span>, with any of
          the parts <em>organisation</em>, <em>people</em>, <em>rulebook</em> and <em>meetings</em>.
          A part that is left out leaves what is stored alone. Unknown keys are refused. Each fault
          is told with a JSON Pointer to its place. At most 32 MiB.
        </p>
        <pre class="value overflow-auto border border-line bg-sheet p-3">{{ example }}</pre>
        <p>
          The full description is its JSON Schema:
          <a class="link" href="/api/exchange/bundle/schema">/api/exchange/bundle/schema</a>.
        </p>
      </template>
      <template v-else>
        <h1>For programs</h1>
        <p>
          Everything here can be asked for over HTTP; the description is
          <a class="link" href="/api/openapi.json">/api/openapi.json</a>. Send an access token as
          <span class="value">Authorization: Bearer …</span>; on your own machine
          <span class="value">./warden token</span> prints one.
        </p>
        <ul class="list-disc pl-5">
          <li><span class="value">POST /api/assess</span> judges a bundle and stores nothing.</li>
          <li>
            <span class="value">POST /api/rehearse</span> asks the door about anybody at any moment.
          </li>
          <li><span class="value">POST /api/exchange/bundle?dryRun=true</span> tries an import.</li>
          <li>
            <span class="value">POST /api/audits</span> begins an audit; its address is in Location.
          </li>
        </ul>
      </template>
    </article>
  </div>
</template>

<style scoped>
.help :deep(h1) {
  font-size: 20px;
  font-weight: 700;
  margin-bottom: 8px;
}
.help :deep(h2) {
  font-size: 16px;
  font-weight: 700;
  margin: 18px 0 4px;
}
.help :deep(p),
.help :deep(ol),
.help :deep(ul) {
  max-width: 46rem;
  margin-bottom: 6px;
}
.help :deep(li) {
  margin-bottom: 6px;
}
</style>
