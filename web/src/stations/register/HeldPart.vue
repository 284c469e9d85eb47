<script setup lang="ts">
import { t } from '@/wording'
import { useQuery } from '@pinia/colada'
import { computed, ref } from 'vue'
import { label, useCatalogue } from '@/api/catalogue'
import { api, take } from '@/api/client'
import type { HeldView } from '@/api/schema'
import { useSession } from '@/api/session'
import { useAct } from '@/shell/act'
import ProblemNote from '@/shell/ProblemNote.vue'
import { fullTime, shortTime } from '@/shell/times'
import { writingWords } from './held'

/** What a conference service holds of a meeting, beside what was decided, where the two differ. */
const props = defineProps<{
  id: string
  /** Theirs to set back. */
  mayAct: boolean
  held: HeldView | null
  /** The service that held it until that was unlinked. */
  formerly?: string | null
}>()
const emit = defineEmits<{ changed: [] }>()
const session = useSession()
const { controls } = useCatalogue()
const { busy, problem, attempt } = useAct()
const { data: services } = useQuery({
  key: ['services'],
  query: () => take(api.GET('/api/services')),
  enabled: () => session.isWarden && !props.held,
})
const chosen = ref(0)
const open = computed(() => (services.value ?? []).filter((s) => s.level === 'write'))
const path = computed(() => ({ params: { path: { id: props.id } } }))
const words = computed(() => (props.held ? writingWords(props.held) : null))
async function act(call: () => Promise<unknown>) {
  await attempt(async () => {
    await call()
    emit('changed')
  })
}
const setBack = () => act(() => take(api.POST('/api/meetings/{id}/service/decided', path.value)))
const accept = () => act(() => take(api.POST('/api/meetings/{id}/service/held', path.value)))
const hold = () =>
  act(() =>
    take(api.PUT('/api/meetings/{id}/service', { ...path.value, body: { service: chosen.value } })),
  )
</script>

<template>
  <section v-if="held" class="mt-5" aria-labelledby="held">
    <h2 id="held" class="head flex justify-between border-b border-line pb-1">
      {{ t('register.heldByName', { name: held.name }) }}
      <span class="font-normal text-soft" :title="fullTime(held.readAt)">{{
        t('register.asReadReadAt', { readAt: shortTime(held.readAt) })
      }}</span>
    </h2>
    <p v-if="words" class="py-1" role="status" :class="words.wrong ? 'text-rust' : ''">
      {{ words.text }}
    </p>
    <ul v-if="held.differences.length">
      <li
        v-for="d in held.differences"
        :key="`${d.occurrence} ${d.control}`"
        class="border-b border-hair py-1.5"
      >
        <div class="flex items-baseline justify-between gap-2">
          <strong>{{ controls.get(d.control)?.title }}</strong>
          <span v-if="d.occurrence" class="value text-soft">{{ d.occurrence }}</span>
        </div>
        <dl class="grid grid-cols-[5.5rem_1fr]">
          <dt class="text-soft">{{ t('register.decided') }}</dt>
          <dd>{{ label(controls.get(d.control), d.decided) }}</dd>
          <dt class="text-soft">{{ t('register.held') }}</dt>
          <dd :class="d.looser ? 'text-rust' : ''">
            {{ d.held === null ? t('register.nothing') : label(controls.get(d.control), d.held) }}
          </dd>
        </dl>
        <p v-if="d.cause === 'changed-there'" class="text-[12.5px] text-soft">
          {{
            t('register.byChangedItThereX', {
              by: d.by || t('register.somebody'),
              x: d.at ? t('register.onAt', { at: fullTime(d.at) }) : '',
            })
          }}
        </p>
        <p v-else-if="d.why" class="text-[12.5px] text-soft">{{ d.why }}</p>
      </li>
    </ul>
    <div v-if="held.differences.length && mayAct" class="mt-2 flex gap-3">
      <button
        v-if="held.level !== 'read'"
        type="button"
        class="button button-main"
        :disabled="busy"
        @click="setBack"
      >
        {{ held.writing === 'kept' ? t('register.sendIt') : t('register.setItBack') }}
      </button>
      <button v-if="session.isWarden" type="button" class="button" :disabled="busy" @click="accept">
        {{ t('register.leaveItAsItIsThere') }}
      </button>
    </div>
    <ProblemNote class="mt-2" :problem="problem" />
  </section>
  <p v-if="!held && formerly" class="mt-4 text-soft">
    {{ t('register.formerlyHeldItUntilItWasUnlinked', { formerly }) }}
  </p>
  <form v-if="!held && open.length" class="mt-4 flex items-end gap-2" @submit.prevent="hold">
    <label class="flex flex-col gap-1">
      <span class="text-soft">{{ t('register.notHeldByAnyService') }}</span>
      <select v-model="chosen" class="field">
        <option :value="0" disabled>{{ t('register.chooseOne2') }}</option>
        <option v-for="s in open" :key="s.id" :value="s.id">{{ s.name }}</option>
      </select>
    </label>
    <button class="button" :disabled="!chosen || busy">{{ t('register.makeItThere') }}</button>
    <ProblemNote :problem="problem" />
  </form>
</template>
