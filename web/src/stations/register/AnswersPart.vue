<script setup lang="ts">
import { t } from '@/wording'
import { useQuery } from '@pinia/colada'
import { computed, ref } from 'vue'
import { api, take } from '@/api/client'
import type { Fed } from '@/api/schema'
import { useSession } from '@/api/session'
import { useAct } from '@/shell/act'
import ProblemNote from '@/shell/ProblemNote.vue'

/** Who was invited, and what they answered; answers that came by mail are fed in here. */
const props = defineProps<{ id: string }>()

const session = useSession()
const { data, refetch } = useQuery({
  key: () => ['meeting', props.id, 'answers'],
  query: () => take(api.GET('/api/meetings/{id}/answers', { params: { path: { id: props.id } } })),
})
const { problem, attempt } = useAct()
const fed = ref<Fed[]>([])
const counts = computed(() => {
  const whole = (data.value ?? []).filter((a) => !a.occurrence)
  const of = (state: string) => whole.filter((a) => a.state === state).length
  return t('register.ofAcceptedOf2DeclinedOf3PerhapsOf4', {
    of: of('accepted'),
    of2: of('declined'),
    of3: of('tentative'),
    of4: of('sent'),
  })
})
const words: Record<string, string> = {
  sent: t('register.notAnswered'),
  accepted: t('register.accepted'),
  declined: t('register.declined'),
  tentative: t('register.perhaps'),
  cancelled: t('register.toldItIsOff'),
}
async function feed(event: Event) {
  const file = (event.target as HTMLInputElement).files?.[0]
  if (!file) return
  await attempt(async () => {
    fed.value = await take(
      api.POST('/api/scheduling/answers', {
        body: file as never,
        bodySerializer: (body) => body as never,
        headers: { 'Content-Type': 'application/octet-stream' },
      }),
    )
    await refetch()
  })
}
</script>

<template>
  <h2 class="head mt-5 border-b border-line pb-1">{{ t('register.invitations') }}</h2>
  <p v-if="!data?.length" class="py-1 text-soft">{{ t('register.noneHasGoneOut') }}</p>
  <template v-else>
    <p class="py-1 text-soft">{{ counts }}</p>
    <ul class="max-h-40 overflow-auto">
      <li
        v-for="a in data"
        :key="a.email + a.occurrence"
        class="flex justify-between gap-2"
        :title="a.remark ?? ''"
      >
        <span class="truncate">{{ a.email }}</span>
        <span
          class="whitespace-nowrap"
          :class="
            a.state === 'accepted'
              ? 'text-kelp'
              : a.state === 'declined'
                ? 'text-rust'
                : 'text-soft'
          "
          >{{ words[a.state] ?? a.state }}{{ a.occurrence ? ` (${a.occurrence})` : '' }}</span
        >
      </li>
    </ul>
    <RouterLink
      v-if="session.isWarden || session.who?.role === 'auditor'"
      class="link"
      :to="{ path: '/outbox', query: { about: `meeting:${id}` } }"
      >{{ t('register.readTheMessages') }}</RouterLink
    >
  </template>
  <label
    v-if="session.isWarden"
    class="link ml-3 cursor-pointer has-[:focus-visible]:outline-2 has-[:focus-visible]:outline-sea"
  >
    {{ t('register.feedInAnAnswer') }}
    <input
      class="hidden-label"
      type="file"
      accept=".ics,.eml,text/calendar,message/rfc822"
      @click="($event.target as HTMLInputElement).value = ''"
      @change="feed"
    />
  </label>
  <ProblemNote class="mt-2" :problem="problem" />
  <p
    v-for="(f, i) in fed"
    :key="i"
    class="mt-1 border-l-4 pl-2"
    :class="f.outcome === 'taken' ? 'border-kelp' : 'border-rust'"
    role="status"
  >
    {{ f.words }}
  </p>
</template>
