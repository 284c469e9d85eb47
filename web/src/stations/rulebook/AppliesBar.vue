<script setup lang="ts">
import { t } from '@/wording'
import { useQuery } from '@pinia/colada'
import { ref } from 'vue'
import { api, take } from '@/api/client'
import type { Overview } from '@/api/schema'
import type { Whom } from './impact'

/** For whom the rulebook is shown resolved: a unit and a kind, or a person. */
const props = defineProps<{ organisation: Overview; whom: Whom; problem: Error | null }>()
const emit = defineEmits<{ choose: [whom: Whom]; close: [] }>()
const person = ref(props.whom.person ?? '')

// addresses come from the hosts of the register; anybody else can be typed
const { data: lines } = useQuery({
  key: ['meetings', 'hosts'],
  query: () => take(api.GET('/api/meetings', { params: { query: { size: 500, sort: 'host' } } })),
})
const hosts = () =>
  [...new Map((lines.value?.items ?? []).map((l) => [l.host, l.hostName])).entries()].slice(0, 300)
</script>

<template>
  <div class="flex min-w-0 flex-1 flex-wrap items-center gap-x-3 gap-y-1 py-1">
    <span class="head">{{ t('rulebook.asItAppliesTo') }}</span>
    <select
      class="field max-w-40"
      :aria-label="t('rulebook.unit')"
      :value="whom.unit ?? ''"
      :disabled="!!whom.person"
      @change="
        emit('choose', {
          ...whom,
          unit: ($event.target as HTMLSelectElement).value || undefined,
        })
      "
    >
      <option value="">{{ t('rulebook.noUnit') }}</option>
      <option v-for="u in organisation.units" :key="u.id" :value="u.id">{{ u.name }}</option>
    </select>
    <select
      class="field max-w-36"
      :aria-label="t('rulebook.kind')"
      :value="whom.kind ?? ''"
      @change="
        emit('choose', {
          ...whom,
          kind: ($event.target as HTMLSelectElement).value || undefined,
        })
      "
    >
      <option value="">{{ t('rulebook.noKind') }}</option>
      <option v-for="k in organisation.kinds" :key="k.id" :value="k.id">{{ k.name }}</option>
    </select>
    <span class="text-soft">{{ t('rulebook.or') }}</span>
    <form
      class="min-w-0"
      @submit.prevent="emit('choose', { ...whom, person: person.trim() || undefined })"
    >
      <input
        v-model="person"
        class="field w-52"
        list="hosts-known"
        :placeholder="t('rulebook.aPersonsAddress')"
        :aria-label="t('rulebook.aPersonsAddress2')"
        @change="emit('choose', { ...whom, person: person.trim() || undefined })"
      />
      <datalist id="hosts-known">
        <option v-for="[email, name] in hosts()" :key="email" :value="email">{{ name }}</option>
      </datalist>
    </form>
    <button class="link ml-auto" @click="emit('close')">{{ t('rulebook.backToTheLayers') }}</button>
    <p v-if="problem" class="w-full text-rust" role="alert">{{ problem.message }}</p>
  </div>
</template>
