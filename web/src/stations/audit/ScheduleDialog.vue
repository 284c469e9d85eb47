<script setup lang="ts">
import { t } from '@/wording'
import { useQueryCache } from '@pinia/colada'
import { nextTick, ref, useTemplateRef } from 'vue'
import { api, take } from '@/api/client'
import type { Schedule } from '@/api/schema'
import { useSession } from '@/api/session'
import { useAct } from '@/shell/act'
import ModalSheet from '@/shell/ModalSheet.vue'
import OutdatedNote from '@/shell/OutdatedNote.vue'
import ProblemNote from '@/shell/ProblemNote.vue'
import ZoneField from '@/shell/ZoneField.vue'
import { dayNames } from '@/stations/register/recurrence'
import { browserZone } from '@/stations/scheduling/zones'
import { usualPaper } from './paper'
import ScopeFields from './ScopeFields.vue'

/** An audit at set times, and who is sent its report. */
const props = defineProps<{ schedule: Schedule | null }>()
const emit = defineEmits<{ close: []; outdated: [id: number] }>()
const cache = useQueryCache()
const session = useSession()
const weekdays = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU']
const s = props.schedule
const name = ref(s?.name ?? t('audit.weeklyAudit'))
const days = ref<string[]>(s?.days ?? ['MO'])
const time = ref(s?.time ?? '06:30')
const zone = ref(s?.zone ?? browserZone)
const unit = ref(s?.scope.unit ?? '')
const kind = ref(s?.scope.kind ?? '')
const windowDays = ref(s?.windowDays ?? 90)
const recipients = ref((s?.recipients ?? [session.who?.email ?? '']).join(', '))
const active = ref(s?.active ?? true)
const paper = ref(s?.paper ?? usualPaper())
const { busy, problem, attempt } = useAct()
const act = (what: () => Promise<unknown>) =>
  attempt(async () => {
    await what()
    await cache.invalidateQueries({ key: ['audits'] })
    emit('close')
  })
function save() {
  const body = {
    name: name.value,
    days: weekdays.filter((d) => days.value.includes(d)),
    time: time.value,
    zone: zone.value,
    scope: { unit: unit.value || null, kind: kind.value || null, host: null },
    windowDays: windowDays.value,
    recipients: recipients.value.split(/[\s,;]+/).filter(Boolean),
    active: active.value,
    paper: paper.value,
    version: s?.version,
  }
  return act(() =>
    take(
      s
        ? api.PUT('/api/audit-history/schedules/{id}', { params: { path: { id: s.id } }, body })
        : api.POST('/api/audit-history/schedules', { body }),
    ),
  )
}
const isRemoving = ref(false)
const keepButton = useTemplateRef<HTMLButtonElement>('keepButton')
async function askToRemove() {
  isRemoving.value = true
  await nextTick()
  keepButton.value?.focus()
}
const remove = () =>
  act(() =>
    take(api.DELETE('/api/audit-history/schedules/{id}', { params: { path: { id: s?.id ?? 0 } } })),
  )
</script>

<template>
  <ModalSheet
    :open="true"
    :title="schedule ? t('audit.changeASchedule') : t('audit.addASchedule')"
    @close="emit('close')"
  >
    <form @submit.prevent="save">
      <label class="block"
        >{{ t('audit.name') }} <input v-model="name" class="field ml-1" required
      /></label>
      <fieldset class="mt-2 flex flex-wrap gap-3">
        <legend class="hidden-label">{{ t('audit.days2') }}</legend>
        <label v-for="d in weekdays" :key="d" class="flex items-center gap-1"
          ><input v-model="days" type="checkbox" :value="d" /> {{ dayNames[d] }}</label
        >
      </fieldset>
      <p class="mt-2 flex items-center gap-2">
        <label
          >{{ t('audit.at') }} <input v-model="time" class="field ml-1" type="time" required
        /></label>
        <label for="schedule-zone">{{ t('audit.in') }}</label>
        <ZoneField id="schedule-zone" :value="zone" @change="(picked) => (zone = picked)" />
      </p>
      <ScopeFields v-model:unit="unit" v-model:kind="kind" v-model:days="windowDays" />
      <label class="mt-2 block"
        >{{ t('audit.reportTo') }}
        <input
          v-model="recipients"
          class="field mt-1 w-full"
          :placeholder="t('audit.mailAddresses')"
      /></label>
      <label class="mt-2 block"
        >{{ t('audit.paper') }}
        <select v-model="paper" class="field ml-1">
          <option value="a4">A4</option>
          <option value="letter">{{ t('audit.letter') }}</option>
        </select>
      </label>
      <label class="mt-2 flex items-center gap-1.5"
        ><input v-model="active" type="checkbox" /> {{ t('audit.runsByItself') }}</label
      >
      <ProblemNote class="mt-2" :problem="problem" />
      <OutdatedNote class="mt-1" :problem="problem" @look="emit('outdated', s?.id ?? 0)" />
      <p v-if="isRemoving" class="mt-3 flex flex-wrap items-center gap-2">
        {{ t('audit.noAuditBeginsByItThen') }}
        <button type="button" class="button button-main" :disabled="busy" @click="remove">
          {{ t('audit.removeIt') }}
        </button>
        <button ref="keepButton" type="button" class="button" @click="isRemoving = false">
          {{ t('audit.keepIt') }}
        </button>
      </p>
      <p v-else class="mt-3 flex gap-2">
        <button class="button button-main" :disabled="busy">{{ t('audit.save') }}</button>
        <button v-if="schedule" type="button" class="button" :disabled="busy" @click="askToRemove">
          {{ t('audit.removeTheSchedule') }}
        </button>
      </p>
    </form>
  </ModalSheet>
</template>
