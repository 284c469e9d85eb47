<script setup lang="ts">
import { t } from '@/wording'
import { useQuery, useQueryCache } from '@pinia/colada'
import { computed, ref } from 'vue'
import { api, take } from '@/api/client'
import type { SessionLine } from '@/api/schema'
import { useSession } from '@/api/session'
import { useAct } from '@/shell/act'
import ModalSheet from '@/shell/ModalSheet.vue'
import ProblemNote from '@/shell/ProblemNote.vue'
import { shortTime } from '@/shell/times'

/** Any number of sessions locked by one act, and undone as one. */
const props = defineProps<{ running: SessionLine[] }>()
const session = useSession()
const cache = useQueryCache()
const { data: standing } = useQuery({
  key: ['floor', 'lockdowns'],
  query: () => take(api.GET('/api/floor/lockdowns')),
  enabled: () => session.isWarden || session.isAuditor,
})
const last = computed(() => standing.value?.[0])
const choosing = ref(false)
const chosen = ref<string[]>([])
const { busy, problem, attempt } = useAct()
function open() {
  chosen.value = props.running.map((s) => s.id)
  problem.value = null
  choosing.value = true
}
const lockDown = () =>
  attempt(async () => {
    await take(api.POST('/api/floor/lockdowns', { body: { sessions: chosen.value } }))
    choosing.value = false
    await cache.invalidateQueries({ key: ['floor'] })
  })
const undo = () =>
  attempt(async () => {
    const id = last.value?.id
    if (!id) return
    await take(api.DELETE('/api/floor/lockdowns/{id}', { params: { path: { id } } }))
    await cache.invalidateQueries({ key: ['floor'] })
  })
const count = (n: number) => `${n} ${n === 1 ? t('floor.session') : t('floor.sessions2')}`
</script>

<template>
  <span class="flex items-center gap-3">
    <span v-if="last" role="status"
      >{{
        t('floor.sessionsLockedDownAt', { sessions: count(last.sessions), at: shortTime(last.at) })
      }}
      <button v-if="session.isWarden" class="link ml-1" :disabled="busy" @click="undo">
        {{ t('floor.undoIt') }}
      </button></span
    >
    <button v-if="session.isWarden && running.length" class="button" @click="open">
      {{ t('floor.lockDown') }}
    </button>
    <ModalSheet :open="choosing" :title="t('floor.lockDown2')" @close="choosing = false">
      <p>
        {{ t('floor.theDoorsAreLockedWaitingRoomsAre') }}
      </p>
      <fieldset class="mt-2 max-h-[40vh] overflow-auto">
        <legend class="hidden-label">{{ t('floor.sessions') }}</legend>
        <label v-for="s in running" :key="s.id" class="flex items-center gap-2 py-0.5">
          <input v-model="chosen" type="checkbox" :value="s.id" />
          <span class="truncate" dir="auto">{{ s.title }}</span>
          <span class="value ml-auto text-soft">{{
            t('floor.insideIn', { inside: s.inside })
          }}</span>
        </label>
      </fieldset>
      <ProblemNote class="mt-2" :problem="problem" />
      <button class="button button-main mt-3" :disabled="busy || !chosen.length" @click="lockDown">
        {{ t('floor.lockDownChosen', { chosen: count(chosen.length) }) }}
      </button>
    </ModalSheet>
    <ProblemNote v-if="!choosing" :problem="problem" />
  </span>
</template>
