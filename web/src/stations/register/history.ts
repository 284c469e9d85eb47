import { locale, t } from '@/wording'
import { label } from '@/api/catalogue'
import type { ControlView } from '@/api/schema'
import { fieldWord } from '@/shell/fields'
import { recurrenceWords } from './recurrence'

/** Parts of a meeting that say more beside a number than as a field. */
const parts: Record<string, string> = {
  minutes: t('register.partMinutes'),
  reminder: t('register.partReminder'),
}
const tasks: Record<string, string> = {
  optional: t('register.isOptional'),
  contributor: t('register.isContributor'),
  captioner: t('register.isCaptioner'),
  interpreter: t('register.isInterpreter'),
}

/** What a change is about: a part of the meeting, or a control. */
export const partName = (part: string, controls: Map<string, ControlView>) =>
  controls.get(part)?.title ?? parts[part] ?? fieldWord(part) ?? part

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

/** A recurrence rule with its end (RFC 5545 section 3.3.10). */
function ruleWords(rule: string): string {
  const words = recurrenceWords(rule)
  const [, count] = /COUNT=(\d+)/.exec(rule) ?? []
  const [, year, month, day] = /UNTIL=(\d{4})(\d\d)(\d\d)/.exec(rule) ?? []
  if (words === rule || !(count ?? year)) return words
  return count
    ? t('register.ruleTimes', { words, times: count })
    : t('register.ruleUntilDay', {
        words,
        day: new Date(`${year}-${month}-${day}T00:00Z`).toLocaleDateString(locale, {
          day: 'numeric',
          month: 'short',
          year: 'numeric',
          timeZone: 'UTC',
        }),
      })
}

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
      return ruleWords(text)
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
