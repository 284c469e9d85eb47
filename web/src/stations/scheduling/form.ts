import { locale } from '@/wording'
import type { Plain } from '@/api/catalogue'
import { once, type Pattern, parseRule, buildRule } from './pattern'
import { browserZone, toLocal } from './zones'

/** Somebody invited. */
export interface Invited {
  email: string
  need: 'required' | 'optional'
  task?: Task
  /** BCP 47 tag of what a captioner or interpreter writes or speaks. */
  language?: string
}

/** What somebody is named for besides being there. */
export type Task = 'contributor' | 'captioner' | 'interpreter'

/** Languages offered, by their names in English. */
export const languages =
  'ar bg bn cs da de el en es et fa fi fr ga gd hi hr hu is it ja ko lt lv mt nl no pl pt ro ru sk sl sr sv sw ta tr uk ur vi cy zh'
    .split(' ')
    .map((tag) => ({
      tag,
      name: new Intl.DisplayNames(locale, { type: 'language' }).of(tag) ?? tag,
    }))
    .sort((a, b) => a.name.localeCompare(b.name))

/** What is different about one occurrence; `at` is its original local start. */
export interface Occurrence {
  at: string
  start?: string
  minutes?: number
  controls?: Record<string, Plain>
}

/** A breakout group set up beforehand. */
export interface Group {
  name: string
  members: string[]
  /** A list whose members are in it too. */
  list?: string
}

/** The scheduling page's contents. Controls hold only what is known or was chosen. */
export interface MeetingForm {
  title: string
  description: string
  kind: string | null
  host: string
  coHosts: string[]
  presenters: string[]
  invitees: Invited[]
  lists: string[]
  space: string | null
  room: string | null
  start: string
  zone: string
  minutes: number
  wholeDay: boolean
  pattern: Pattern
  exDates: string[]
  rDates: string[]
  occurrences: Occurrence[]
  number: string | null
  /** Null where the stored one stays, or where one is to be made. */
  passcode: string | null
  /** Digits for telephones; null where the stored ones stay, or where some are to be made. */
  phonePasscode: string | null
  reminder: number | null
  groups: Group[]
  controls: Record<string, Plain>
  /** Parts that are passed through untouched. */
  uid?: string
  sequence?: number
  foreign?: string[]
}

/** A new meeting: the next full hour, for an hour. */
export function emptyForm(host: string, now = new Date(), zone = browserZone): MeetingForm {
  const hour = new Date(Math.ceil((now.getTime() + 1) / 36e5) * 36e5)
  const start = toLocal(hour, zone)
  return {
    title: '',
    description: '',
    kind: null,
    host,
    coHosts: [],
    presenters: [],
    invitees: [],
    lists: [],
    space: null,
    room: null,
    start,
    zone,
    minutes: 60,
    wholeDay: false,
    pattern: once(start),
    exDates: [],
    rDates: [],
    occurrences: [],
    number: null,
    passcode: null,
    phonePasscode: null,
    reminder: null,
    groups: [],
    controls: {},
  }
}

type Document = Record<string, unknown>

/** A stored meeting's document as a form. */
export function fromDocument(d: Document): MeetingForm {
  const start = String(d.start).slice(0, 16)
  const zone = String(d.zone)
  const form: MeetingForm = {
    ...emptyForm(String(d.host ?? '')),
    title: String(d.title ?? ''),
    description: String(d.description ?? ''),
    kind: (d.kind as string | undefined) ?? null,
    coHosts: (d.coHosts as string[]) ?? [],
    presenters: (d.presenters as string[]) ?? [],
    invitees: (d.invitees as Invited[]) ?? [],
    lists: (d.lists as string[]) ?? [],
    space: (d.space as string | null) ?? null,
    room: (d.room as string | undefined) ?? null,
    start,
    zone,
    minutes: Number(d.minutes ?? 60),
    wholeDay: d.wholeDay === true,
    pattern: parseRule(d.recurrence as string | null, start, zone),
    exDates: (d.exDates as string[]) ?? [],
    rDates: (d.rDates as string[]) ?? [],
    occurrences: (d.occurrences as Occurrence[]) ?? [],
    number: (d.number as string | undefined) ?? null,
    reminder: (d.reminder as number | undefined) ?? null,
    groups: (d.groups as Group[]) ?? [],
    controls: (d.controls as Record<string, Plain>) ?? {},
  }
  if (d.uid) form.uid = String(d.uid)
  if (d.sequence) form.sequence = Number(d.sequence)
  if (d.foreign) form.foreign = d.foreign as string[]
  return form
}

