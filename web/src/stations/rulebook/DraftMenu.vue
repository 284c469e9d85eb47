<script setup lang="ts">
import { counted } from '@/shell/counted'
import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/vue'
import { useQuery, useQueryCache } from '@pinia/colada'
import { computed, ref } from 'vue'
import { api, take } from '@/api/client'
import type { DraftLine, Present } from '@/api/schema'
import ModalSheet from '@/shell/ModalSheet.vue'
import ProblemNote from '@/shell/ProblemNote.vue'
import { bringIn } from './files'

/** Which draft is worked on: choose, begin, rename, bring in from a file, discard. */
const props = defineProps<{ draft: DraftLine | null; present: Present[]; editable: boolean }>()
const emit = defineEmits<{ choose: [id: number | null] }>()

const cache = useQueryCache()
const { data: drafts } = useQuery({
  key: ['drafts'],
  query: () => take(api.GET('/api/rulebook/drafts')),
  enabled: () => props.editable,
})
const asking = ref<'begin' | 'rename' | 'file' | 'discard' | null>(null)
const name = ref('')
const file = ref<File | null>(null)
const problem = ref<Error | null>(null)
const title = computed(
  () =>
    ({
      begin: 'Begin a draft',
      rename: 'Rename the draft',
      file: 'Bring in a rulebook as a draft',
      discard: `Discard “${props.draft?.name}”?`,
    })[asking.value ?? 'begin'],
)

function ask(what: typeof asking.value) {
  problem.value = null
  file.value = null
  name.value = what === 'rename' ? (props.draft?.name ?? '') : ''
  asking.value = what
}

async function answer() {
  problem.value = null
  try {
    const path = { id: props.draft?.id ?? 0 }
    if (asking.value === 'begin') {
      const body = { name: name.value, from: 'in-force' }
      emit('choose', (await take(api.POST('/api/rulebook/drafts', { body }))).line.id)
    } else if (asking.value === 'rename') {
      await take(
        api.PATCH('/api/rulebook/drafts/{id}', { params: { path }, body: { name: name.value } }),
      )
      emit('choose', path.id)
    } else if (asking.value === 'discard') {
      await take(api.DELETE('/api/rulebook/drafts/{id}', { params: { path } }))
      emit('choose', null)
    } else if (file.value) {
      const chosen = file.value
      const called = name.value || chosen.name.replace(/\.\w+$/, '')
      const format = /\.ya?ml$/i.test(chosen.name) ? 'yaml' : 'json'
      emit('choose', await bringIn(called, format, await chosen.text()))
    }
    asking.value = null
    await cache.invalidateQueries({ key: ['drafts'] })
  } catch (e) {
    problem.value = e as Error
  }
}
</script>

<template>
  <div class="px-5">
    <Menu as="div" class="relative">
      <MenuButton
        class="w-full truncate text-left hover:text-sea"
        :class="draft ? 'font-bold' : 'text-soft'"
        :title="draft ? `draft “${draft.name}”` : ''"
      >
        {{ draft ? `draft “${draft.name}”` : 'as in force' }}
        <span v-if="editable" aria-hidden="true">▾</span>
      </MenuButton>
      <MenuItems
        v-if="editable"
        class="absolute left-0 top-full z-30 mt-1 max-h-96 w-72 overflow-auto border border-ink bg-sheet py-1 outline-none"
      >
        <MenuItem v-slot="{ active }">
          <button class="item" :class="{ active }" @click="emit('choose', null)">
            The edition in force
          </button>
        </MenuItem>
        <MenuItem v-for="d in drafts" :key="d.id" v-slot="{ active }">
          <button class="item" :class="{ active }" @click="emit('choose', d.id)">
            <span class="truncate" :class="d.id === draft?.id ? 'font-bold' : ''">{{
              d.name
            }}</span>
            <span class="value text-soft" :title="`saved by ${d.savedBy}`"
              >{{ d.differences }}{{ d.proposal ? ' · waits' : ''
              }}{{ d.present.length ? ' · open' : '' }}</span
            >
          </button>
        </MenuItem>
        <div class="my-1 border-t border-hair" />
        <MenuItem v-slot="{ active }">
          <button class="item" :class="{ active }" @click="ask('begin')">Begin a draft…</button>
        </MenuItem>
        <MenuItem v-slot="{ active }">
          <button class="item" :class="{ active }" @click="ask('file')">
            Bring in a file as a draft…
          </button>
        </MenuItem>
        <MenuItem v-if="draft" v-slot="{ active }">
          <button class="item" :class="{ active }" @click="ask('rename')">Rename this one…</button>
        </MenuItem>
        <MenuItem v-if="draft" v-slot="{ active }">
          <button class="item" :class="{ active }" @click="ask('discard')">
            Discard this one…
          </button>
        </MenuItem>
      </MenuItems>
    </Menu>
    <p v-if="draft" class="text-[12.5px] text-soft">
      {{ counted(draft.differences, 'change') }}
      <template v-if="present.length">
        · <span class="text-sea">{{ present.map((p) => p.name).join(', ') }} here too</span>
      </template>
    </p>
    <ModalSheet :open="!!asking" :title="title" @close="asking = null">
      <form class="flex flex-col gap-3" @submit.prevent="answer">
        <p v-if="asking === 'discard'">
          Its {{ counted(draft?.differences ?? 0, 'change is', 'changes are') }} thrown away, for
          everybody who works on it. This cannot be undone.
        </p>
        <label v-if="asking === 'file'" class="flex flex-col gap-1">
          A rulebook in JSON or YAML, or a whole bundle
          <input
            type="file"
            accept=".json,.yaml,.yml"
            required
            @click="($event.target as HTMLInputElement).value = ''"
            @change="file = ($event.target as HTMLInputElement).files?.[0] ?? null"
          />
        </label>
        <label v-if="asking !== 'discard'" class="flex flex-col gap-1">
          Name
          <input
            v-model="name"
            class="field"
            maxlength="100"
            :required="asking !== 'file'"
            :placeholder="asking === 'file' ? 'the file’s name' : ''"
          />
        </label>
        <ProblemNote :problem="problem" />
        <div>
          <button class="button button-main">
            {{ asking === 'discard' ? 'Discard it' : asking === 'file' ? 'Bring it in' : 'Save' }}
          </button>
        </div>
      </form>
    </ModalSheet>
  </div>
</template>

<style scoped>
.item {
  display: flex;
  width: 100%;
  justify-content: space-between;
  gap: 0.75rem;
  padding: 3px 12px;
  text-align: left;
}
.item.active {
  background: var(--sea-wash);
}
</style>
