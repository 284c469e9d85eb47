<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { ref, watch } from 'vue'
import { useOrganisation } from '@/api/catalogue'
import { api, take } from '@/api/client'
import { useSession } from '@/api/session'
import ModalSheet from '@/shell/ModalSheet.vue'
import ProblemNote from '@/shell/ProblemNote.vue'
import { fullTime } from '@/shell/times'

/** Addresses that calendar programs subscribe to. Each is a key: told once, ended at will. */
const props = defineProps<{ open: boolean }>()
const emit = defineEmits<{ close: [] }>()

const session = useSession()
const { organisation, unitName, kindName } = useOrganisation()
const whose = ref<'own' | 'part'>('own')
const unit = ref('')
const kind = ref('')
const address = ref('')
const copied = ref(false)
const problem = ref<Error | null>(null)
const { data: feeds, refetch } = useQuery({
  key: ['feeds'],
  query: () => take(api.GET('/api/feeds')),
  enabled: () => props.open,
})
watch(
  () => props.open,
  () => {
    address.value = ''
    problem.value = null
  },
)
async function make() {
  problem.value = null
  try {
    const own = whose.value === 'own'
    const name = own
      ? `Meetings of ${session.who?.name ?? session.who?.email ?? ''}`
      : [unitName(unit.value), kindName(kind.value)].filter(Boolean).join(', ') ||
        (organisation.value?.name ?? 'All meetings')
    const made = await take(
      api.POST('/api/feeds', {
        body: {
          name,
          person: own ? (session.who?.email ?? null) : null,
          unit: own ? null : unit.value || null,
          kind: own ? null : kind.value || null,
        },
      }),
    )
    address.value = window.location.origin + made.path
    await refetch()
  } catch (e) {
    problem.value = e as Error
  }
}
async function end(id: number) {
  try {
    await take(api.DELETE('/api/feeds/{id}', { params: { path: { id } } }))
    await refetch()
  } catch (e) {
    problem.value = e as Error
  }
}
async function copy() {
  await navigator.clipboard.writeText(address.value)
  copied.value = true
}
</script>

<template>
  <ModalSheet :open="open" title="Subscribe in a calendar program" wide @close="emit('close')">
    <p class="text-soft">
      An address for your calendar program. It shows when and what, and holds no passcode, link,
      agenda or address. Whoever has it can read it: keep it to yourself, and end it when it gets
      about.
    </p>
    <div class="mt-3 flex flex-wrap items-center gap-3">
      <label class="flex items-center gap-1.5">
        <input v-model="whose" type="radio" value="own" name="whose" /> my own meetings
      </label>
      <template v-if="session.seesAll">
        <label class="flex items-center gap-1.5">
          <input v-model="whose" type="radio" value="part" name="whose" /> a part of the register
        </label>
        <template v-if="whose === 'part'">
          <select v-model="unit" class="field" aria-label="Unit of the feed">
            <option value="">every unit</option>
            <option v-for="u in organisation?.units ?? []" :key="u.id" :value="u.id">
              {{ u.name }}
            </option>
          </select>
          <select v-model="kind" class="field" aria-label="Kind of the feed">
            <option value="">every kind</option>
            <option v-for="k in organisation?.kinds ?? []" :key="k.id" :value="k.id">
              {{ k.name }}
            </option>
          </select>
        </template>
      </template>
      <button type="button" class="button button-main" @click="make">Make an address</button>
    </div>
    <ProblemNote class="mt-3" :problem="problem" />
    <div v-if="address" class="mt-3 border-l-4 border-kelp bg-paper px-3 py-2" role="status">
      <p>It is told this once:</p>
      <p class="flex items-center gap-3">
        <input
          class="field value flex-1"
          readonly
          aria-label="Feed address"
          :value="address"
          @focus="($event.target as HTMLInputElement).select()"
        />
        <button type="button" class="link" @click="copy">{{ copied ? 'copied' : 'copy' }}</button>
      </p>
    </div>
    <h3 class="head mt-5 border-b border-line pb-1">Addresses in use</h3>
    <p v-if="!feeds?.length" class="text-soft">None.</p>
    <ul>
      <li
        v-for="f in feeds ?? []"
        :key="f.id"
        class="flex items-baseline gap-3 border-b border-hair py-1"
      >
        <span>{{ f.name }}</span>
        <span class="text-[12.5px] text-soft"
          >{{ f.owner }} · {{ f.usedAt ? `last read ${fullTime(f.usedAt)}` : 'never read' }} · ends
          {{ fullTime(f.endsAt) }} unless it is read before</span
        >
        <button type="button" class="link ml-auto" :aria-label="`End ${f.name}`" @click="end(f.id)">
          end
        </button>
      </li>
    </ul>
  </ModalSheet>
</template>
