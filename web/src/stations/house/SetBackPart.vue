<script setup lang="ts">
import { t } from '@/wording'
import { useQuery } from '@pinia/colada'
import { ref } from 'vue'
import { api, take } from '@/api/client'
import { useSession } from '@/api/session'
import { useSetting } from '@/shell/act'
import { useKeep } from '@/shell/keep'
import ProblemNote from '@/shell/ProblemNote.vue'

/** What is set back by itself when somebody loosens it in the service during a session. */
const session = useSession()
const keep = useKeep()
const { data } = useQuery({
  key: ['set-back'],
  query: () => take(api.GET('/api/floor/set-back')),
})
const said = ref('')
const { shown, problem, set } = useSetting(
  () => data.value?.rules,
  async (rules = '') => {
    keep(['set-back'], await take(api.PUT('/api/floor/set-back', { body: { rules } })))
  },
)
const choices = [
  { value: 'sealed', name: t('house.whatASealedRuleForbidsForOther') },
  { value: 'all', name: t('house.whatAnyRuleForbids') },
  { value: 'none', name: t('house.nothingSomebodyIsTold') },
] as const
async function choose(rules: string) {
  said.value = ''
  if (await set(rules)) said.value = t('house.saved')
}
</script>

<template>
  <section v-if="data" class="mt-8" aria-labelledby="set-back">
    <h2 id="set-back" class="head mb-1 text-base">{{ t('house.setBackInSessions') }}</h2>
    <fieldset :disabled="!session.isWarden">
      <legend class="mb-1">
        {{ t('house.whenSomebodyLoosensASettingInThe') }}
      </legend>
      <label v-for="c in choices" :key="c.value" class="flex items-start gap-2 py-0.5">
        <input
          type="radio"
          name="set-back"
          class="mt-1"
          :value="c.value"
          :checked="shown === c.value"
          @change="choose(c.value)"
        />
        {{ c.name }}
      </label>
    </fieldset>
    <p role="status" class="text-soft">{{ said }}</p>
    <ProblemNote v-if="problem" :problem="problem" />
  </section>
</template>
