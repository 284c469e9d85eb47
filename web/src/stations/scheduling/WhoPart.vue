<script setup lang="ts">
import { computed } from 'vue'
import { useOrganisation } from '@/api/catalogue'
import type { NamedPerson } from '@/api/schema'
import { useSession } from '@/api/session'
import { languages, type Invited, type MeetingForm, type Task } from './form'
import PeoplePicker from './PeoplePicker.vue'

/** Who takes part, and as what: one table, so that a co-host is not a forgotten option. */
const props = defineProps<{
  form: MeetingForm
  people: NamedPerson[]
  invited: number
}>()
const emit = defineEmits<{ change: [form: MeetingForm] }>()

const session = useSession()
const { organisation } = useOrganisation()
const known = computed(() => new Map(props.people.map((p) => [p.email.toLowerCase(), p])))
const about = (email: string) => known.value.get(email.toLowerCase())
const same = (a: string, b: string) => a.toLowerCase() === b.toLowerCase()
const has = (list: string[], email: string) => list.some((e) => same(e, email))
const without = (list: string[], email: string) => list.filter((e) => !same(e, email))

const rows = computed(() => {
  const emails = [
    ...props.form.coHosts,
    ...props.form.invitees.map((i) => i.email),
    ...props.form.presenters,
  ]
  return [...new Map(emails.map((e) => [e.toLowerCase(), e])).values()]
})
const need = (email: string) => props.form.invitees.find((i) => same(i.email, email))?.need ?? ''

function patch(part: Partial<MeetingForm>) {
  emit('change', { ...props.form, ...part })
}
function invite(email: string) {
  if (!has(rows.value, email) && !same(email, props.form.host)) {
    patch({ invitees: [...props.form.invitees, { email, need: 'required' }] })
  }
}
function inviteAll(emails: string[]) {
  const fresh = emails.filter((email) => !props.form.invitees.some((i) => same(i.email, email)))
  patch({
    invitees: [
      ...props.form.invitees,
      ...fresh.map((email) => ({ email, need: 'required' as const })),
    ],
  })
}
function setNeed(email: string, value: string) {
  const rest = props.form.invitees.filter((i) => !same(i.email, email))
  patch({
    invitees: value
      ? props.form.invitees.some((i) => same(i.email, email))
        ? props.form.invitees.map((i) =>
            same(i.email, email) ? { ...i, need: value as Invited['need'] } : i,
          )
        : [...rest, { email, need: value as Invited['need'] }]
      : rest,
  })
}
const invitee = (email: string) => props.form.invitees.find((i) => same(i.email, email))
function name(email: string, task: Task | '', language = '') {
  patch({
    invitees: props.form.invitees.map((i) => {
      if (!same(i.email, email)) return i
      const plain: Invited = { email: i.email, need: i.need }
      if (!task) return plain
      return language && task !== 'contributor' ? { ...plain, task, language } : { ...plain, task }
    }),
  })
}
function toggle(part: 'coHosts' | 'presenters', email: string) {
  const list = props.form[part]
  patch({ [part]: has(list, email) ? without(list, email) : [...list, email] })
}
function remove(email: string) {
  patch({
    invitees: props.form.invitees.filter((i) => !same(i.email, email)),
    coHosts: without(props.form.coHosts, email),
    presenters: without(props.form.presenters, email),
    groups: props.form.groups.map((g) => ({ ...g, members: without(g.members, email) })),
  })
}
function toggleList(id: string) {
  patch({
    lists: props.form.lists.includes(id)
      ? props.form.lists.filter((l) => l !== id)
      : [...props.form.lists, id],
  })
}
</script>

