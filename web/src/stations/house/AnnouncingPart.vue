<script setup lang="ts">
import { t } from '@/wording'
import { useQuery } from '@pinia/colada'
import { ref } from 'vue'
import { api, take } from '@/api/client'
import { useSession } from '@/api/session'
import { useSetting } from '@/shell/act'
import { useKeep } from '@/shell/keep'
import ProblemNote from '@/shell/ProblemNote.vue'
import { vShows } from '@/shell/shows'

/** From how many people on a sound at each coming and going disturbs. */
const session = useSession()
const keep = useKeep()
const { data } = useQuery({
  key: ['announcing'],
  query: () => take(api.GET('/api/scheduling/announcing')),
})
const said = ref('')
const { shown, problem, set } = useSetting(
  () => data.value?.people,
  async (people = 0) => {
    keep(['announcing'], await take(api.PUT('/api/scheduling/announcing', { body: { people } })))
  },
)
async function choose(people: number) {
  said.value = ''
  if (await set(people)) said.value = t('house.saved')
}
</script>

<template>
  <section v-if="data" class="mt-8" aria-labelledby="announcing">
    <h2 id="announcing" class="head mb-1 text-base">{{ t('house.announcingArrivals') }}</h2>
    <label class="flex flex-wrap items-center gap-2">
      {{ t('house.whileSchedulingItIsSaidThatAnnouncing') }}
      <input
        v-shows="shown"
        class="field value w-20"
        type="number"
        min="2"
        max="1000"
        :aria-label="t('house.peopleFromWhomOnAnnouncingDisturbs')"
        :disabled="!session.isWarden"
        @change="choose(Number(($event.target as HTMLInputElement).value))"
      />
      {{ t('house.peopleOn') }}
    </label>
    <p role="status" class="text-soft">{{ said }}</p>
    <ProblemNote v-if="problem" :problem="problem" />
  </section>
</template>
