<script setup lang="ts">
import { t } from '@/wording'
import { term } from '@/shell/terms'
import type { PersonLine } from '@/api/schema'
import { came, howLong, outWords, stopWords, wayWords } from './floor'

/** One of the three columns: at the door, inside, out. */
defineProps<{
  title: string
  place: 'door' | 'inside' | 'out'
  people: PersonLine[]
  total: number
  now: number
  /** Who the keys are at, or nothing. */
  at: string
  chosen: string[]
  mayChoose: boolean
  /** Who is under way to somewhere else. */
  moving: string[]
}>()
defineEmits<{ at: [who: string]; choose: [who: string]; more: [] }>()
</script>

<template>
  <section class="flex min-h-0 flex-col border-r border-line last:border-0" :aria-label="title">
    <div
      class="flex min-h-11 shrink-0 flex-wrap items-center gap-2 border-b border-line px-4 phone:px-3"
    >
      <h2 class="head">{{ title }}</h2>
      <span class="value text-soft">{{ total }}</span>
      <span class="ml-auto flex flex-wrap items-center gap-2"><slot /></span>
    </div>
    <p v-if="!people.length" class="px-4 py-3 text-soft">{{ t('floor.nobody') }}</p>
    <ul class="min-h-0 flex-1 overflow-auto">
      <li
        v-for="p in people"
        :id="`who-${p.who}`"
        :key="p.who"
        class="flex items-start gap-2 border-b border-hair px-4 py-1.5"
        :class="[p.who === at ? 'bg-sea-wash' : '', moving.includes(p.who) ? 'opacity-60' : '']"
        @click="$emit('at', p.who)"
      >
        <input
          v-if="mayChoose"
          type="checkbox"
          class="mt-1"
          :checked="chosen.includes(p.who)"
          :aria-label="t('floor.chooseName', { name: p.name })"
          @click.stop="$emit('choose', p.who)"
        />
        <div class="min-w-0 flex-1">
          <p class="flex items-baseline gap-2">
            <button
              class="head truncate text-left phone:py-1.5"
              :title="p.address ?? p.name"
              @click.stop="$emit('at', p.who)"
            >
              {{ p.name }}
            </button>
            <span v-if="p.role" class="value shrink-0">{{ term(p.role) }}</span>
            <span v-if="p.pending" class="shrink-0 text-rust">{{ t('floor.alert') }}</span>
            <span class="value ml-auto shrink-0 text-soft">{{ howLong(p.since, now) }}</span>
          </p>
          <p class="truncate text-[12.5px]" :class="p.expected ? 'text-soft' : 'text-rust'">
            {{ came(p) }}
            <template v-if="place === 'door' && p.step"> · {{ stopWords(p.step) }}</template>
            <template v-if="place === 'inside'">
              <template v-if="p.sharing">
                · <strong>{{ t('floor.shares') }}</strong></template
              >
              <template v-if="p.recording">
                · <strong>{{ t('floor.records') }}</strong></template
              >
              <template v-if="p.silenced"> {{ t('floor.silenced') }}</template>
              <template v-if="p.way"> · {{ wayWords(p.way, p.letInBy) }}</template>
            </template>
            <template v-if="place === 'out'"> · {{ outWords(p) }}</template>
            <template v-if="p.removals && place !== 'out'">
              {{
                t('floor.removedX', {
                  x:
                    p.removals === 1
                      ? t('floor.once')
                      : t('floor.removalsTimes', { removals: p.removals }),
                })
              }}</template
            >
          </p>
        </div>
      </li>
      <li v-if="people.length < total" class="px-4 py-2">
        <button class="link" @click="$emit('more')">
          {{ t('floor.showMoreOfTotalOthers', { total: total - people.length }) }}
        </button>
      </li>
    </ul>
  </section>
</template>
