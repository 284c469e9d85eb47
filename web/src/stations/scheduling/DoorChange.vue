<script setup lang="ts">
import { t } from '@/wording'
import { computed } from 'vue'
import { useCatalogue } from '@/api/catalogue'
import GateMark from '@/marks/GateMark.vue'

/** The small matrix: only who and what changes at the door, before and after. */
const props = defineProps<{
  before: Record<string, Record<string, string>>
  after: Record<string, Record<string, string>>
}>()

const { catalogue } = useCatalogue()
const levels = ['never', 'host-lets-in', 'peer-lets-in', 'free', 'unattended']
const rank = (level: string | undefined) => levels.indexOf(level ?? 'never')

const changes = computed(() =>
  (catalogue.value?.personas ?? [])
    .map((p) => ({
      persona: p,
      cells: (catalogue.value?.rights ?? [])
        .map((r) => ({
          right: r,
          from: props.before[p.id]?.[r.id] ?? 'never',
          to: props.after[p.id]?.[r.id] ?? 'never',
        }))
        .filter((c) => c.from !== c.to),
    }))
    .filter((row) => row.cells.length),
)
/** A persona's rights that move alike, together. */
function moves(cells: { right: { id: string; phrase: string }; from: string; to: string }[]) {
  const by = new Map<string, { from: string; to: string; rights: string[] }>()
  for (const c of cells) {
    const key = `${c.from}>${c.to}`
    const known = by.get(key) ?? { from: c.from, to: c.to, rights: [] }
    known.rights.push(c.right.phrase)
    by.set(key, known)
  }
  return [...by.values()]
}
</script>

<template>
  <p v-if="!changes.length" class="text-soft">{{ t('scheduling.atTheDoorNothingChanges') }}</p>
  <table v-else class="grid-lines">
    <caption class="hidden-label">
      {{
        t('scheduling.whatChangesAtTheDoor')
      }}
    </caption>
    <tbody>
      <tr v-for="row in changes" :key="row.persona.id">
        <th scope="row" class="row">{{ row.persona.phrase }}</th>
        <td>
          <div v-for="(m, i) in moves(row.cells)" :key="i" class="flex items-center gap-1.5">
            <GateMark :level="m.from" />
            <span aria-hidden="true">→</span>
            <span class="hidden-label">{{ t('scheduling.becomes') }}</span>
            <GateMark :level="m.to" />
            <span
              class="value truncate"
              :class="rank(m.to) > rank(m.from) ? 'text-rust' : 'text-kelp'"
              :title="m.rights.join(', ')"
              >{{ rank(m.to) > rank(m.from) ? t('scheduling.gains') : t('scheduling.loses') }}
              {{
                m.rights.length > 2
                  ? t('scheduling.rightsRights', { rights: m.rights.length })
                  : m.rights.join(', ')
              }}</span
            >
          </div>
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
table.grid-lines th.row {
  position: static;
  background: none;
  color: var(--ink);
  border-bottom: 1px solid var(--hair);
  font-size: 12.5px;
  padding: 4px 8px 4px 0;
  vertical-align: top;
}
table.grid-lines td {
  padding: 4px 0;
}
</style>
