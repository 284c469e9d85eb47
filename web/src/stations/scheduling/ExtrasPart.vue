<script setup lang="ts">
import { vShows } from '@/shell/shows'
import { t } from '@/wording'
import { computed } from 'vue'
import { useOrganisation } from '@/api/catalogue'
import type { MeetingForm } from './form'

/** Reminder, and breakout groups set up before the start. */
const props = defineProps<{ form: MeetingForm }>()
const emit = defineEmits<{ change: [form: MeetingForm] }>()

const reminders = [
  { value: '', name: t('scheduling.none') },
  { value: '0', name: t('scheduling.atTheStart') },
  { value: '10', name: t('scheduling.n10MinutesBefore') },
  { value: '30', name: t('scheduling.n30MinutesBefore') },
  { value: '60', name: t('scheduling.anHourBefore') },
  { value: '1440', name: t('scheduling.aDayBefore') },
]
const options = computed(() => {
  const own = props.form.reminder
  return own === null || reminders.some((r) => r.value === String(own))
    ? reminders
    : [...reminders, { value: String(own), name: t('scheduling.ownMinutesBefore', { own }) }]
})
const people = computed(() => props.form.invitees.map((i) => i.email))
const same = (a: string, b: string) => a.toLowerCase() === b.toLowerCase()
const where = (email: string) =>
  props.form.groups.findIndex((g) => g.members.some((m) => same(m, email)))

function patch(part: Partial<MeetingForm>) {
  emit('change', { ...props.form, ...part })
}
function controlsWith(groups: number) {
  const controls = { ...props.form.controls }
  if (groups) controls['breakout-groups'] = 'pre-assigned'
  else if (controls['breakout-groups'] === 'pre-assigned') controls['breakout-groups'] = 'on-demand'
  return controls
}
function setCount(count: number) {
  const groups = Array.from(
    { length: Math.max(0, Math.min(50, count)) },
    (_, i) => props.form.groups[i] ?? { name: t('scheduling.groupI', { i: i + 1 }), members: [] },
  )
  patch({ groups, controls: controlsWith(groups.length) })
}
function rename(index: number, name: string) {
  patch({
    groups: props.form.groups.map((g, i) => (i === index ? { ...g, name: name || g.name } : g)),
  })
}
function put(email: string, index: number) {
  patch({
    groups: props.form.groups.map((g, i) => ({
      ...g,
      members:
        i === index
          ? [...g.members.filter((m) => !same(m, email)), email]
          : g.members.filter((m) => !same(m, email)),
    })),
  })
}
const { organisation } = useOrganisation()
const lists = computed(() =>
  (organisation.value?.lists ?? []).filter((l) => props.form.lists.includes(l.id)),
)
const listName = (id: string) =>
  organisation.value?.lists.find((l) => l.id === id)?.name ?? t('scheduling.aListThatIsGone')
/** A group for each invited list that has none; who is on the list then is in it. */
function fromLists() {
  const groups = [
    ...props.form.groups,
    ...lists.value
      .filter((l) => !props.form.groups.some((g) => g.list === l.id))
      .map((l) => ({ name: l.name, members: [], list: l.id })),
  ].slice(0, 50)
  patch({ groups, controls: controlsWith(groups.length) })
}
/** Deals everybody out, one after another. */
function deal() {
  patch({
    groups: props.form.groups.map((g, i) => ({
      ...g,
      members: people.value.filter((_, p) => p % props.form.groups.length === i),
    })),
  })
}
</script>

<template>
  <div class="grid grid-cols-[5.5rem_minmax(0,1fr)] items-center gap-x-3 gap-y-2">
    <label for="reminder" class="text-soft">{{ t('scheduling.reminder') }}</label>
    <select
      id="reminder"
      class="field w-52"
      :value="form.reminder === null ? '' : String(form.reminder)"
      @change="
        patch({
          reminder:
            ($event.target as HTMLSelectElement).value === ''
              ? null
              : Number(($event.target as HTMLSelectElement).value),
        })
      "
    >
      <option v-for="r in options" :key="r.value" :value="r.value">{{ r.name }}</option>
    </select>
    <label for="groups" class="text-soft">{{ t('scheduling.groups') }}</label>
    <div class="flex flex-wrap items-center gap-2">
      <input
        id="groups"
        v-shows="form.groups.length"
        class="field value w-20"
        type="number"
        min="0"
        max="50"
        @change="setCount(Number(($event.target as HTMLInputElement).value) || 0)"
      />
      <span class="text-soft">{{ t('scheduling.breakoutGroupsSetUpBeforehand') }}</span>
      <button v-if="lists.length" type="button" class="link" @click="fromLists">
        {{ t('scheduling.aGroupForEachList') }}
      </button>
      <button v-if="form.groups.length && people.length" type="button" class="link" @click="deal">
        {{ t('scheduling.dealEverybodyOut') }}
      </button>
    </div>
  </div>
  <div v-if="form.groups.length" class="mt-2 flex flex-wrap gap-3">
    <label v-for="(g, i) in form.groups" :key="i" class="flex items-center gap-1.5">
      <input
        v-shows="g.name"
        class="field w-36"
        :aria-label="t('scheduling.nameOfGroupI', { i: i + 1 })"
        maxlength="200"
        @change="rename(i, ($event.target as HTMLInputElement).value.trim())"
      />
      <span class="value text-soft">{{ g.members.length }}</span>
      <span v-if="g.list" class="text-soft">{{
        t('scheduling.andTheListList', { list: listName(g.list) })
      }}</span>
    </label>
  </div>
  <table v-if="form.groups.length && people.length" class="grid-lines stack mt-2">
    <tbody>
      <tr v-for="email in people" :key="email">
        <td class="value">{{ email }}</td>
        <td>
          <select
            class="field -my-1"
            :aria-label="t('scheduling.groupOfEmail', { email })"
            :value="where(email)"
            @change="put(email, Number(($event.target as HTMLSelectElement).value))"
          >
            <option :value="-1">{{ t('scheduling.none') }}</option>
            <option v-for="(g, i) in form.groups" :key="i" :value="i">{{ g.name }}</option>
          </select>
        </td>
      </tr>
    </tbody>
  </table>
</template>
