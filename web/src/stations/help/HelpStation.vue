<script setup lang="ts">
import { language, t } from '@/wording'
import { computed, nextTick, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useCatalogue } from '@/api/catalogue'
import StatePanel from '@/shell/StatePanel.vue'
import {
  type Found,
  type Section,
  type Shown,
  type Topic,
  everything,
  find,
  groups,
  pageOf,
  topicOf,
  topics,
} from './guide'
import LookUp from './LookUp.vue'

/** Help: the guide's pages, and what the core itself declares. */
const props = defineProps<{ topic?: string }>()
const route = useRoute()
const router = useRouter()
const { catalogue } = useCatalogue()

const topic = computed(() => topicOf(props.topic))
const page = ref<Shown | null>(null)
const isLoading = ref(true)
const failed = ref(false)
async function show(of: string) {
  isLoading.value = true
  failed.value = false
  try {
    const next = await pageOf(of)
    if (of === topic.value) page.value = next
  } catch {
    failed.value = true
  } finally {
    isLoading.value = false
  }
}
watch(topic, show, { immediate: true })
watch(
  [() => route.hash, catalogue, page],
  async () => {
    await nextTick()
    if (route.hash) document.getElementById(route.hash.slice(1))?.scrollIntoView()
    else document.querySelector('.help')?.scrollTo({ top: 0 })
  },
  { immediate: true },
)
/** On a narrow page the topics stand above what is read, and open on asking. */
const isOpen = ref(!props.topic)
watch(topic, () => (isOpen.value = false))
/** A link within the help stays within the page. */
function follow(event: MouseEvent) {
  const link = (event.target as HTMLElement).closest('a')
  const to = link?.getAttribute('href') ?? ''
  if (!event.ctrlKey && !event.metaKey && (to.startsWith('/help/') || to.startsWith('#'))) {
    event.preventDefault()
    void router.push(to.startsWith('#') ? { hash: to } : to)
  }
}

const asked = ref('')
const guide = ref<Map<Topic, Section[]> | null>(null)
watch(asked, async (words) => {
  if (words && !guide.value) guide.value = await everything().catch(() => new Map())
})
const declared = computed(() => {
  const of = (id: string, sections: Section[]): [Topic, Section[]][] => {
    const named = topics.find((entry) => entry.id === id)
    return named ? [[named, sections]] : []
  }
  const html = ''
  return new Map([
    ...of(
      'checks',
      (catalogue.value?.checks ?? []).map((c) => ({
        id: c.id,
        title: c.title,
        html,
        text: `${c.summary} ${c.why} ${c.mend}`,
      })),
    ),
    ...of(
      'controls',
      (catalogue.value?.controls ?? []).map((c) => ({
        id: c.id,
        title: c.title,
        html,
        text: `${c.effect}. ${c.risk}`,
      })),
    ),
  ])
})
const found = computed<Found[]>(() =>
  guide.value ? find(asked.value, new Map([...guide.value, ...declared.value])) : [],
)
function open(to: Found) {
  asked.value = ''
  void router.push({ path: `/help/${to.topic}`, hash: to.id ? `#${to.id}` : '' })
}
</script>

