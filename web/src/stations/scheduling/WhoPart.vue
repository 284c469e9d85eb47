<script setup lang="ts">
import { t } from '@/wording'
import { term } from '@/shell/terms'
import { computed } from 'vue'
import { useOrganisation } from '@/api/catalogue'
import type { NamedPerson } from '@/api/schema'
import { useSession } from '@/api/session'
import { languages, type Invited, type MeetingForm, type Task } from './form'
import PeoplePicker from './PeoplePicker.vue'
import { nameOf } from '@/stations/register/invited'

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
const counted = (n: number) => `${n} ${n === 1 ? t('scheduling.person') : t('scheduling.people')}`
/** Everything that can be invited or booked by its name, but for what is already. */
const groups = computed(() => {
  const all = organisation.value
  if (!all) return []
  return [
    ...all.lists
      .filter((l) => !props.form.lists.includes(l.id))
      .map((l) => ({
        key: `list:${l.id}`,
        name: l.name,
        detail: t('scheduling.listMembers', { members: counted(l.members) }),
      })),
    ...all.spaces
      .filter((s) => s.id !== props.form.space)
      .map((s) => ({
        key: `space:${s.id}`,
        name: s.name,
        detail: t('scheduling.spaceMembers', { members: counted(s.members) }),
      })),
    ...all.rooms
      .filter((r) => r.id !== props.form.room)
      .map((r) => ({
        key: `room:${r.id}`,
        name: r.name,
        detail: t('scheduling.roomSeatsSeats', { seats: r.seats }),
      })),
  ]
})
/** What of them is chosen, with its name and what it is. */
const chosen = computed(() => {
  const all = organisation.value
  const list = (id: string) => all?.lists.find((l) => l.id === id)
  const { lists, space, room } = props.form
  return [
    ...lists.map((id) => ({
      key: `list:${id}`,
      name: list(id)?.name ?? id,
      detail: list(id)
        ? t('scheduling.listCounted', { counted: counted(list(id)?.members ?? 0) })
        : t('scheduling.aListThatIsGone'),
    })),
    ...(space
      ? [{ key: `space:${space}`, name: nameOf(all?.spaces, space), detail: t('scheduling.space') }]
      : []),
    ...(room
      ? [{ key: `room:${room}`, name: nameOf(all?.rooms, room), detail: t('scheduling.room') }]
      : []),
  ]
})
/** A meeting has any number of lists, one space and one room. */
function add(key: string) {
  const id = key.slice(key.indexOf(':') + 1)
  if (key.startsWith('list:')) patch({ lists: [...props.form.lists, id] })
  else if (key.startsWith('space:')) patch({ space: id })
  else patch({ room: id })
}
function takeOut(key: string) {
  const id = key.slice(key.indexOf(':') + 1)
  if (key.startsWith('list:')) patch({ lists: props.form.lists.filter((l) => l !== id) })
  else if (key.startsWith('space:')) patch({ space: null })
  else patch({ room: null })
}
</script>

