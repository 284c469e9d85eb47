<script setup lang="ts">
import { t } from '@/wording'
import { who } from '@/shell/who'
import { computed } from 'vue'
import { useCatalogue, useOrganisation } from '@/api/catalogue'
import type { LedgerEntry } from '@/api/schema'
import { fullTime } from '@/shell/times'
import type { Meaning } from './fields'
import { actWords, askedIn, changedBy, objectWords, titleWords } from './ledger'

/** One entry, with what was asked and what changed before and after. */
const props = defineProps<{ entry: LedgerEntry }>()
const emit = defineEmits<{ close: []; history: [object: string, id: string] }>()

const most = 40
const { controls, checkTitle } = useCatalogue()
const { unitName, kindName } = useOrganisation()
const meaning: Meaning = {
  control: (id) => controls.value.get(id),
  check: checkTitle,
  unit: unitName,
  kind: kindName,
}
const changed = computed(() => changedBy(props.entry, meaning))
const asked = computed(() => askedIn(props.entry, meaning))
const sort = computed(() => objectWords(props.entry.object))
const title = computed(() => titleWords(props.entry))
const via: Record<string, string> = {
  session: t('ledger.signedInHere'),
  token: t('ledger.byAnAccessToken'),
  background: t('ledger.byTheApplicationItself'),
}
</script>

<template>
  <aside
    class="min-h-0 overflow-auto border-l border-line bg-sheet px-4 py-3"
    :aria-label="t('ledger.entry')"
  >
    <div class="flex items-baseline justify-between gap-2">
      <h2 class="head">
        {{ t('ledger.entrySeqAct', { seq: entry.seq, act: actWords(entry.act) }) }}
      </h2>
      <button class="link" @click="emit('close')">{{ t('ledger.close') }}</button>
    </div>
    <dl class="mt-2 grid grid-cols-[5.5rem_minmax(0,1fr)] gap-x-2 gap-y-0.5">
      <dt class="text-soft">{{ t('ledger.who') }}</dt>
      <dd class="truncate" :title="who(entry.who)">{{ who(entry.who) }}</dd>
      <dt class="text-soft">{{ t('ledger.when') }}</dt>
      <dd>{{ fullTime(entry.at) }}</dd>
      <dt class="text-soft">{{ t('ledger.how') }}</dt>
      <dd>
        {{ via[entry.via] ?? entry.via
        }}<template v-if="entry.address">{{
          t('ledger.fromAddress', { address: entry.address })
        }}</template>
      </dd>
      <dt class="text-soft">{{ t('ledger.what') }}</dt>
      <dd>
        <span v-if="!title.startsWith(sort)" class="mr-1">{{ sort }}</span>
        <strong class="font-semibold" :title="entry.objectId">{{ title }}</strong>
      </dd>
    </dl>
    <section v-for="thing in changed.slice(0, most)" :key="thing.object + thing.id" class="mt-4">
      <div class="flex items-baseline justify-between gap-2 border-b border-line pb-1">
        <h3 class="head truncate" :title="thing.title">
          {{ titleWords({ object: thing.object, objectId: thing.id, title: thing.title }) }}
        </h3>
        <button class="link shrink-0" @click="emit('history', thing.object, thing.id)">
          {{ t('ledger.itsHistory') }}
        </button>
      </div>
      <p v-if="!thing.lines.length" class="mt-1 text-soft">
        {{ t('ledger.changedNotKeptInFull') }}
      </p>
      <table v-else class="grid-lines w-full table-fixed">
        <thead>
          <tr>
            <th scope="col" class="w-1/3">{{ t('ledger.value') }}</th>
            <th scope="col">{{ t('ledger.before') }}</th>
            <th scope="col">{{ t('ledger.after') }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="line in thing.lines" :key="line.name">
            <td class="break-words">{{ line.name }}</td>
            <td class="break-words text-soft" dir="auto">{{ line.before || '–' }}</td>
            <td class="break-words" dir="auto">{{ line.after || '–' }}</td>
          </tr>
        </tbody>
      </table>
    </section>
    <p v-if="changed.length > most" class="mt-2 text-soft">
      {{ t('ledger.andChangedMoreAllOfThemAre', { changed: changed.length - most }) }}
    </p>
    <section v-if="asked.length" class="mt-4">
      <h3 class="head border-b border-line pb-1">{{ t('ledger.whatWasAsked') }}</h3>
      <dl class="mt-1">
        <div
          v-for="line in asked.slice(0, most)"
          :key="line.name"
          class="border-b border-hair py-0.5"
        >
          <dt class="inline text-soft">{{ line.name }}</dt>
          <dd class="ml-2 inline break-words" dir="auto">{{ line.after }}</dd>
        </div>
      </dl>
    </section>
    <section class="mt-4">
      <h3 class="head border-b border-line pb-1">{{ t('ledger.chained') }}</h3>
      <p class="value mt-1 break-all text-soft">
        {{ t('ledger.afterPrevious', { previous: entry.previous }) }}
      </p>
      <p class="value break-all">{{ t('ledger.asHash', { hash: entry.hash }) }}</p>
    </section>
  </aside>
</template>
