import { term } from '@/shell/terms'
import { t } from '@/wording'
import type {
  FloorAlert,
  InSession,
  FloorOrder,
  PersonLine,
  SessionLine,
  SessionPage,
  ToDo,
} from '@/api/schema'

/** What a page asks to have done, before it knows whether it was. */
export interface Asked extends Omit<ToDo, 'control' | 'value' | 'reason' | 'whom' | 'uninvited'> {
  whom?: 'invited' | 'everybody'
  uninvited?: number
  control?: string
  value?: string
  /** Why a warden allows it beyond the rule, for this session. */
  reason?: string
}

/** Alerts that one thing has brought about, and one act ends. */
export interface Cause {
  cause: string
  first: FloorAlert
  alerts: FloorAlert[]
}

/** What stands, cause by cause; of each the gravest first. */
export function byCause(alerts: FloorAlert[]): Cause[] {
  const causes = new Map<string, Cause>()
  for (const alert of alerts) {
    const known = causes.get(alert.cause)
    if (!known) causes.set(alert.cause, { cause: alert.cause, first: alert, alerts: [alert] })
    else {
      known.alerts.push(alert)
      if (alert.severity > known.first.severity) known.first = alert
    }
  }
  return [...causes.values()]
}

/** Those at the door whom nobody has invited. */
export const strangers = (door: PersonLine[]) => door.filter((p) => !p.expected)

/** What acts settle; of two about the same, the later stands. */
const THINGS: Record<string, string> = {
  lock: 'lock',
  unlock: 'lock',
  role: 'role',
  'let-in': 'place',
  'let-in-all': 'place',
  'turn-away': 'place',
  remove: 'place',
  'remove-and-bar': 'place',
}

/** Whether two orders are about one thing, or about one person. */
export function isOfOneThing(a: Asked, b: Asked): boolean {
  const thing = (of: Asked) => THINGS[of.act] ?? `${of.act} ${of.control ?? ''}`
  if (thing(a) !== thing(b)) return false
  return !a.people.length || !b.people.length || a.people.some((who) => b.people.includes(who))
}

/** An order that has yet to be settled. */
export interface Pending {
  asked: Asked
  /** Told to the service, which does not answer. */
  waits: boolean
}

type Places = Pick<SessionPage, 'door' | 'inside' | 'out'>

function moved(
  lists: Places,
  from: keyof Places,
  to: keyof Places,
  who: string[] | null,
  as: object,
) {
  const goes = (p: PersonLine) => who === null || who.includes(p.who)
  const going = lists[from].filter(goes).map((p) => ({ ...p, ...as }))
  return {
    ...lists,
    [from]: lists[from].filter((p) => !goes(p)),
    [to]: [...going, ...lists[to]],
  }
}

/**
 * The page as it will be once an order is done: what somebody asks for shows at once. Taken back
 * by not applying it.
 */
export function withOrder(page: SessionPage, asked: Asked): SessionPage {
  const line: SessionLine = { ...page.line }
  const all = asked.people
  const each = (change: (p: PersonLine) => PersonLine, only: (p: PersonLine) => boolean) => ({
    ...page,
    inside: page.inside.map((p) => (only(p) ? change(p) : p)),
  })
  switch (asked.act) {
    case 'let-in':
    case 'let-in-all': {
      const invited = page.door.filter((p) => p.expected).map((p) => p.who)
      const who = asked.act === 'let-in' ? all : asked.whom === 'invited' ? invited : null
      const count = who ? page.door.filter((p) => who.includes(p.who)).length : line.door
      line.door -= count
      line.inside += count
      return { ...page, ...moved(page, 'door', 'inside', who, { role: 'attendee' }), line }
    }
    case 'turn-away': {
      line.door -= page.door.filter((p) => all.includes(p.who)).length
      return { ...page, ...moved(page, 'door', 'out', all, { whyOut: 'turned-away' }), line }
    }
    case 'remove':
    case 'remove-and-bar': {
      line.inside -= page.inside.filter((p) => all.includes(p.who)).length
      const as = { whyOut: 'removed', role: null, barred: asked.act === 'remove-and-bar' }
      return { ...page, ...moved(page, 'inside', 'out', all, as), line }
    }
    case 'lock':
    case 'unlock':
      return { ...page, line: { ...line, locked: asked.act === 'lock' } }
    case 'set': {
      const controls = { ...page.controls, [asked.control ?? '']: asked.value ?? '' }
      const waitingRoom = asked.control === 'waiting-room' ? asked.value === 'on' : line.waitingRoom
      return { ...page, controls, line: { ...line, waitingRoom } }
    }
    case 'role':
      return each(
        (p) => ({ ...p, role: asked.value ?? p.role }),
        (p) => all.includes(p.who),
      )
    case 'silence':
    case 'silence-all':
      return each(
        (p) => ({ ...p, silenced: true }),
        (p) => (asked.act === 'silence' ? all.includes(p.who) : p.role !== 'host'),
      )
    case 'stop-share':
      return each(
        (p) => ({ ...p, sharing: false }),
        () => true,
      )
    case 'stop-recording':
      return each(
        (p) => ({ ...p, recording: false }),
        () => true,
      )
    default:
      return page
  }
}

