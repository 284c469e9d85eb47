<script setup lang="ts">
import { useQuery } from '@pinia/colada'
import { computed } from 'vue'
import { api, take } from '@/api/client'
import { inSessionWords } from './floor'

/** Before meetings are changed: which of them are in session, and whether the session follows. */
const props = defineProps<{ meetings: string[] }>()
const { data } = useQuery({
  key: () => ['floor', 'in-session', props.meetings.join(',')],
  query: () =>
    take(api.POST('/api/floor/in-session', { body: { meetings: props.meetings.slice(0, 5000) } })),
  enabled: () => props.meetings.length > 0,
})
const words = computed(() => inSessionWords(data.value ?? [], props.meetings.length))
</script>

<template>
  <p v-if="words" class="border-l-4 border-sand pl-2" role="status">{{ words }}</p>
</template>