<template>
  <div class="grid h-full grid-cols-[212px_minmax(0,1fr)] narrow:block narrow:h-auto">
    <nav
      class="overflow-auto border-r border-line py-4 narrow:border-b narrow:border-r-0"
      :aria-label="t('help.help')"
    >
      <form class="mb-3 px-5 phone:px-3" role="search" @submit.prevent="found[0] && open(found[0])">
        <input
          v-model="asked"
          class="field w-full"
          type="search"
          maxlength="100"
          :placeholder="t('help.searchTheHelp')"
          :aria-label="t('help.searchTheHelp')"
          @keydown.escape="asked = ''"
        />
      </form>
      <button
        type="button"
        class="link mb-2 hidden px-5 narrow:block phone:px-3"
        :aria-expanded="isOpen"
        @click="isOpen = !isOpen"
      >
        {{ isOpen ? t('help.fewer') : t('help.allTopics') }}
      </button>
      <div class="narrow:grid-cols-2" :class="isOpen ? 'narrow:grid' : 'narrow:hidden'">
        <section v-for="g in groups" :key="g.name" class="mb-3">
          <h2 class="px-5 pb-0.5 text-[12.5px] text-soft phone:px-3">{{ g.name }}</h2>
          <RouterLink
            v-for="entry in g.topics"
            :key="entry.id"
            :to="`/help/${entry.id}`"
            class="block px-5 py-1 hover:bg-sheet phone:px-3"
            :class="entry.id === topic ? 'font-bold' : ''"
            :aria-current="entry.id === topic ? 'page' : undefined"
            >{{ entry.name }}</RouterLink
          >
        </section>
      </div>
    </nav>
    <article class="help overflow-auto px-8 py-6 phone:px-3" tabindex="0">
      <template v-if="asked">
        <h1>{{ t('help.foundInTheHelp') }}</h1>
        <p role="status" class="text-soft">
          {{
            !guide
              ? t('help.looking')
              : found.length
                ? t('help.forAskedEnterOpensTheFirst', { asked })
                : t('help.nothingHasAskedTryFewerWordsOr', { asked })
          }}
        </p>
        <ul>
          <li v-for="f in found" :key="`${f.topic}#${f.id}`">
            <button type="button" class="link head" @click="open(f)">
              {{ f.section || f.name }}
            </button>
            <span v-if="f.section" class="text-soft"> · {{ f.name }}</span
            ><br />{{ f.text }}
          </li>
        </ul>
      </template>
      <LookUp v-else-if="['marks', 'checks', 'controls'].includes(topic)" :topic="topic" />
      <template v-else-if="page">
        <p v-if="page.lang !== language" class="text-soft">{{ t('help.thisPageIsInEnglish') }}</p>
        <div :lang="page.lang">
          <h1>{{ page.title }}</h1>
          <!-- eslint-disable vue/no-v-html -- of our own pages, made into HTML while building -->
          <section v-for="s in page.sections" :id="s.id || undefined" :key="s.id" @click="follow">
            <h2 v-if="s.title">{{ s.title }}</h2>
            <div v-html="s.html" />
          </section>
          <!-- eslint-enable vue/no-v-html -->
        </div>
      </template>
      <StatePanel v-else-if="isLoading" state="loading" />
      <template v-else>
        <h1>{{ t('help.help') }}</h1>
        <p v-if="failed">
          {{ t('help.thisPageCouldNotBeFetched') }}
          <button class="link" @click="show(topic)">{{ t('help.tryAgain') }}</button>
        </p>
        <p v-else>{{ t('help.thereIsNoSuchPageChooseOne') }}</p>
      </template>
    </article>
  </div>
</template>

<style scoped>
.help :deep(h1) {
  font-size: 20px;
  font-weight: 700;
  margin-bottom: 8px;
}
.help :deep(h2) {
  font-size: 16px;
  font-weight: 700;
  margin: 18px 0 4px;
}
.help :deep(p),
.help :deep(ol),
.help :deep(ul),
.help :deep(.wide) {
  max-width: 46rem;
  margin-bottom: 6px;
}
.help :deep(ol) {
  list-style: decimal;
  padding-left: 20px;
}
.help :deep(ul) {
  list-style: disc;
  padding-left: 20px;
}
.help :deep(li) {
  margin-bottom: 6px;
}
.help :deep(.wide) {
  overflow-x: auto;
}
.help :deep(td) {
  vertical-align: top;
  overflow-wrap: anywhere;
}
.help :deep(code) {
  font-family: var(--font-mono);
  font-size: 13px;
  overflow-wrap: anywhere;
}
.help :deep(pre) {
  max-width: 60rem;
  overflow-x: auto;
  border: 1px solid var(--line);
  background: var(--sheet);
  padding: 10px;
  margin-bottom: 8px;
}
.help :deep(pre code) {
  overflow-wrap: normal;
}
.help :deep(.picture) {
  width: min(100%, 32rem);
  height: auto;
  border: 1px solid var(--line);
  margin: 8px 0;
}
</style>
