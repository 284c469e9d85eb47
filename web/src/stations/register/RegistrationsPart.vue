<script setup lang="ts">
import { t } from '@/wording'
import { useQuery } from '@pinia/colada'
import { computed, ref, watch } from 'vue'
import { api, take } from '@/api/client'
import type { RegistrationLine, RegistrationList } from '@/api/schema'
import { useAct } from '@/shell/act'
import { useKeep } from '@/shell/keep'
import ProblemNote from '@/shell/ProblemNote.vue'
import { shortTime } from '@/shell/times'

/** Who asked to take part by the service's form, and what they are answered. */
const props = defineProps<{ id: string; mayChange: boolean }>()
const keep = useKeep()
const key = () => ['meeting', props.id, 'registrations'] as const
const { data, refetch } = useQuery({
  key,
  query: () =>
    take(api.GET('/api/meetings/{id}/registrations', { params: { path: { id: props.id } } })),
})
const chosen = ref<Set<string>>(new Set())
watch(
  () => props.id,
  () => (chosen.value = new Set()),
)
const people = computed(() => data.value?.people ?? [])
const open = computed(() => people.value.filter((p) => p.state === 'asked' && !p.deciding))
const mayDecide = computed(() => props.mayChange && data.value?.mayDecide === true)
const states: Record<string, string> = {
  asked: t('register.waitsForAnAnswer'),
  approved: t('register.approved'),
  declined: t('register.declined'),
}
const words = (p: RegistrationLine) => {
  if (p.deciding)
    return p.deciding === 'approved' ? t('register.beingApproved') : t('register.beingDeclined')
  return states[p.state] ?? p.state
}
const { busy, problem, attempt } = useAct()
async function decide(decision: 'approve' | 'decline', all: boolean) {
  const of = key()
  await attempt(async () => {
    const after: RegistrationList = await take(
      api.POST('/api/meetings/{id}/registrations', {
        params: { path: { id: of[1] } },
        body: { decision, ...(all ? {} : { addresses: [...chosen.value] }) },
      }),
    )
    if (of[1] === props.id) chosen.value = new Set()
    keep(of, after)
    // the service is told now; what it says is read back a moment later
    setTimeout(() => refetch(), 2500)
  })
}
function tick(address: string, on: boolean) {
  const next = new Set(chosen.value)
  if (on) next.add(address)
  else next.delete(address)
  chosen.value = next
}
</script>

<template>
  <section
    v-if="data && (people.length || data.how !== 'none')"
    class="mt-8"
    aria-labelledby="registrations"
  >
    <h2 id="registrations" class="head border-b border-ink pb-1">
      {{ t('register.whoAskedToTakePart') }}
    </h2>
    <p v-if="!people.length" class="py-1 text-soft">
      {{
        data.service
          ? t('register.nobodyHasFilledInTheFormOf', { service: data.service })
          : t('register.noConferenceServiceHoldsThisMeeting')
      }}
    </p>
    <template v-else>
      <p class="py-1 text-soft">
        {{
          t('register.openOfPeopleWaitForAnAnswer', { open: open.length, people: people.length })
        }}
        <template v-if="data.how === 'open'">{{
          t('register.whoeverFillsInTheFormIsLet')
        }}</template>
        <template v-else-if="!data.mayDecide">
          {{ t('register.answersAreGivenInServiceNothingIs', { service: data.service }) }}
        </template>
      </p>
      <ul class="max-h-72 overflow-auto" tabindex="0" :aria-label="t('register.whoAsked')">
        <li
          v-for="p in people"
          :key="p.address"
          class="flex items-baseline gap-2 border-b border-hair py-1"
        >
          <label class="flex min-w-0 flex-1 items-baseline gap-2">
            <input
              v-if="mayDecide"
              type="checkbox"
              :checked="chosen.has(p.address)"
              @change="tick(p.address, ($event.target as HTMLInputElement).checked)"
            />
            <span class="min-w-0 truncate" dir="auto">{{ p.name }}</span>
            <span class="truncate text-soft">{{ p.address }}</span>
          </label>
          <span v-if="p.askedAt" class="text-soft phone:hidden">{{ shortTime(p.askedAt) }}</span>
          <span
            class="w-36 text-right"
            :class="
              p.state === 'approved' ? 'text-kelp' : p.state === 'declined' ? 'text-rust' : ''
            "
          >
            {{ words(p) }}
            <span v-if="p.why" class="block text-[12.5px] text-rust">{{
              t('register.notTakenWhy', { why: p.why })
            }}</span>
          </span>
        </li>
      </ul>
      <ProblemNote class="mt-2" :problem="problem" />
      <div v-if="mayDecide" class="mt-2 flex flex-wrap gap-3">
        <button class="button" :disabled="busy || !chosen.size" @click="decide('approve', false)">
          {{ t('register.approveSize', { size: chosen.size || '' }) }}
        </button>
        <button class="button" :disabled="busy || !chosen.size" @click="decide('decline', false)">
          {{ t('register.declineSize', { size: chosen.size || '' }) }}
        </button>
        <button
          v-if="open.length"
          class="button button-main ml-auto"
          :disabled="busy"
          @click="decide('approve', true)"
        >
          {{ t('register.approveAllOpenWhoWait', { open: open.length }) }}
        </button>
      </div>
    </template>
  </section>
</template>
