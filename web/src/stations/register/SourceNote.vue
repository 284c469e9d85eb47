<script setup lang="ts">
import { t } from '@/wording'
import { useQuery } from '@pinia/colada'
import { api, take } from '@/api/client'
import { fullTime, shortTime } from '@/shell/times'

/** Which calendar a meeting came from: its time and people are changed there. */
const props = defineProps<{ id: string }>()
const { data } = useQuery({
  key: () => ['meeting-calendar', props.id],
  query: () => take(api.GET('/api/meetings/{id}/calendar', { params: { path: { id: props.id } } })),
})
</script>

<template>
  <p v-if="data?.name" class="mt-4 text-soft">
    {{ t('register.fromTheCalendarName', { name: data.name })
    }}<template v-if="data.readAt"
      >,
      <span :title="fullTime(data.readAt)">{{
        t('register.readReadAt', { readAt: shortTime(data.readAt) })
      }}</span></template
    >{{ t('register.aChangeOfItsTimeOrPeople') }}
  </p>
</template>
