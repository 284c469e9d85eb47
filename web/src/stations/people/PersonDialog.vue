<script setup lang="ts">
import { t } from '@/wording'
import { useQueryCache } from '@pinia/colada'
import { nextTick, ref, watch } from 'vue'
import { useOrganisation } from '@/api/catalogue'
import { api, take } from '@/api/client'
import { useAct } from '@/shell/act'
import ModalSheet from '@/shell/ModalSheet.vue'
import OutdatedNote from '@/shell/OutdatedNote.vue'
import ProblemNote from '@/shell/ProblemNote.vue'
import ZoneField from '@/shell/ZoneField.vue'

/** Somebody's entry in the directory. */
interface Entry {
  email: string
  name?: string | null
  standing: string
  unit?: string | null
  active: boolean
  zone?: string | null
}
const props = defineProps<{ open: boolean; person: Entry | null }>()
const emit = defineEmits<{ close: []; saved: [email: string] }>()

const cache = useQueryCache()
const { organisation } = useOrganisation()
const email = ref('')
const name = ref('')
const standing = ref('member')
const unit = ref('')
const active = ref(true)
const zone = ref('')
const { busy, problem, attempt } = useAct()
/** Their entry as it was opened; null for somebody new. */
let seen: Entry | null = null
function fill(now: Entry | null) {
  seen = now
  email.value = now?.email ?? ''
  name.value = now?.name ?? ''
  standing.value = now?.standing === 'guest' ? 'guest' : 'member'
  unit.value = now?.unit ?? ''
  active.value = now ? now.active : true
  zone.value = now?.zone ?? ''
  problem.value = null
}
watch(
  () => props.open,
  (open) => open && fill(props.person),
  { immediate: true },
)
const asSeen = (of: Entry) => ({
  name: of.name ?? '',
  standing: of.standing as 'member',
  unit: of.unit ?? null,
  active: of.active,
  zone: of.zone ?? null,
})
async function save() {
  await attempt(async () => {
    const saved = await take(
      api.PUT('/api/people/{email}', {
        params: {
          path: { email: email.value.trim() },
          header: seen ? {} : { 'If-None-Match': '*' },
        },
        body: {
          name: name.value,
          standing: standing.value as 'member',
          unit: unit.value || null,
          active: active.value,
          zone: zone.value || null,
          seen: seen ? asSeen(seen) : undefined,
        },
      }),
    )
    await cache.invalidateQueries()
    emit('saved', saved.email)
    emit('close')
  })
}
/** What somebody else made of it takes the place of what was typed here. */
async function takeTheirs() {
  await cache.invalidateQueries({ key: ['person'] })
  await nextTick()
  fill(props.person)
}
</script>

<template>
  <ModalSheet
    :open="open"
    :title="person ? t('people.changeTheirEntry') : t('people.addSomebody')"
    @close="emit('close')"
  >
    <form class="grid grid-cols-[5.5rem_1fr] items-center gap-x-3 gap-y-2" @submit.prevent="save">
      <label for="p-email" class="text-soft">{{ t('people.address') }}</label>
      <input
        id="p-email"
        v-model="email"
        class="field value"
        type="email"
        required
        :readonly="!!person || busy"
      />
      <label for="p-name" class="text-soft">{{ t('people.name') }}</label>
      <input id="p-name" v-model="name" class="field" required maxlength="200" :readonly="busy" />
      <label for="p-standing" class="text-soft">{{ t('people.standing2') }}</label>
      <select id="p-standing" v-model="standing" class="field">
        <option value="member">{{ t('people.memberAnAccountHere') }}</option>
        <option value="guest">{{ t('people.guestFromOutsideWithAnAccountHere') }}</option>
      </select>
      <label for="p-unit" class="text-soft">{{ t('people.unit2') }}</label>
      <select id="p-unit" v-model="unit" class="field">
        <option value="">{{ t('people.none') }}</option>
        <option v-for="u in organisation?.units ?? []" :key="u.id" :value="u.id">
          {{ u.name }}
        </option>
      </select>
      <label for="p-zone" class="text-soft">{{ t('people.zone2') }}</label>
      <ZoneField
        id="p-zone"
        :value="zone"
        may-be-empty
        :placeholder="t('people.notKnown')"
        @change="(picked) => (zone = picked)"
      />
      <span />
      <label class="flex items-center gap-2">
        <input v-model="active" type="checkbox" /> {{ t('people.active') }}
      </label>
      <ProblemNote class="col-span-2" :problem="problem" />
      <OutdatedNote class="col-span-2" :problem="problem" @look="takeTheirs" />
      <span />
      <div class="flex gap-3">
        <button class="button button-main" :disabled="busy">{{ t('people.save') }}</button>
        <button type="button" class="button" @click="emit('close')">
          {{ t('people.leaveIt') }}
        </button>
      </div>
    </form>
  </ModalSheet>
</template>