<template>
  <div class="grid grid-cols-[5.5rem_minmax(0,1fr)] items-start gap-x-3 gap-y-2">
    <span class="pt-1 text-soft">{{ t('scheduling.host') }}</span>
    <div class="flex flex-wrap items-center gap-2">
      <span class="value pt-0.5">{{ form.host || t('scheduling.nobodyYet') }}</span>
      <PeoplePicker
        v-if="session.isWarden"
        class="w-64 max-w-full"
        :label="t('scheduling.anotherHost')"
        :placeholder="t('scheduling.anotherHost2')"
        :taken="[form.host]"
        @choose="patch({ host: $event })"
      />
    </div>
    <span class="pt-1 text-soft">{{ t('scheduling.invite') }}</span>
    <div>
      <PeoplePicker
        class="max-w-md"
        :label="t('scheduling.inviteSomebody')"
        :placeholder="t('scheduling.aNameOrAnAddressAList')"
        many
        :taken="[form.host, ...rows]"
        :groups="groups"
        @choose="invite"
        @several="inviteAll"
        @group="add"
      />
      <ul
        v-if="chosen.length"
        class="mt-2 flex flex-wrap gap-2"
        :aria-label="t('scheduling.listsSpaceAndRoom')"
      >
        <li
          v-for="c in chosen"
          :key="c.key"
          class="flex max-w-full items-center gap-2 rounded-full border border-line bg-sheet py-0.5 pr-1 pl-3"
        >
          <span class="min-w-0 truncate" dir="auto" :title="c.name">{{ c.name }}</span>
          <span class="shrink-0 text-[12.5px] text-soft">{{ c.detail }}</span>
          <button
            type="button"
            class="h-6 w-6 shrink-0 rounded-full text-soft hover:bg-sea-wash hover:text-ink"
            :aria-label="t('scheduling.takeNameOut', { name: c.name })"
            @click="takeOut(c.key)"
          >
            <span aria-hidden="true">✕</span>
          </button>
        </li>
      </ul>
    </div>
  </div>

  <table v-if="rows.length" class="grid-lines stack mt-2">
    <thead>
      <tr>
        <th scope="col">{{ t('scheduling.who') }}</th>
        <th scope="col">{{ t('scheduling.standing') }}</th>
        <th scope="col">{{ t('scheduling.invited') }}</th>
        <th scope="col">{{ t('scheduling.coHost') }}</th>
        <th scope="col">{{ t('scheduling.presenter') }}</th>
        <th scope="col">
          <span class="hidden-label">{{ t('scheduling.remove') }}</span>
        </th>
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
          {{ term(about(email)?.standing ?? '') }}
        </td>
        <td>
          <select
            class="field -my-1"
            :aria-label="t('scheduling.howEmailIsInvited', { email })"
            :value="need(email)"
            @change="setNeed(email, ($event.target as HTMLSelectElement).value)"
          >
            <option value="required">{{ t('scheduling.required') }}</option>
            <option value="optional">{{ t('scheduling.optional') }}</option>
            <option value="">{{ t('scheduling.notByName') }}</option>
          </select>
          <span v-if="invitee(email)" class="mt-3 flex flex-wrap items-center gap-x-1 gap-y-3">
            <select
              class="field -my-1"
              :aria-label="t('scheduling.taskOfEmail', { email })"
              :value="invitee(email)?.task ?? ''"
              @change="name(email, ($event.target as HTMLSelectElement).value as Task | '')"
            >
              <option value="">{{ t('scheduling.none') }}</option>
              <option value="contributor">{{ t('scheduling.contributor') }}</option>
              <option value="captioner">{{ t('scheduling.captioner') }}</option>
              <option value="interpreter">{{ t('scheduling.interpreter') }}</option>
            </select>
            <select
              v-if="invitee(email)?.task && invitee(email)?.task !== 'contributor'"
              class="field -my-1 w-28"
              :aria-label="t('scheduling.languageOfEmail', { email })"
              :value="invitee(email)?.language ?? ''"
              @change="
                name(email, invitee(email)?.task ?? '', ($event.target as HTMLSelectElement).value)
              "
            >
              <option value="">{{ t('scheduling.language') }}</option>
              <option v-for="l in languages" :key="l.tag" :value="l.tag">{{ l.name }}</option>
            </select>
          </span>
        </td>
        <td>
          <input
            type="checkbox"
            :aria-label="t('scheduling.emailIsACoHost', { email })"
            :checked="has(form.coHosts, email)"
            @change="toggle('coHosts', email)"
          />
        </td>
        <td>
          <input
            type="checkbox"
            :aria-label="t('scheduling.emailIsAPresenter', { email })"
            :checked="has(form.presenters, email)"
            @change="toggle('presenters', email)"
          />
        </td>
        <td class="text-right">
          <button type="button" class="link" @click="remove(email)">
            {{ t('scheduling.takeOut') }}<span class="hidden-label">{{ ` ${email}` }}</span>
          </button>
        </td>
      </tr>
    </tbody>
  </table>

  <p class="mt-3 text-soft">{{ t('scheduling.invitedReachedInAll', { invited }) }}</p>
</template>
