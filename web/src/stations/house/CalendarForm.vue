<script setup lang="ts">
import { t } from '@/wording'
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
      {{ t('house.calledHere') }}
      <input
        class="field w-full max-w-sm"
        maxlength="60"
        required
        :value="form.name"
        @input="put({ name: ($event.target as HTMLInputElement).value })"
      />
    </label>
    <label class="flex flex-col gap-1">
      {{
        form.purpose === 'busy'
          ? t('house.whoseTimeItTakesUp')
          : t('house.whoHostsWhatHasNoOrganiser')
      }}
      <input
        class="field w-full max-w-sm"
        type="email"
        maxlength="254"
        :placeholder="t('house.nameExampleOrg')"
        required
        :value="form.person"
        @input="put({ person: ($event.target as HTMLInputElement).value.trim() })"
      />
    </label>
    <div class="flex flex-col gap-1">
      <label :for="zone">{{ t('house.theZoneOfTimesThatNameNone') }}</label>
      <ZoneField :id="zone" :value="form.zone" @change="(z) => put({ zone: z })" />
    </div>
    <label class="flex flex-col gap-1">
      {{ t('house.read') }}
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
