<script setup lang="ts">
import { t } from '@/wording'
import { useQuery } from '@pinia/colada'
import { ref, watch } from 'vue'
import { useOrganisation } from '@/api/catalogue'
import { api, take } from '@/api/client'
import { useSession } from '@/api/session'
import CopyButton from '@/shell/CopyButton.vue'
import ModalSheet from '@/shell/ModalSheet.vue'
import { useAct, useRowAct } from '@/shell/act'
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
const { busy, problem, attempt } = useAct()
const { attempt: toRow } = useRowAct(problem)
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
const make = () =>
  attempt(async () => {
    const own = whose.value === 'own'
    const name = own
      ? t('register.meetingsOfName', { name: session.who?.name ?? session.who?.email ?? '' })
      : [unitName(unit.value), kindName(kind.value)].filter(Boolean).join(', ') ||
        (organisation.value?.name ?? t('register.allMeetings'))
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
  })
const end = (id: number) =>
  toRow(id, async () => {
    await take(api.DELETE('/api/feeds/{id}', { params: { path: { id } } }))
    await refetch()
  })
</script>

<template>
  <ModalSheet
    :open="open"
    :title="t('register.subscribeInACalendarProgram')"
    wide
    @close="emit('close')"
  >
    <p class="text-soft">
      {{ t('register.anAddressForYourCalendarProgramIt') }}
    </p>
    <div class="mt-3 flex flex-wrap items-center gap-3">
      <label class="flex items-center gap-1.5">
        <input v-model="whose" type="radio" value="own" name="whose" />
        {{ t('register.myOwnMeetings') }}
      </label>
      <template v-if="session.seesAll">
        <label class="flex items-center gap-1.5">
          <input v-model="whose" type="radio" value="part" name="whose" />
          {{ t('register.aPartOfTheRegister') }}
        </label>
        <template v-if="whose === 'part'">
          <select v-model="unit" class="field" :aria-label="t('register.unitOfTheFeed')">
            <option value="">{{ t('register.everyUnit') }}</option>
            <option v-for="u in organisation?.units ?? []" :key="u.id" :value="u.id">
              {{ u.name }}
            </option>
          </select>
          <select v-model="kind" class="field" :aria-label="t('register.kindOfTheFeed')">
            <option value="">{{ t('register.everyKind') }}</option>
            <option v-for="k in organisation?.kinds ?? []" :key="k.id" :value="k.id">
              {{ k.name }}
            </option>
          </select>
        </template>
      </template>
      <button type="button" class="button button-main" :disabled="busy" @click="make">
        {{ t('register.makeAnAddress') }}
      </button>
    </div>
    <ProblemNote class="mt-3" :problem="problem" />
    <div v-if="address" class="mt-3 border-l-4 border-kelp bg-paper px-3 py-2" role="status">
      <p>{{ t('register.itIsToldThisOnce') }}</p>
      <p class="flex items-center gap-3">
        <input
          class="field value flex-1"
          readonly
          :aria-label="t('register.feedAddress')"
          :value="address"
          @focus="($event.target as HTMLInputElement).select()"
        />
        <CopyButton class="link" :text="address">{{ t('register.copy') }}</CopyButton>
      </p>
    </div>
    <h3 class="head mt-5 border-b border-line pb-1">{{ t('register.addressesInUse') }}</h3>
    <p v-if="!feeds?.length" class="text-soft">{{ t('register.none') }}</p>
    <ul>
      <li
        v-for="f in feeds ?? []"
        :key="f.id"
        class="flex items-baseline gap-3 border-b border-hair py-1"
      >
        <span>{{ f.name }}</span>
        <span class="text-[12.5px] text-soft">{{
          t('register.ownerXEndsEndsAtUnlessItIs', {
            owner: f.owner,
            x: f.usedAt
              ? t('register.lastReadUsedAt', { usedAt: fullTime(f.usedAt) })
              : t('register.neverRead'),
            endsAt: fullTime(f.endsAt),
          })
        }}</span>
        <button
          type="button"
          class="link ml-auto"
          :aria-label="t('register.endName', { name: f.name })"
          @click="end(f.id)"
        >
          {{ t('register.end') }}
        </button>
      </li>
    </ul>
  </ModalSheet>
</template>
