import { locale, t } from '@/wording'
import { label } from '@/api/catalogue'
import type { ControlView } from '@/api/schema'
import { recurrenceWords } from './recurrence'

/** Parts of a meeting's document, as people read them. */
const parts: Record<string, string> = {
  title: t('register.partTitle'),
  description: t('register.agenda'),
  kind: t('register.partKind'),
  host: t('register.partHost'),
  coHosts: t('register.coHosts'),
  presenters: t('register.presenters'),
  invitees: t('register.partInvitees'),
  lists: t('register.partLists'),
  space: t('register.partSpace'),
  room: t('register.partRoom'),
  start: t('register.partStart'),
  zone: t('register.partZone'),
  minutes: t('register.partMinutes'),
  wholeDay: t('register.wholeDay'),
  recurrence: t('register.partRecurrence'),
  exDates: t('register.droppedDates'),
  rDates: t('register.addedDates'),
  occurrences: t('register.changedOccurrences'),
  number: t('register.number'),
  reminder: t('register.partReminder'),
  groups: t('register.breakoutGroups'),
}
const tasks: Record<string, string> = {
  optional: t('register.isOptional'),
  contributor: t('register.isContributor'),
  captioner: t('register.isCaptioner'),
  interpreter: t('register.isInterpreter'),
}

/** What a change is about: a part of the meeting, or a control. */
export const partName = (part: string, controls: Map<string, ControlView>) =>
  controls.get(part)?.title ?? parts[part] ?? part

const LOCAL = /\d{4}-\d\d-\d\dT\d\d:\d\d(?::\d\d)?/g
/** Times on the meeting's own clock, whatever the clock of whoever reads it is. */
const times = (text: string) =>
  text.replace(LOCAL, (local) =>
    new Date(`${local.slice(0, 16)}Z`).toLocaleString(locale, {
      day: 'numeric',
      month: 'short',
      year: 'numeric',
      hour: '2-digit',
      minute: '2-digit',
      timeZone: 'UTC',
    }),
  )

const value = (control: ControlView, text: string): unknown =>
  control.scale === 'sets' ? text.split(', ') : /^\d+$/.test(text) ? Number(text) : text

/**
 * What a part was or is.
 *
 * @param text as the server writes it; nothing where there was none
 * @param kindName the name of a kind of meeting
 */
export function partWords(
  part: string,
  text: string | null | undefined,
  controls: Map<string, ControlView>,
  kindName: (id: string) => string,
): string {
  if (text === null || text === undefined) return t('register.none2')
  const control = controls.get(part)
  if (control) return cut(label(control, value(control, text)))
  switch (part) {
    case 'kind':
      return kindName(text) || text
    case 'wholeDay':
      return text === 'true' ? t('register.yes') : t('register.no')
    case 'recurrence':
      return recurrenceWords(text)
    case 'invitees':
      return cut(
        text.replace(
          / \((optional|contributor|captioner|interpreter)(, [\w-]+)?\)/g,
          (_, task: string, language = '') => ` (${tasks[task]}${language})`,
        ),
      )
    case 'groups':
      return cut(
        text.replace(
          / \((?:list ([^()]*?), )?(\d+) by name\)/g,
          (_, list: string | undefined, members: string) =>
            ` (${list ? `${t('register.listIncluded', { list })}, ` : ''}${t('register.membersByName', { members })})`,
        ),
      )
    case 'occurrences':
      return cut(times(text).replace(/[a-z]+(?:-[a-z]+)*/g, (id) => controls.get(id)?.title ?? id))
    case 'start':
    case 'exDates':
    case 'rDates':
      return cut(times(text))
    default:
      return cut(text)
  }
}

const MAX = 140
const cut = (text: string) => (text.length > MAX ? `${text.slice(0, MAX)}…` : text)
