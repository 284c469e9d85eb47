<script setup lang="ts">
import { t } from '@/wording'
import { useQuery, useQueryCache } from '@pinia/colada'
import { ref } from 'vue'
import { api, take } from '@/api/client'
import { useSession } from '@/api/session'
import { useAct } from '@/shell/act'
import ProblemNote from '@/shell/ProblemNote.vue'

/** What is set back by itself when somebody loosens it in the service during a session. */
const session = useSession()
const cache = useQueryCache()
const { data } = useQuery({
  key: ['set-back'],
  query: () => take(api.GET('/api/floor/set-back')),
})
const { busy, problem, attempt } = useAct()
const said = ref('')
const choices = [
  { value: 'sealed', name: t('house.whatASealedRuleForbidsForOther') },
  { value: 'all', name: t('house.whatAnyRuleForbids') },
  { value: 'none', name: t('house.nothingSomebodyIsTold') },
] as const
/** How often it went wrong: drawn anew, the choices show what is in force and not what was tried. */
const failed = ref(0)
async function set(rules: string) {
  await attempt(async () => {
    said.value = ''
    cache.setQueryData(
      ['set-back'],
      await take(api.PUT('/api/floor/set-back', { body: { rules } })),
    )
    said.value = t('house.saved')
  })
  if (problem.value) failed.value++
}
</script>

<template>
  <section v-if="data" class="mt-8" aria-labelledby="set-back">
    <h2 id="set-back" class="head mb-1 text-base">{{ t('house.setBackInSessions') }}</h2>
    <fieldset :key="failed" :disabled="!session.isWarden || busy">
      <legend class="mb-1">
        {{ t('house.whenSomebodyLoosensASettingInThe') }}
      </legend>
      <label v-for="c in choices" :key="c.value" class="flex items-start gap-2 py-0.5">
        <input
          type="radio"
          name="set-back"
          class="mt-1"
          :value="c.value"
          :checked="data.rules === c.value"
          @change="set(c.value)"
        />
        {{ c.name }}
      </label>
    </fieldset>
    <p role="status" class="text-soft">{{ said }}</p>
    <ProblemNote v-if="problem" :problem="problem" />
  </section>
</template>