/** The same meeting anew: no number, passcode or calendar name, and none of its exceptions. */
export function asCopy(form: MeetingForm): MeetingForm {
  const copy = {
    ...form,
    exDates: [],
    rDates: [],
    occurrences: [],
    number: null,
    passcode: null,
    phonePasscode: null,
  }
  delete copy.uid
  delete copy.sequence
  delete copy.foreign
  return copy
}

/** The form as the server reads it. */
export function toDocument(form: MeetingForm): Document {
  const document: Document = {
    title: form.title.trim(),
    description: form.description,
    kind: form.kind,
    host: form.host,
    coHosts: form.coHosts,
    presenters: form.presenters,
    invitees: form.invitees,
    lists: form.lists,
    space: form.space,
    room: form.room,
    start: form.wholeDay ? `${form.start.slice(0, 10)}T00:00` : form.start,
    zone: form.zone,
    minutes: form.minutes,
    wholeDay: form.wholeDay,
    recurrence: buildRule(form.pattern, form.start, form.zone),
    exDates: form.exDates,
    rDates: form.rDates,
    occurrences: form.occurrences,
    number: form.number,
    reminder: form.reminder,
    groups: form.groups,
    controls: form.controls,
  }
  if (form.passcode) document.passcode = form.passcode
  if (form.phonePasscode) document.phonePasscode = form.phonePasscode
  if (form.uid) document.uid = form.uid
  if (form.sequence) document.sequence = form.sequence
  if (form.foreign) document.foreign = form.foreign
  return document
}

/** Moves or changes one occurrence; what is as its series has it is no exception. */
export function changeOccurrence(
  form: MeetingForm,
  at: string,
  change: { start?: string; minutes?: number },
): Occurrence[] {
  const known = form.occurrences.find((o) => o.at === at) ?? { at }
  const next: Occurrence = { ...known, ...change }
  if (next.start === at) delete next.start
  if (next.minutes === form.minutes) delete next.minutes
  const rest = form.occurrences.filter((o) => o.at !== at)
  const same = next.start === undefined && next.minutes === undefined && !next.controls
  return same ? rest : [...rest, next].sort((a, b) => a.at.localeCompare(b.at))
}

/** Gives one date a control of its own, or with null takes it away. */
export function withOwnControl(
  form: MeetingForm,
  at: string,
  control: string,
  value: Plain | null,
): Occurrence[] {
  const known = form.occurrences.find((o) => o.at === at) ?? { at }
  const kept = Object.entries(known.controls ?? {}).filter(([id]) => id !== control)
  const controls = Object.fromEntries(value === null ? kept : [...kept, [control, value] as const])
  const next: Occurrence = { ...known, controls }
  if (!Object.keys(controls).length) delete next.controls
  const rest = form.occurrences.filter((o) => o.at !== at)
  const same = next.start === undefined && next.minutes === undefined && !next.controls
  return same ? rest : [...rest, next].sort((a, b) => a.at.localeCompare(b.at))
}

/** Moves a start, and with it what depends on it. */
export function withStart(form: MeetingForm, start: string): MeetingForm {
  const day = once(start)
  const pattern = {
    ...form.pattern,
    days:
      form.pattern.every === 'week' && form.pattern.days.length === 1
        ? day.days
        : form.pattern.days,
    until: form.pattern.until < start.slice(0, 10) ? day.until : form.pattern.until,
  }
  return { ...form, start, pattern }
}