/** How long somebody has been where they are, by the session's clock. */
export function howLong(since: string, now: number): string {
  const seconds = Math.max(0, Math.round((now - new Date(since).getTime()) / 1000))
  const minutes = Math.floor(seconds / 60)
  if (minutes < 60) return `${minutes}:${String(seconds % 60).padStart(2, '0')}`
  return t('floor.floorHMinutesMin', { floor: Math.floor(minutes / 60), minutes: minutes % 60 })
}

/** The session's clock against its start: minutes before or after. */
export function fromStart(line: SessionLine, now: number): string {
  const minutes = Math.floor((now - new Date(line.starts).getTime()) / 60_000)
  const over = Math.floor((now - new Date(line.ends).getTime()) / 60_000)
  if (minutes < 0) return t('floor.xMinToTheStart', { x: -minutes })
  if (over >= 0) return t('floor.overMinPastTheEnd', { over })
  return t('floor.minutesMinIn', { minutes })
}

/** How they came, in a word or two. */
export function came(p: Pick<PersonLine, 'tie' | 'standing' | 'route'>): string {
  if (p.tie === 'host' || p.tie === 'co-host') return term(p.tie)
  const tie: Record<string, string> = {
    named: t('floor.invited'),
    listed: t('floor.byAList'),
    forwarded: t('floor.forwarded'),
    none: t('floor.notInvited'),
  }
  return `${term(p.standing)}, ${tie[p.tie] ?? p.tie}${p.route === 'phone' ? t('floor.byPhone') : ''}`
}

const stops: Record<string, string> = {
  locked: t('floor.meetingLocked'),
  removed: t('floor.removedBefore'),
  late: t('floor.tooLate'),
  region: t('floor.region'),
  route: t('floor.noPhones'),
  'sign-in': t('floor.notSignedIn'),
  registration: t('floor.notApproved'),
  passcode: t('floor.noPasscode'),
  'host-absent': t('floor.noHostYet'),
  'waiting-room': t('floor.waitingRoom'),
}

/** What holds or stopped somebody. */
export const stopWords = (step?: string | null) => (step ? (stops[step] ?? step) : '')

/** Why somebody is out. */
export function outWords(p: PersonLine): string {
  const why: Record<string, string> = {
    left: t('floor.left2'),
    'turned-away': t('floor.turnedAway'),
    removed: p.barred ? t('floor.removedBarred') : 'removed',
    ended: t('floor.atTheEnd'),
  }
  if (p.whyOut === 'refused') return t('floor.refusedStep', { step: stopWords(p.step) })
  return why[p.whyOut ?? ''] ?? ''
}

/** How they got in. */
export function wayWords(way?: string | null, by?: string | null): string {
  if (!way) return ''
  if (way === 'by-themselves') return t('floor.straightIn')
  return t('floor.letInBySplit', {
    split:
      by?.split('@')[0] ??
      (way === 'let-in-by-host' ? t('floor.aHost') : t('floor.somebodyInside')),
  })
}

const acts: Record<string, string> = {
  'let-in': t('floor.letIn'),
  'let-in-all': t('floor.letAllIn'),
  'turn-away': t('floor.turnAway'),
  lock: t('floor.lock'),
  unlock: t('floor.unlock'),
  set: t('floor.setBack'),
  role: t('floor.changeTheRole'),
  silence: t('floor.silence'),
  'silence-all': t('floor.silenceAll'),
  'stop-share': t('floor.stopTheShare'),
  'stop-recording': t('floor.stopTheRecording'),
  remove: t('floor.remove'),
  'remove-and-bar': t('floor.removeAndBar'),
  end: t('floor.endForAll'),
}

/** An act as its button reads. */
export const actLabel = (act: string) => acts[act] ?? act

/** What became of an order that did not go through, or nothing. */
export function troubleOf(order: FloorOrder): string {
  if (order.state === 'refused')
    return t('floor.actRefusedReason', { act: actLabel(order.act), reason: order.reason })
  if (order.state === 'given-up')
    return t('floor.actGivenUpReason', { act: actLabel(order.act), reason: order.reason })
  return ''
}

/** Which of some meetings are in session, and what becomes of a change there; empty for none. */
export function inSessionWords(all: InSession[], asked: number): string {
  if (!all.length) return ''
  const stays = all.filter((s) => !s.follows)
  const services = [...new Set(stays.map((s) => s.service))].join(', ')
  if (asked === 1)
    return stays.length
      ? t('floor.itIsInSessionServicesCannotChange', { services })
      : t('floor.itIsInSessionWhichFollowsAt')
  const is = all.length === 1 ? t('floor.is') : t('floor.are')
  const rest = stays.length
    ? t('floor.staysNotSinceServicesCannot', { stays: stays.length, services })
    : ''
  return t('floor.allOfTheseIsInSessionAll2', {
    all: all.length,
    is,
    all2: all.length - stays.length,
    rest,
  })
}

/**
 * What somebody made co-host during a session does not get, said when they are made one.
 *
 * @param sharing the session's `record-sharing`
 */
export function coHostNote(names: string[], sharing: string): string {
  if (!names.length) return ''
  const who = names.join(', ')
  const get = names.length === 1 ? t('floor.gets') : t('floor.get')
  return sharing === 'host-alone'
    ? t('floor.whoGetNoRecordingChatLogOr', { who, get })
    : t('floor.whoGetNoRecordingChatLogOr2', { who, get })
}
