<script setup lang="ts">
import { useId } from 'vue'
import ZoneField from '@/shell/ZoneField.vue'
import { rhythmWords, rhythms } from './calendars'

/** What somebody says of a calendar that is read. */
const form = defineModel<{
  name: string
  purpose: string
  person: string
  zone: string
  minutes: number
}>({ required: true })
defineProps<{ isNew: boolean }>()
const zone = useId()
const put = (some: Partial<typeof form.value>) => (form.value = { ...form.value, ...some })
</script>

<template>
  <div class="grid grid-cols-2 gap-3 phone:grid-cols-1">
    <label class="flex flex-col gap-1">
      Called here
      <input
        class="field w-full max-w-sm"
        maxlength="60"
        required
        :value="form.name"
        @input="put({ name: ($event.target as HTMLInputElement).value })"
      />
    </label>
    <label class="flex flex-col gap-1">
      {{ form.purpose === 'busy' ? 'Whose time it takes up' : 'Who hosts what has no organiser' }}
      <input
        class="field w-full max-w-sm"
        type="email"
        maxlength="254"
        placeholder="name@example.org"
        required
        :value="form.person"
        @input="put({ person: ($event.target as HTMLInputElement).value.trim() })"
      />
    </label>
    <div class="flex flex-col gap-1">
      <label :for="zone">The zone of times that name none</label>
      <ZoneField :id="zone" :value="form.zone" @change="(z) => put({ zone: z })" />
    </div>
    <label class="flex flex-col gap-1">
      Read
      <select
        class="field w-48"
        :value="form.minutes"
        @change="put({ minutes: Number(($event.target as HTMLSelectElement).value) })"
      >
        <option v-if="!rhythms.some((r) => r.minutes === form.minutes)" :value="form.minutes">
          {{ rhythmWords(form.minutes) }}
        </option>
        <option v-for="r in rhythms" :key="r.minutes" :value="r.minutes">{{ r.words }}</option>
      </select>
    </label>
    <slot v-if="!isNew" />
  </div>
</template>
