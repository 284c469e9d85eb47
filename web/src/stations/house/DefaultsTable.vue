<script setup lang="ts">
import { t } from '@/wording'
import { useQuery } from '@pinia/colada'
import { computed } from 'vue'
import { label, useCatalogue } from '@/api/catalogue'
import { api, take } from '@/api/client'
import { useSession } from '@/api/session'
import { useAct } from '@/shell/act'
import ProblemNote from '@/shell/ProblemNote.vue'
import { fullTime } from '@/shell/times'
import { carriedWords, defaultsWords } from './conference'

/** A service's own defaults and locks, beside what the edition in force says to everybody. */
const props = defineProps<{ id: number; name: string; level: string }>()
const session = useSession()
const { controls } = useCatalogue()
const { busy, problem, attempt } = useAct()
const path = computed(() => ({ params: { path: { id: props.id } } }))
const { data, refetch } = useQuery({
  key: () => ['services', props.id, 'defaults'],
  query: () => take(api.GET('/api/services/{id}/defaults', path.value)),
})
const looser = computed(() => data.value?.lines.filter((l) => l.looser) ?? [])
const words = computed(() => (data.value ? defaultsWords(data.value, props.name) : ''))
const setBack = () =>
  attempt(async () => {
    await take(api.POST('/api/services/{id}/defaults', path.value))
    await refetch()
  })
</script>

<template>
  <template v-if="data">
    <p role="status" :class="looser.length && level === 'write' ? 'text-rust' : ''">
      {{ words }}
      <template v-if="looser.length && data.changedBy">
        {{
          t('house.changedThereLastByChangedByX', {
            changedBy: data.changedBy,
            x: data.changedAt
              ? t('house.onChangedAt', { changedAt: fullTime(data.changedAt) })
              : '',
          })
        }}
      </template>
    </p>
    <button
      v-if="session.isWarden && level === 'write' && looser.length && data.state !== 'waiting'"
      type="button"
      class="button button-main mt-2"
      :disabled="busy"
      @click="setBack"
    >
      {{ t('house.setThemBack') }}
    </button>
    <ProblemNote class="mt-2" :problem="problem" />
    <table class="grid-lines stack mt-2">
      <thead>
        <tr>
          <th scope="col">{{ t('house.control') }}</th>
          <th scope="col">{{ t('house.defaultHere') }}</th>
          <th scope="col">{{ t('house.defaultThere') }}</th>
          <th scope="col">{{ t('house.limitHere') }}</th>
          <th scope="col">{{ t('house.lockThere') }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="l in data.lines" :key="l.control">
          <td>{{ controls.get(l.control)?.title }}</td>
          <td>
            {{ label(controls.get(l.control), l.start) }}
            <span class="text-soft">{{ carriedWords(l.carried) }}</span>
          </td>
          <td :class="l.looser ? 'text-rust' : ''">
            {{ l.held === null ? '—' : label(controls.get(l.control), l.held) }}
          </td>
          <td>
            <template v-if="l.limit !== null">
              {{ label(controls.get(l.control), l.limit) }}
              <span class="text-soft">{{ carriedWords(l.limitCarried ?? '') }}</span>
            </template>
          </td>
          <td :class="l.looser ? 'text-rust' : ''">
            {{ l.lock === null ? '—' : label(controls.get(l.control), l.lock) }}
          </td>
        </tr>
      </tbody>
    </table>
  </template>
</template>
