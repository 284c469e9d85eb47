<script setup lang="ts">
import { t } from '@/wording'
import { computed } from 'vue'
import { useCatalogue } from '@/api/catalogue'
import type { Comer } from '@/api/schema'
import { roomOf, sees } from './door'

/** What the host sees, and what somebody at the door sees, side by side. */
const props = defineProps<{ comers: Comer[]; host: string; left: string; right: string }>()
const emit = defineEmits<{ pick: [side: 'left' | 'right', key: string] }>()

const { catalogue } = useCatalogue()
const rightWords = (id: string) => catalogue.value?.rights.find((r) => r.id === id)?.phrase ?? id
const sides = computed(() =>
  (['left', 'right'] as const).map((side) => {
    const key = side === 'left' ? props.left : props.right
    const comer = props.comers.find((c) => c.key === key)
    return { side, key, comer, isHost: key === props.host }
  }),
)
const room = computed(() => roomOf(props.comers.filter((c) => c.key !== props.host)))
</script>

<template>
  <div class="grid grid-cols-2 divide-x divide-line border border-line bg-sheet">
    <section
      v-for="s in sides"
      :key="s.side"
      class="min-w-0 p-3"
      :aria-label="t('door.sideSide', { side: s.side })"
    >
      <select
        class="field w-full"
        :aria-label="s.side === 'left' ? t('door.firstSide') : t('door.secondSide')"
        :value="s.key"
        @change="emit('pick', s.side, ($event.target as HTMLSelectElement).value)"
      >
        <option v-for="c in comers" :key="c.key" :value="c.key">
          {{ c.key === host ? t('door.theHostSees') : `${c.phrase}` }}
        </option>
      </select>
      <template v-if="s.comer">
        <p class="mt-2 leading-snug">
          <strong>{{ s.isHost ? t('door.youAreInAsHost') : sees(s.comer.then) }}</strong>
        </p>
        <template v-if="s.isHost">
          <p class="mt-1.5 text-soft">
            {{ room.waiting.length ? t('door.atYourDoorWaitsWho') : t('door.nobodyOfTheseWaits') }}
          </p>
          <ul class="leading-snug">
            <li v-for="c in room.waiting" :key="c.key" class="truncate" :title="c.phrase">
              – {{ c.phrase }}
            </li>
          </ul>
          <p v-if="room.strangers.length" class="mt-1.5 text-rust">
            {{ t('door.insideUninvitedIsWho') }}
          </p>
          <ul class="leading-snug">
            <li v-for="c in room.strangers" :key="c.key" class="truncate" :title="c.phrase">
              – {{ c.phrase }}
            </li>
          </ul>
        </template>
        <template v-else-if="s.comer.then.rights.length">
          <p class="mt-1.5 text-soft">
            {{ s.comer.then.outcome === 'in' ? t('door.youMay') : t('door.onceLetInYouMay') }}
          </p>
          <p class="leading-snug">
            {{ s.comer.then.rights.map(rightWords).join(', ') }}
          </p>
        </template>
      </template>
    </section>
  </div>
</template>
