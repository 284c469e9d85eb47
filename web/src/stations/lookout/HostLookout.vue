<script setup lang="ts">
import { t } from '@/wording'
import { useQuery } from '@pinia/colada'
import { computed } from 'vue'
import { useRouter } from 'vue-router'
import { label, useCatalogue } from '@/api/catalogue'
import { api, take } from '@/api/client'
import TallyMark from '@/marks/TallyMark.vue'
import { useKeys } from '@/shell/keys'
import StatePanel from '@/shell/StatePanel.vue'
import { day, shortTime } from '@/shell/times'
import AnswerItem from './AnswerItem.vue'
import TideStrip from './TideStrip.vue'

/** A host's own first page: what is asked of them, then what is found in their meetings. */
const router = useRouter()
const { controls } = useCatalogue()
const {
  data: mine,
  error,
  refetch,
} = useQuery({ key: ['lookout', 'mine'], query: () => take(api.GET('/api/lookout/mine')) })
const asked = computed(() => mine.value?.requests ?? [])
const open = computed(() => asked.value.flatMap((r) => r.items).filter((i) => i.state === 'open'))
useKeys([
  { key: 'n', does: t('lookout.scheduleAMeeting'), act: () => router.push('/register/new') },
])
const states: Record<string, string> = {
  open: t('lookout.noAnswerYet'),
  granted: t('lookout.granted'),
  refused: t('lookout.refused'),
}
</script>

<template>
  <StatePanel v-if="error" state="failed" :problem="error" @retry="refetch()" />
  <StatePanel v-else-if="!mine" state="loading" />
  <div v-else class="flex min-h-full flex-col">
    <section
      class="border-b border-line px-5 pb-2 pt-3"
      :aria-label="t('lookout.yourNextFourteenDays')"
    >
      <TideStrip :tide="mine.tide" @open="router.push(`/register/${encodeURIComponent($event)}`)" />
    </section>
    <div class="grid flex-1 grid-cols-2 narrow:block">
      <section class="border-r border-line px-5 py-3" :aria-label="t('lookout.whatIsAskedOfYou')">
        <h1 class="text-lg font-bold">
          {{
            open.length
              ? open.length === 1
                ? t('lookout.oneThingIsAskedOfYou')
                : t('lookout.openThingsAreAskedOfYou', { open: open.length })
              : t('lookout.nothingIsAskedOfYou')
          }}
        </h1>
        <template v-for="r in asked" :key="r.id">
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
        <template v-if="mine.waiversAsked.length">
          <h2 class="head mt-4 border-b border-line pb-1">{{ t('lookout.waiversYouAskedFor') }}</h2>
          <p v-for="w in mine.waiversAsked" :key="w.id" class="border-b border-hair py-1">
            {{ controls.get(w.control)?.title }}:
            <span class="value">{{ label(controls.get(w.control), w.wanted) }}</span>
            <span class="float-right text-soft">{{ states[w.state] }}</span>
            <span v-if="w.answer" class="block text-soft">“{{ w.answer }}”</span>
          </p>
        </template>
      </section>
      <section class="px-5 py-3" :aria-label="t('lookout.whatIsFoundInYourMeetings')">
        <h2 class="text-lg font-bold">{{ t('lookout.foundInYourMeetings') }}</h2>
        <p v-if="!mine.findings.length" class="mt-1 text-kelp">
          {{ t('lookout.nothingYourMeetingsAreAsTheRulebook') }}
        </p>
        <ul>
          <li v-for="f in mine.findings" :key="f.identity" class="border-b border-hair py-1.5">
            <RouterLink class="block" :to="`/register/${encodeURIComponent(f.meeting)}`">
              <span class="flex items-center gap-2">
                <TallyMark :severity="f.finding.severity" />
                <strong class="truncate" dir="auto">{{
                  mine.titles[f.meeting] ?? f.meeting
                }}</strong>
                <span class="value ml-auto whitespace-nowrap">{{ shortTime(f.next) }}</span>
              </span>
              <span class="block pl-[30px]">{{ f.finding.text }}</span>
            </RouterLink>
          </li>
        </ul>
      </section>
    </div>
  </div>
</template>
