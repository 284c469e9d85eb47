<script setup lang="ts">
import { t } from '@/wording'
import { useQuery } from '@pinia/colada'
import { computed } from 'vue'
import { useRouter } from 'vue-router'
import { api, take } from '@/api/client'
import { useAct } from '@/shell/act'
import CopyButton from '@/shell/CopyButton.vue'
import ProblemNote from '@/shell/ProblemNote.vue'
import { mayStart } from './join'

/** Where one joins a meeting, to be copied, and starting it now. */
const props = defineProps<{
  id: string
  /** When the next date begins; null where there is none. */
  next: string | null
  /** Changes where the service has given another link. */
  link?: string | null
}>()
const router = useRouter()
const { data, error } = useQuery({
  key: () => ['meeting', props.id, 'join', props.link ?? ''],
  query: () => take(api.GET('/api/meetings/{id}/join', { params: { path: { id: props.id } } })),
})
const { busy, problem, attempt } = useAct()
const start = () =>
  attempt(async () => {
    const opened = await take(
      api.POST('/api/floor/meetings/{id}/start', { params: { path: { id: props.id } } }),
    )
    await router.push(`/floor/${opened.id}`)
  })
const startable = computed(() => mayStart(props.next, Date.now()))
</script>

<template>
  <section class="mt-4" :aria-label="t('register.joining')">
    <h2 class="head border-b border-line pb-1">{{ t('register.joining') }}</h2>
    <p v-if="error" class="mt-1 text-rust" role="alert">{{ error.message }}</p>
    <template v-else-if="data">
      <p v-if="data.link" class="mt-1 break-all">
        <a class="link" :href="data.link" rel="noreferrer">{{ data.link }}</a>
      </p>
      <p v-else-if="data.instead" class="mt-1 text-soft">
        {{ t('register.noLinkInstead', { instead: data.instead }) }}
      </p>
      <p v-for="number in data.dialIn" :key="number" class="value">{{ number }}</p>
      <p class="mt-1.5 flex flex-wrap items-center gap-x-3 gap-y-1">
        <CopyButton v-if="data.link" class="link" :text="data.link">
          {{ t('register.copyTheLink') }}
        </CopyButton>
        <CopyButton class="link" :text="data.text">{{ t('register.copyAsText') }}</CopyButton>
        <button v-if="startable" type="button" class="button" :disabled="busy" @click="start">
          {{ busy ? t('register.starting') : t('register.startNow') }}
        </button>
      </p>
      <ProblemNote class="mt-1" :problem="problem" />
    </template>
  </section>
</template>
