<script setup lang="ts">
import { useQueryCache } from '@pinia/colada'
import { computed, ref, watch } from 'vue'
import { api, Problem, take } from '@/api/client'
import type { ImportReport } from '@/api/schema'
import ModalSheet from '@/shell/ModalSheet.vue'
import ProblemNote from '@/shell/ProblemNote.vue'

/** A bundle in: tried first, so that one sees what it would do, then taken whole or not at all. */
const props = defineProps<{ open: boolean }>()
const emit = defineEmits<{ close: [] }>()

const cache = useQueryCache()
const text = ref('')
const name = ref('')
const report = ref<ImportReport | null>(null)
const problem = ref<Error | null>(null)
const busy = ref(false)
const done = computed(() => report.value && !report.value.dryRun)

watch(
  () => props.open,
  (open) => {
    if (open) {
      text.value = name.value = ''
      report.value = problem.value = null
    }
  },
)

async function choose(event: Event) {
  const file = (event.target as HTMLInputElement).files?.[0]
  if (!file) return
  report.value = problem.value = null
  name.value = file.name
  if (file.size > 32 * 1024 * 1024) {
    text.value = ''
    problem.value = new Problem(
      413,
      'too-large',
      `${file.name} is larger than 32 MiB. Split it.`,
      [],
    )
    return
  }
  text.value = await file.text()
  await send(true)
}

async function send(dryRun: boolean) {
  busy.value = true
  problem.value = null
  try {
    report.value = await take(
      api.POST('/api/exchange/bundle', {
        params: { query: { dryRun } },
        body: text.value as never,
        bodySerializer: (body) => body as unknown as string,
      }),
    )
    if (!dryRun) await cache.invalidateQueries()
  } catch (e) {
    report.value = null
    problem.value = e as Error
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <ModalSheet :open="open" title="Bring in a bundle" wide @close="emit('close')">
    <p class="text-soft">
      A bundle is one JSON document with people, rules and meetings. It is tried first; nothing is
      stored until you say so. What is stored already and not in the bundle stays as it is.
      <RouterLink class="link" to="/help/bundle">The format</RouterLink>
    </p>
    <label class="mt-4 flex items-center gap-3">
      <span class="button">Choose a file…</span>
      <input
        class="hidden-label"
        type="file"
        accept=".json,application/json"
        aria-label="Bundle file"
        @click="($event.target as HTMLInputElement).value = ''"
        @change="choose"
      />
      <span class="value">{{ name || 'no file chosen' }}</span>
    </label>
    <p v-if="busy" class="mt-3 text-soft" role="status">Reading and judging…</p>
    <ProblemNote class="mt-3" :problem="problem" />
    <div v-if="report" class="mt-4" role="status">
      <p class="head">
        {{ done ? 'Taken in:' : 'It would' }}
        {{ done ? '' : 'add ' }}{{ report.added }} {{ done ? 'added' : '' }},
        {{ done ? '' : 'change ' }}{{ report.changed }} {{ done ? 'changed' : '' }},
        {{ done ? '' : 'leave ' }}{{ report.unchanged }} {{ done ? 'left alone' : 'alone' }}.
      </p>
      <div v-if="report.rows.length" class="mt-2 max-h-64 overflow-auto border border-line">
        <table class="grid-lines">
          <thead>
            <tr>
              <th>What</th>
              <th>Name</th>
              <th>Outcome</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(row, i) in report.rows.slice(0, 500)" :key="i">
              <td class="text-soft">{{ row.part }}</td>
              <td class="value">{{ row.id }}</td>
              <td>{{ row.outcome }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <p v-if="report.rows.length > 500" class="text-soft">
        and {{ report.rows.length - 500 }} more
      </p>
    </div>
    <div class="mt-4 flex gap-3">
      <button
        v-if="report && !done"
        class="button button-main"
        :disabled="busy || (!report.added && !report.changed)"
        @click="send(false)"
      >
        Take it in
      </button>
      <button class="button" @click="emit('close')">{{ done ? 'Done' : 'Leave it' }}</button>
    </div>
  </ModalSheet>
</template>
