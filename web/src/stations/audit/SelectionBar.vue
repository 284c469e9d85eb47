<script setup lang="ts">
import { t } from '@/wording'
import { useQueryCache } from '@pinia/colada'
import { computed, ref } from 'vue'
import { useCatalogue } from '@/api/catalogue'
import { api, take } from '@/api/client'
import type { Preview } from '@/api/schema'
import { useAct } from '@/shell/act'
import ModalSheet from '@/shell/ModalSheet.vue'
import ProblemNote from '@/shell/ProblemNote.vue'
import InSessionNote from '@/stations/floor/InSessionNote.vue'
import { useLastApplied } from './lastApplied'
import { counted } from '@/shell/counted'

/** Acts on several meetings, or on everything a check finds: counted before anything is done. */
const props = defineProps<{ selected: Set<string>; check: string; subject: string }>()
const emit = defineEmits<{ all: []; done: [] }>()
const cache = useQueryCache()
const { controls, checkTitle } = useCatalogue()
const { busy, problem, attempt } = useAct()
const preview = ref<Preview | null>(null)
/** What the preview that is shown counted, and so what is applied. */
const evenIfAsked = ref(false)
const { applied } = useLastApplied()
const said = ref('')
const isWhole = computed(() => !props.selected.size && !!props.check)
const targets = computed(() =>
  [...props.selected].map((meeting) => ({
    meeting,
    ...(props.check ? { check: props.check, subject: props.subject } : {}),
  })),
)
const body = (withAsked: boolean) => ({
  ...(isWhole.value
    ? { wholeCheck: props.check, ...(props.subject ? { wholeSubject: props.subject } : {}) }
    : { targets: targets.value }),
  evenIfAsked: withAsked,
})
/** What would be changed; those whom hosts were asked about only where that is said anew. */
const look = (withAsked = false) =>
  attempt(async () => {
    preview.value = await take(api.POST('/api/remedies/preview', { body: body(withAsked) }))
    evenIfAsked.value = withAsked
  })
const apply = () =>
  attempt(async () => {
    const made = await take(api.POST('/api/remedies', { body: body(evenIfAsked.value) }))
    applied(made.id, null)
    preview.value = null
    emit('done')
    await cache.invalidateQueries({ key: ['remedies'] })
  })
/** A letter cannot be taken back, and a key is soon pressed by mistake: it is asked first. */
const isAsking = ref(false)
const note = ref('')
function beginToAsk() {
  problem.value = null
  said.value = ''
  isAsking.value = true
}
const ask = () =>
  attempt(async () => {
    const asked = await take(
      api.POST('/api/host-requests', { body: { targets: targets.value, note: note.value } }),
    )
    isAsking.value = false
    note.value = ''
    said.value = t('audit.hostsAskedAboutFindingsX', {
      hosts: counted(asked.hosts, 'host'),
      findings: counted(asked.findings, 'finding'),
      x: asked.known ? t('audit.knownHadBeenAskedBefore', { known: asked.known }) : '',
    })
    emit('done')
    await cache.invalidateQueries({ key: ['requests'] })
  })
defineExpose({ apply: () => look(), ask: beginToAsk })
</script>

<template>
  <div>
    <div v-if="said || problem" class="shrink-0 border-t border-line px-5 py-1.5">
      <p v-if="said" role="status">{{ said }}</p>
      <ProblemNote v-if="!preview && !isAsking" :problem="problem" />
    </div>
    <div
      v-if="selected.size || check"
      class="flex shrink-0 items-center gap-3 border-t border-ink bg-sheet px-5 py-2"
      role="region"
      :aria-label="t('audit.actsOnSeveral')"
    >
      <strong v-if="selected.size">{{
        t('audit.meetingsChosen', { meetings: counted(selected.size, 'meeting') })
      }}</strong>
      <strong v-else>{{ t('audit.everythingOfCheck', { check: checkTitle(check) }) }}</strong>
      <button class="link" @click="emit('all')">
        {{ selected.size ? t('audit.allInSightOrNone') : t('audit.chooseAllInSight') }}
      </button>
      <button class="button button-main ml-auto" :disabled="busy" @click="look()">
        {{ isWhole ? t('audit.mendAllOfIt') : t('audit.mendThem') }}
      </button>
      <button v-if="selected.size" class="button" :disabled="busy" @click="beginToAsk">
        {{ t('audit.askTheHosts') }}
      </button>
    </div>
    <ModalSheet
      :open="isAsking"
      :title="t('audit.askTheHostsOf', { meetings: counted(selected.size, 'meeting') })"
      @close="isAsking = false"
    >
      <form @submit.prevent="ask">
        <p>{{ t('audit.eachHostGetsOneMessage') }}</p>
        <label class="mt-3 block">
          {{ t('audit.aWordWithIt') }}
          <textarea
            v-model="note"
            class="field mt-1 w-full"
            rows="2"
            maxlength="2000"
            :readonly="busy"
          />
        </label>
        <ProblemNote class="mt-2" :problem="problem" />
        <button class="button button-main mt-3" :disabled="busy || !selected.size">
          {{ busy ? t('audit.asking') : t('audit.ask') }}
        </button>
      </form>
    </ModalSheet>
    <ModalSheet :open="!!preview" :title="t('audit.mendSeveral')" @close="preview = null">
      <template v-if="preview">
        <p>
          <strong>{{ counted(preview.meetings, 'meeting') }}</strong>
          {{ t('audit.wouldBeChanged') }}
        </p>
        <ul class="value mt-1">
          <li v-for="(n, control) in preview.controls" :key="control">
            {{
              t('audit.titleInMeetings', {
                title: controls.get(String(control))?.title ?? control,
                meetings: counted(n, 'meeting'),
              })
            }}
          </li>
        </ul>
        <InSessionNote class="mt-2" :meetings="[...selected]" />
        <p v-if="preview.letters" class="mt-2">
          {{ t('audit.inLettersOfThemANewInvitation', { letters: preview.letters }) }}
        </p>
        <p v-if="preview.incomplete" class="mt-2">
          {{ t('audit.inIncompleteSomethingIsLeftAfterwards', { incomplete: preview.incomplete }) }}
        </p>
        <p v-if="preview.beyondHelp" class="mt-2">
          {{
            t('audit.findingsNoControlMendsTheyStay', {
              findings: counted(preview.beyondHelp, 'finding'),
            })
          }}
        </p>
        <p v-if="preview.asked" class="mt-2">
          {{ t('audit.inAskedTheHostWasAskedAnd', { asked: preview.asked }) }}
        </p>
        <p class="mt-2 text-[12.5px] text-soft">{{ t('audit.itCanBeUndoneAsAWhole') }}</p>
        <ProblemNote class="mt-2" :problem="problem" />
        <div class="mt-3 flex gap-2">
          <button class="button button-main" :disabled="busy || !preview.meetings" @click="apply">
            {{ t('audit.changeMeetings', { meetings: counted(preview.meetings, 'meeting') }) }}
          </button>
          <button v-if="preview.asked" class="button" :disabled="busy" @click="look(true)">
            {{ t('audit.withThoseWhoWereAsked') }}
          </button>
        </div>
      </template>
    </ModalSheet>
  </div>
</template>
