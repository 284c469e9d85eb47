<script setup lang="ts">
import { t } from '@/wording'
import { useQuery } from '@pinia/colada'
import { computed } from 'vue'
import { api, take } from '@/api/client'
import { day, shortTime } from '@/shell/times'
import AnswerItem from './AnswerItem.vue'

/** What a unit's warden is asked as the host that they are as well; nothing where that is nothing. */
const { data } = useQuery({
  key: ['requests', 'mine'],
  query: () => take(api.GET('/api/host-requests/mine')),
})
const open = computed(() =>
  (data.value ?? []).filter((request) => request.items.some((item) => item.state === 'open')),
)
</script>

<template>
  <div v-if="open.length" class="mb-4">
    <h2 class="head border-b border-ink pb-1">{{ t('lookout.askedOfYouAsAHost') }}</h2>
    <template v-for="r in open" :key="r.id">
      <p class="mt-2 text-soft">
        {{
          t('lookout.askedByAskedAskedAtFromApplyAfterIt', {
            askedBy: r.askedBy,
            askedAt: day(r.askedAt),
            applyAfter: shortTime(r.applyAfter),
          })
        }}<template v-if="r.note"> “{{ r.note }}”</template>
      </p>
      <AnswerItem v-for="i in r.items" :key="i.id" :item="i" />
    </template>
  </div>
</template>
