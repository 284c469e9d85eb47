<script setup lang="ts">
import { t } from '@/wording'
import { counted } from '@/shell/counted'
import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/vue'
import { useQuery, useQueryCache } from '@pinia/colada'
import { computed, ref } from 'vue'
import { api, take } from '@/api/client'
import type { DraftLine, Present } from '@/api/schema'
import ModalSheet from '@/shell/ModalSheet.vue'
import { useAct } from '@/shell/act'
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
const { busy, problem, attempt } = useAct()
const title = computed(
  () =>
    ({
      begin: t('rulebook.beginADraft2'),
      rename: t('rulebook.renameTheDraft'),
      file: t('rulebook.bringInARulebookAsADraft'),
      discard: t('rulebook.discardName', { name: props.draft?.name }),
    })[asking.value ?? 'begin'],
)

function ask(what: typeof asking.value) {
  problem.value = null
  file.value = null
  name.value = what === 'rename' ? (props.draft?.name ?? '') : ''
  asking.value = what
}

const answer = () =>
  attempt(async () => {
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
  })
</script>

<template>
  <div class="px-5">
    <Menu as="div" class="relative">
      <MenuButton
        class="w-full truncate text-left hover:text-sea"
        :class="draft ? 'font-bold' : 'text-soft'"
        :title="draft ? t('rulebook.draftName2', { name: draft.name }) : ''"
      >
        {{ draft ? t('rulebook.draftName2', { name: draft.name }) : t('rulebook.asInForce') }}
        <span v-if="editable" aria-hidden="true">▾</span>
      </MenuButton>
      <MenuItems
        v-if="editable"
        class="absolute left-0 top-full z-30 mt-1 max-h-96 w-72 overflow-auto border border-ink bg-sheet py-1 outline-none"
      >
        <MenuItem v-slot="{ active }">
          <button class="item" :class="{ active }" @click="emit('choose', null)">
            {{ t('rulebook.theEditionInForce') }}
          </button>
        </MenuItem>
        <MenuItem v-for="d in drafts" :key="d.id" v-slot="{ active }">
          <button class="item" :class="{ active }" @click="emit('choose', d.id)">
            <span class="truncate" :class="d.id === draft?.id ? 'font-bold' : ''">{{
              d.name
            }}</span>
            <span
              class="value text-soft"
              :title="t('rulebook.savedBySavedBy', { savedBy: d.savedBy })"
              >{{ d.differences }}{{ d.proposal ? t('rulebook.waits') : ''
              }}{{ d.present.length ? t('rulebook.open') : '' }}</span
            >
          </button>
        </MenuItem>
        <div class="my-1 border-t border-hair" />
        <MenuItem v-slot="{ active }">
          <button class="item" :class="{ active }" @click="ask('begin')">
            {{ t('rulebook.beginADraft') }}
          </button>
        </MenuItem>
        <MenuItem v-slot="{ active }">
          <button class="item" :class="{ active }" @click="ask('file')">
            {{ t('rulebook.bringInAFileAsADraft') }}
          </button>
        </MenuItem>
        <MenuItem v-if="draft" v-slot="{ active }">
          <button class="item" :class="{ active }" @click="ask('rename')">
            {{ t('rulebook.renameThisOne') }}
          </button>
        </MenuItem>
        <MenuItem v-if="draft" v-slot="{ active }">
          <button class="item" :class="{ active }" @click="ask('discard')">
            {{ t('rulebook.discardThisOne') }}
          </button>
        </MenuItem>
      </MenuItems>
    </Menu>
    <p v-if="draft" class="text-[12.5px] text-soft">
      {{ counted(draft.differences, 'change') }}
      <template v-if="present.length">
        ·
        <span class="text-sea">{{
          t('rulebook.joinHereToo', { join: present.map((p) => p.name).join(', ') })
        }}</span>
      </template>
    </p>
    <ModalSheet :open="!!asking" :title="title" @close="asking = null">
      <form class="flex flex-col gap-3" @submit.prevent="answer">
        <p v-if="asking === 'discard'">
          {{
            t('rulebook.itsChangesThrownAwayForEverybodyWho', {
              changes: counted(draft?.differences ?? 0, 'changeIs'),
            })
          }}
        </p>
        <label v-if="asking === 'file'" class="flex flex-col gap-1">
          {{ t('rulebook.aRulebookInJSONOrYAMLOr') }}
          <input
            type="file"
            accept=".json,.yaml,.yml"
            required
            @click="($event.target as HTMLInputElement).value = ''"
            @change="file = ($event.target as HTMLInputElement).files?.[0] ?? null"
          />
        </label>
        <label v-if="asking !== 'discard'" class="flex flex-col gap-1">
          {{ t('rulebook.name') }}
          <input
            v-model="name"
            class="field"
            maxlength="100"
            :required="asking !== 'file'"
            :placeholder="asking === 'file' ? t('rulebook.theFilesName') : ''"
          />
        </label>
        <ProblemNote :problem="problem" />
        <div>
          <button class="button button-main" :disabled="busy">
            {{
              asking === 'discard'
                ? t('rulebook.discardIt')
                : asking === 'file'
                  ? t('rulebook.bringItIn')
                  : t('rulebook.save')
            }}
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