<template>
  <div class="grid grid-cols-[5.5rem_minmax(0,1fr)] items-start gap-x-3 gap-y-2">
    <span class="pt-1 text-soft">host</span>
    <div class="flex flex-wrap items-center gap-2">
      <span class="value pt-0.5">{{ form.host || 'nobody yet' }}</span>
      <PeoplePicker
        v-if="session.isWarden"
        class="w-64 max-w-full"
        label="Another host"
        placeholder="Another host…"
        :taken="[form.host]"
        @choose="patch({ host: $event })"
      />
    </div>
    <span class="pt-1 text-soft">invite</span>
    <PeoplePicker
      class="max-w-md"
      label="Invite somebody"
      many
      :taken="[form.host, ...rows]"
      @choose="invite"
      @several="inviteAll"
    />
  </div>

  <table v-if="rows.length" class="grid-lines stack mt-2">
    <thead>
      <tr>
        <th scope="col">Who</th>
        <th scope="col">Standing</th>
        <th scope="col">Invited</th>
        <th scope="col">Co-host</th>
        <th scope="col">Presenter</th>
        <th scope="col"><span class="hidden-label">Remove</span></th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="email in rows" :key="email">
        <td class="max-w-64 truncate" :title="email">
          {{ about(email)?.name ?? email }}
          <span v-if="about(email)?.zone && about(email)?.zone !== form.zone" class="text-soft"
            >· {{ about(email)?.zone }}</span
          >
        </td>
        <td :class="about(email)?.standing === 'outsider' ? 'text-sand' : 'text-soft'">
          {{ about(email)?.standing ?? '' }}
        </td>
        <td>
          <select
            class="field -my-1"
            :aria-label="`How ${email} is invited`"
            :value="need(email)"
            @change="setNeed(email, ($event.target as HTMLSelectElement).value)"
          >
            <option value="required">required</option>
            <option value="optional">optional</option>
            <option value="">not by name</option>
          </select>
          <span v-if="invitee(email)" class="mt-3 flex flex-wrap items-center gap-x-1 gap-y-3">
            <select
              class="field -my-1"
              :aria-label="`Task of ${email}`"
              :value="invitee(email)?.task ?? ''"
              @change="name(email, ($event.target as HTMLSelectElement).value as Task | '')"
            >
              <option value="">none</option>
              <option value="contributor">contributor</option>
              <option value="captioner">captioner</option>
              <option value="interpreter">interpreter</option>
            </select>
            <select
              v-if="invitee(email)?.task && invitee(email)?.task !== 'contributor'"
              class="field -my-1 w-28"
              :aria-label="`Language of ${email}`"
              :value="invitee(email)?.language ?? ''"
              @change="
                name(email, invitee(email)?.task ?? '', ($event.target as HTMLSelectElement).value)
              "
            >
              <option value="">language…</option>
              <option v-for="l in languages" :key="l.tag" :value="l.tag">{{ l.name }}</option>
            </select>
          </span>
        </td>
        <td>
          <input
            type="checkbox"
            :aria-label="`${email} is a co-host`"
            :checked="has(form.coHosts, email)"
            @change="toggle('coHosts', email)"
          />
        </td>
        <td>
          <input
            type="checkbox"
            :aria-label="`${email} is a presenter`"
            :checked="has(form.presenters, email)"
            @change="toggle('presenters', email)"
          />
        </td>
        <td class="text-right">
          <button type="button" class="link" @click="remove(email)">
            take out<span class="hidden-label">{{ ` ${email}` }}</span>
          </button>
        </td>
      </tr>
    </tbody>
  </table>

  <div class="mt-3 flex flex-wrap items-center gap-x-5 gap-y-2">
    <fieldset v-if="organisation?.lists.length" class="flex flex-wrap items-center gap-3">
      <legend class="float-left mr-3 text-soft">lists</legend>
      <label v-for="l in organisation.lists" :key="l.id" class="flex items-center gap-1.5">
        <input type="checkbox" :checked="form.lists.includes(l.id)" @change="toggleList(l.id)" />
        {{ l.name }} <span class="value text-soft">{{ l.members.length }}</span>
      </label>
    </fieldset>
    <label class="flex items-center gap-2">
      <span class="text-soft">space</span>
      <select
        class="field"
        :value="form.space ?? ''"
        @change="patch({ space: ($event.target as HTMLSelectElement).value || null })"
      >
        <option value="">none</option>
        <option v-for="s in organisation?.spaces ?? []" :key="s.id" :value="s.id">
          {{ s.name }}
        </option>
      </select>
    </label>
    <label class="flex items-center gap-2">
      <span class="text-soft">room</span>
      <select
        class="field"
        :value="form.room ?? ''"
        @change="patch({ room: ($event.target as HTMLSelectElement).value || null })"
      >
        <option value="">none</option>
        <option v-for="r in organisation?.rooms ?? []" :key="r.id" :value="r.id">
          {{ r.name }} ({{ r.seats }})
        </option>
      </select>
    </label>
    <span class="text-soft">{{ invited }} reached in all</span>
  </div>
</template>
