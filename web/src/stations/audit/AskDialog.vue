<script setup lang="ts">
import { t } from '@/wording'
import { useQueryCache } from '@pinia/colada'
import { computed, ref, watch } from 'vue'
import { api, take } from '@/api/client'
import type { FindingView } from '@/api/schema'
import { useAct } from '@/shell/act'
import TallyMark from '@/marks/TallyMark.vue'
import ModalSheet from '@/shell/ModalSheet.vue'
import ProblemNote from '@/shell/ProblemNote.vue'
import { counted } from '@/shell/counted'
import { identityOf, subjectOf } from './wall'

/** Asks a host about findings of one meeting: one message, however many. */
const props = defineProps<{
  open: boolean
  meeting: string
  title: string
  findings: FindingView[]
  first: FindingView
}>()
const emit = defineEmits<{ close: []; done: [words: string] }>()
const cache = useQueryCache()
const chosen = ref(new Set<string>())
const note = ref('')
const { busy, problem, attempt } = useAct()
const id = (f: FindingView) => identityOf(props.meeting, f)
watch(
  () => props.open,
  (open) => {
    if (open) chosen.value = new Set([id(props.first)])
  },
  { immediate: true },
)
const ordered = computed(() => [
  props.first,
  ...props.findings.filter((f) => id(f) !== id(props.first)),
])
function toggle(f: FindingView) {
  const next = new Set(chosen.value)
  if (!next.delete(id(f))) next.add(id(f))
  chosen.value = next
}
async function ask() {
  await attempt(async () => {
    const asked = await take(
      api.POST('/api/host-requests', {
        body: {
          targets: ordered.value
            .filter((f) => chosen.value.has(id(f)))
            .map((f) => ({
              meeting: props.meeting,
              occurrence: f.occurrence ?? '',
              check: f.check,
              subject: subjectOf(f),
            })),
          note: note.value,
        },
      }),
    )
    await cache.invalidateQueries({ key: ['requests'] })
    emit(
      'done',
      asked.findings
        ? t('audit.theHostWasAskedAboutFindings', { findings: counted(asked.findings, 'finding') })
        : t('audit.theHostHasBeenAskedThatAlready'),
    )
  })
}
</script>

<template>
  <ModalSheet :open="open" :title="t('audit.askTheHostOfTitle', { title })" @close="emit('close')">
    <form @submit.prevent="ask">
      <ul class="max-h-72 overflow-auto">
        <li v-for="f in ordered" :key="id(f)" class="border-b border-hair py-1">
          <label class="flex items-start gap-2">
            <input type="checkbox" class="mt-1" :checked="chosen.has(id(f))" @change="toggle(f)" />
            <TallyMark class="mt-1" :severity="f.severity" />
            <span>{{ f.text }}</span>
          </label>
        </li>
      </ul>
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
      <p class="mt-1 text-[12.5px] text-soft">
        {{ t('audit.theyGetOneMessageWithEachSentence') }}
      </p>
      <ProblemNote class="mt-2" :problem="problem" />
      <button class="button button-main mt-3" :disabled="busy || !chosen.size">
        {{ busy ? t('audit.asking') : t('audit.ask') }}
      </button>
    </form>
  </ModalSheet>
</template>
