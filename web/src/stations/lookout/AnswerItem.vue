<script setup lang="ts">
import { t } from '@/wording'
import { useQueryCache } from '@pinia/colada'
import { computed, ref } from 'vue'
import { optionsOf, useCatalogue, type Plain } from '@/api/catalogue'
import { api, take } from '@/api/client'
import type { AskedItem } from '@/api/schema'
import TallyMark from '@/marks/TallyMark.vue'
import { useAct } from '@/shell/act'
import ProblemNote from '@/shell/ProblemNote.vue'

/** One thing a host is asked: they agree with one press, propose another change, or say why. */
const props = defineProps<{ item: AskedItem }>()
const cache = useQueryCache()
const { controls } = useCatalogue()
const saying = ref<'' | 'propose' | 'reason'>('')
const reason = ref('')
const control = ref(Object.keys(props.item.plan.changes)[0] ?? '')
const value = ref('')
const { busy, problem, attempt } = useAct()
const choices = computed(() => {
  const of = controls.value.get(control.value)
  return of ? optionsOf(of, []) : []
})
async function answer(what: 'agree' | 'propose' | 'reason') {
  const chosen = choices.value.find((o) => String(o.value) === value.value)?.value as
    Plain | undefined
  await attempt(async () => {
    await take(
      api.POST('/api/host-requests/items/{id}/answer', {
        params: { path: { id: props.item.id } },
        body: {
          answer: what,
          reason: reason.value,
          ...(what === 'propose' && chosen !== undefined
            ? { controls: { [control.value]: chosen } }
            : {}),
        },
      }),
    )
    saying.value = ''
    await cache.invalidateQueries({ key: ['lookout'] })
    await cache.invalidateQueries({ key: ['requests'] })
  })
}
const answered: Record<string, string> = {
  proposed: t('lookout.youProposedSomethingElseItWaitsFor'),
  reasoned: t('lookout.youSaidWhyItWaitsForAn'),
  agreed: t('lookout.youAgreedItIsBeingChanged'),
}
</script>

<template>
  <article class="border-b border-hair py-2" :aria-label="item.title">
    <p class="flex items-center gap-2">
      <TallyMark :severity="item.severity" /><strong>{{ item.title }}</strong>
    </p>
    <p class="pl-[30px]">{{ item.sentence }}</p>
    <ul class="pl-[30px] text-soft">
      <li v-for="w in item.words" :key="w">{{ w }}</li>
      <li v-if="!item.words.length">{{ t('lookout.noSettingMendsThisPleaseSeeTo') }}</li>
    </ul>
    <p v-if="item.state !== 'open'" class="pl-[30px] text-kelp" role="status">
      {{ answered[item.state] }}
    </p>
    <div v-else class="mt-1.5 flex flex-wrap gap-2 pl-[30px]">
      <button class="button button-main" :disabled="busy" @click="answer('agree')">
        {{ item.words.length ? t('lookout.agreeChangeIt') : t('lookout.iSeeToIt') }}
      </button>
      <button
        class="button"
        :disabled="busy"
        @click="saying = saying === 'propose' ? '' : 'propose'"
      >
        {{ t('lookout.somethingElse') }}
      </button>
      <button class="button" :disabled="busy" @click="saying = saying === 'reason' ? '' : 'reason'">
        {{ t('lookout.itHasToBeSo') }}
      </button>
    </div>
    <form
      v-if="saying"
      class="mt-2 flex flex-wrap items-center gap-2 pl-[30px]"
      @submit.prevent="answer(saying as 'propose' | 'reason')"
    >
      <template v-if="saying === 'propose'">
        <select v-model="control" class="field" :aria-label="t('lookout.control')">
          <option v-for="[id, c] in controls" :key="id" :value="id">{{ c.title }}</option>
        </select>
        <select v-model="value" class="field" :aria-label="t('lookout.becomes')" required>
          <option v-for="o in choices" :key="String(o.value)" :value="String(o.value)">
            {{ o.label }}
          </option>
        </select>
      </template>
      <input
        v-model="reason"
        class="field min-w-64 flex-1"
        :placeholder="saying === 'reason' ? t('lookout.whyItHasToBeSo') : t('lookout.aWordWithIt')"
        :aria-label="saying === 'reason' ? t('lookout.whyItHasToBeSo') : t('lookout.aWordWithIt')"
        :required="saying === 'reason'"
        maxlength="2000"
      />
      <button class="button" :disabled="busy">{{ t('lookout.send') }}</button>
    </form>
    <ProblemNote class="mt-1" :problem="problem" />
  </article>
</template>
