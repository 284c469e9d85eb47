<script setup lang="ts">
import { t } from '@/wording'
import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/vue'
import { useQuery } from '@pinia/colada'
import { computed } from 'vue'
import { api, take } from '@/api/client'
import ProblemNote from '@/shell/ProblemNote.vue'
import { usualPaper } from './paper'

/** An audit to take away, in every format that there is. */
defineProps<{ audit: number }>()
const { data, error, refetch } = useQuery({
  key: ['report-formats'],
  query: () => take(api.GET('/api/report-formats')),
  staleTime: Infinity,
})
const choices = computed(() =>
  (data.value ?? []).flatMap((format) => {
    const one = { as: format.id, name: format.title, ending: format.ending.toUpperCase() }
    // the paper of one's own country first
    return format.papers.length
      ? [...format.papers]
          .sort((a, b) => Number(b === usualPaper()) - Number(a === usualPaper()))
          .map((paper) => ({
            ...one,
            as: `${format.id}&paper=${paper}`,
            name: t('audit.titleOnPaper', {
              title: format.title,
              paper: paper === 'a4' ? 'A4' : 'Letter',
            }),
          }))
      : [one]
  }),
)
</script>

<template>
  <Menu as="div" class="relative">
    <MenuButton class="button">{{ t('audit.report') }}</MenuButton>
    <MenuItems class="absolute right-0 z-30 mt-1 w-72 border border-ink bg-sheet py-1 outline-none">
      <MenuItem v-for="c in choices" :key="c.as" v-slot="{ active }">
        <a
          class="flex justify-between px-3 py-1.5"
          :class="active ? 'bg-sea-wash' : ''"
          :href="`/api/audits/${audit}/report?as=${c.as}`"
          download
        >
          {{ c.name }} <span class="value text-soft">{{ c.ending }}</span>
        </a>
      </MenuItem>
      <MenuItem v-if="error && !data" v-slot="{ active }">
        <button
          type="button"
          class="block w-full px-3 py-1.5 text-left"
          :class="active ? 'bg-sea-wash' : ''"
          @click="refetch()"
        >
          <ProblemNote :problem="error" />
        </button>
      </MenuItem>
    </MenuItems>
  </Menu>
</template>
