import type { LedgerEntry } from '@/api/schema'

/** Acts in words; what is not here is read from its name. */
const acts: Record<string, string> = {
  'session.opened': 'signed in',
  'session.closed': 'signed out',
  'session.refused': 'tried to sign in, refused',
  'floor.session-practised': 'practised a session',
  'floor.ordered': 'acted in a session',
  'incident.written': 'wrote an incident',
  'draft.begun-from-session': 'began a draft after a session',
  'alert.handled': 'handled an alert',
  'token.issued': 'issued an access token',
  'meeting.scheduled': 'scheduled a meeting',
  'meeting.changed': 'changed a meeting',
  'meeting.controls-changed': 'changed controls',
  'meeting.cancelled': 'cancelled a meeting',
  'meeting.restored': 'put back a version',
  'meetings.changed': 'changed several meetings',
  'meetings.handed-over': 'handed meetings over',
  'waiver.asked-for': 'asked for a waiver',
  'file.taken-in': 'brought in a file',
  'bundle.taken-in': 'brought in a bundle',
  'import.taken-back': 'took back an import',
  'draft.begun': 'began a draft',
  'draft.changed': 'changed a draft',
  'edition.published': 'published or proposed',
  'edition.consented-to': 'consented to an edition',
  'edition.withdrawn': 'withdrew an edition',
  'audit.begun': 'began an audit',
  'waiver.granted': 'granted a waiver',
  'waiver.ended': 'ended a waiver',
  'waiver.changed': 'a waiver lapsed or changed',
  'remedy.ordered': 'ordered a remedy',
  'remedy.undo-ordered': 'ordered an undo',
  'hosts.asked': 'asked hosts',
  'request.answered': 'answered a request',
  'directory.made': 'made somebody or a list, as a directory',
  'directory.changed': 'changed somebody or a list, as a directory',
  'directory.replaced': 'replaced somebody or a list, as a directory',
  'directory.deleted': 'took somebody or a list away, as a directory',
  'directory.changed-many': 'changed many at once, as a directory',
  'collector.set': 'set where the ledger is sent',
  'registrations.decided': 'answered who asked to take part',
  'session.held': 'held the records of a session',
  'session.released': 'released the records of a session',
}

/** What was done, as people say it. */
export function actWords(act: string): string {
  const known = acts[act]
  if (known) return known
  const [object = '', done = ''] = act.split('.')
  return `${done.replace(/-/g, ' ')} ${object.replace(/-/g, ' ')}`.trim()
}

/** One value that changed. */
export interface Line {
  name: string
  before: string
  after: string
}

const text = (value: unknown): string =>
  value === null || value === undefined
    ? ''
    : typeof value === 'object'
      ? JSON.stringify(value)
      : String(value)

/** Before and after, a line a value; what is nested is named with its path. */
export function linesOf(before: unknown, after: unknown, path = ''): Line[] {
  const isMap = (v: unknown) => typeof v === 'object' && v !== null && !Array.isArray(v)
  if (!isMap(before) && !isMap(after)) {
    const line = { name: path || 'all', before: text(before), after: text(after) }
    return line.before === line.after ? [] : [line]
  }
  const was = (isMap(before) ? before : {}) as Record<string, unknown>
  const is = (isMap(after) ? after : {}) as Record<string, unknown>
  return [...new Set([...Object.keys(was), ...Object.keys(is)])].flatMap((key) =>
    linesOf(was[key], is[key], path ? `${path} ${key}` : key),
  )
}

/** Something an entry changed. */
export interface ChangedThing {
  object: string
  id: string
  title: string
  lines: Line[]
}

/** What an entry changed, thing by thing. */
export function changedBy(entry: LedgerEntry): ChangedThing[] {
  const details = entry.details as unknown as {
    changed?: { object: string; id: string; title: string; before?: unknown; after?: unknown }[]
  }
  return (details.changed ?? []).map((c) => ({
    object: c.object,
    id: c.id,
    title: c.title,
    lines: linesOf(c.before, c.after),
  }))
}

/** What was asked, a line a value. */
export function askedIn(entry: LedgerEntry): Line[] {
  const details = entry.details as unknown as { asked?: unknown }
  return linesOf(undefined, details.asked).filter((line) => line.after !== '')
}
