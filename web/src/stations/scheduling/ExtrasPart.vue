<script setup lang="ts">
import { computed } from 'vue'
import { useOrganisation } from '@/api/catalogue'
import type { MeetingForm } from './form'

/** Reminder, and breakout groups set up before the start. */
const props = defineProps<{ form: MeetingForm }>()
const emit = defineEmits<{ change: [form: MeetingForm] }>()

const reminders = [
  { value: '', name: 'none' },
  { value: '0', name: 'at the start' },
  { value: '10', name: '10 minutes before' },
  { value: '30', name: '30 minutes before' },
  { value: '60', name: 'an hour before' },
  { value: '1440', name: 'a day before' },
]
const options = computed(() => {
  const own = props.form.reminder
  return own === null || reminders.some((r) => r.value === String(own))
    ? reminders
    : [...reminders, { value: String(own), name: `${own} minutes before` }]
})
const people = computed(() => props.form.invitees.map((i) => i.email))
const where = (email: string) =>
  props.form.groups.findIndex((g) => g.members.some((m) => m.toLowerCase() === email.toLowerCase()))

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
    (_, i) => props.form.groups[i] ?? { name: `Group ${i + 1}`, members: [] },
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
          ? [...g.members.filter((m) => m !== email), email]
          : g.members.filter((m) => m !== email),
    })),
  })
}
const { organisation } = useOrganisation()
const lists = computed(() =>
  (organisation.value?.lists ?? []).filter((l) => props.form.lists.includes(l.id)),
)
const listName = (id: string) =>
  organisation.value?.lists.find((l) => l.id === id)?.name ?? 'a list that is gone'
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
    <label for="reminder" class="text-soft">reminder</label>
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
    <label for="groups" class="text-soft">groups</label>
    <div class="flex flex-wrap items-center gap-2">
      <input
        id="groups"
        class="field value w-20"
        type="number"
        min="0"
        max="50"
        :value="form.groups.length"
        @change="setCount(Number(($event.target as HTMLInputElement).value) || 0)"
      />
      <span class="text-soft">breakout groups set up beforehand</span>
      <button v-if="lists.length" type="button" class="link" @click="fromLists">
        a group for each list
      </button>
      <button v-if="form.groups.length && people.length" type="button" class="link" @click="deal">
        deal everybody out
      </button>
    </div>
  </div>
  <div v-if="form.groups.length" class="mt-2 flex flex-wrap gap-3">
    <label v-for="(g, i) in form.groups" :key="i" class="flex items-center gap-1.5">
      <input
        class="field w-36"
        :aria-label="`Name of group ${i + 1}`"
        maxlength="200"
        :value="g.name"
        @change="rename(i, ($event.target as HTMLInputElement).value.trim())"
      />
      <span class="value text-soft">{{ g.members.length }}</span>
      <span v-if="g.list" class="text-soft">and the list {{ listName(g.list) }}</span>
    </label>
  </div>
  <table v-if="form.groups.length && people.length" class="grid-lines stack mt-2">
    <tbody>
      <tr v-for="email in people" :key="email">
        <td class="value">{{ email }}</td>
        <td>
          <select
            class="field -my-1"
            :aria-label="`Group of ${email}`"
            :value="where(email)"
            @change="put(email, Number(($event.target as HTMLSelectElement).value))"
          >
            <option :value="-1">none</option>
            <option v-for="(g, i) in form.groups" :key="i" :value="i">{{ g.name }}</option>
          </select>
        </td>
      </tr>
    </tbody>
  </table>
</template>
