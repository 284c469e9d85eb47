<script setup lang="ts">
import { useQuery, useQueryCache } from '@pinia/colada'
import { ref } from 'vue'
import { api, take } from '@/api/client'
import { useSession } from '@/api/session'
import { useAct } from '@/shell/act'
import ProblemNote from '@/shell/ProblemNote.vue'

/** From how many people on a sound at each coming and going disturbs. */
const session = useSession()
const cache = useQueryCache()
const { data } = useQuery({
  key: ['announcing'],
  query: () => take(api.GET('/api/scheduling/announcing')),
})
const { busy, problem, attempt } = useAct()
const said = ref('')
const set = (people: number) =>
  attempt(async () => {
    said.value = ''
    const now = await take(api.PUT('/api/scheduling/announcing', { body: { people } }))
    cache.setQueryData(['announcing'], now)
    said.value = 'Saved.'
  })
</script>

<template>
  <section v-if="data" class="mt-8" aria-labelledby="announcing">
    <h2 id="announcing" class="head mb-1 text-base">Announcing arrivals</h2>
    <label class="flex flex-wrap items-center gap-2">
      While scheduling it is said that announcing each coming and going disturbs, from
      <input
        class="field value w-20"
        type="number"
        min="2"
        max="1000"
        aria-label="People from whom on announcing disturbs"
        :value="data.people"
        :disabled="!session.isWarden || busy"
        @change="set(Number(($event.target as HTMLInputElement).value))"
      />
      people on.
    </label>
    <p role="status" class="text-soft">{{ said }}</p>
    <ProblemNote v-if="problem" :problem="problem" />
  </section>
</template>
