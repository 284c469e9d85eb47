<script setup lang="ts">
import { term } from '@/shell/terms'
import { t } from '@/wording'
import { useQuery } from '@pinia/colada'
import { computed } from 'vue'
import { api, take } from '@/api/client'
import type { Roll } from '@/api/schema'

/** Who was asked and was not there, beside what they had answered. */
const props = defineProps<{ roll: Roll; meeting: string; occurrence?: string }>()
const { data } = useQuery({
  key: () => ['meeting', props.meeting, 'answers'],
  query: () =>
    take(api.GET('/api/meetings/{id}/answers', { params: { path: { id: props.meeting } } })),
})
/** An answer for this date goes before one for all of them. */
const answers = computed(() => {
  const said = new Map<string, string>()
  for (const a of data.value ?? []) {
    const address = a.email.toLowerCase()
    if (a.occurrence === props.occurrence || (!a.occurrence && !said.has(address)))
      said.set(address, a.state)
  }
  return said
})
const words: Record<string, string> = {
  accepted: t('floor.hadAccepted'),
  declined: t('floor.hadDeclined'),
  tentative: t('floor.hadSaidPerhaps'),
  sent: t('floor.hadNotAnswered'),
}
const ties: Record<string, string> = {
  host: t('floor.host2'),
  'co-host': term('co-host'),
  named: t('floor.invited'),
}
</script>

<template>
  <section :aria-label="t('floor.notThere')" class="px-5 py-3">
    <h2 class="head">
      {{ t('floor.notThere') }} <span class="value text-soft">{{ roll.absent.length }}</span>
    </h2>
    <p v-if="!roll.absent.length" class="text-soft">
      {{ t('floor.everybodyInvitedByNameWasThere') }}
    </p>
    <ul v-else class="mt-1">
      <li
        v-for="a in roll.absent"
        :key="a.address"
        class="flex items-baseline gap-3 border-b border-hair py-0.5"
        :title="a.address"
      >
        <span class="min-w-0 flex-1 truncate" dir="auto">{{ a.name }}</span>
        <span class="w-20 text-soft">{{ ties[a.tie] ?? a.tie }}</span>
        <span class="w-36 text-soft">{{ words[answers.get(a.address) ?? ''] ?? '' }}</span>
      </li>
    </ul>
    <p v-for="l in roll.lists" :key="l.id" class="mt-1">
      {{ l.name }}: <strong>{{ l.came }}</strong>
      {{ t('floor.ofMembersCame', { members: l.members }) }}
    </p>
  </section>
</template>
