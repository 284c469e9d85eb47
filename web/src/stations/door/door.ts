import type { Plain } from '@/api/catalogue'
import type { ControlView } from '@/api/schema'

/** What the door answered to one joiner. */
export interface Answer {
  outcome: string
  step?: string | null
  role?: string | null
  rights: string[]
  keepers?: string | null
}

/** The first and last minute a rehearsal reaches, from the start. */
export const earliest = -30
export const latest = 60

/** A moment as people say it. */
export function momentWords(minutes: number): string {
  if (minutes === 0) return 'at the start'
  const n = Math.abs(minutes)
  const count = n === 1 ? '1 minute' : `${n} minutes`
  return minutes < 0 ? `${count} before the start` : `${count} after the start`
}

/** Pencilled values as the address carries them: `control:value`, apart by commas. */
export function pencilText(pencil: Record<string, Plain>): string | undefined {
  const parts = Object.entries(pencil).map(
    ([id, value]) => `${id}:${Array.isArray(value) ? value.join('+') : value}`,
  )
  return parts.length ? parts.join(',') : undefined
}

/** Reads what {@link pencilText} wrote; what names no control is left out. */
export function pencilOf(text: string, controls: Map<string, ControlView>): Record<string, Plain> {
  const pencil: Record<string, Plain> = {}
  for (const part of text.split(',')) {
    const [id, value] = [part.slice(0, part.indexOf(':')), part.slice(part.indexOf(':') + 1)]
    const control = controls.get(id)
    if (!control || !part.includes(':')) continue
    if (control.scale === 'sets') pencil[id] = value.split('+').filter(Boolean)
    else pencil[id] = /^\d+$/.test(value) ? Number(value) : value
  }
  return pencil
}

const roles: Record<string, string> = {
  host: 'host',
  'co-host': 'co-host',
  presenter: 'presenter',
  attendee: 'attendee',
  onlooker: 'onlooker',
}
const keeperWords: Record<string, string> = {
  hosts: 'hosts let in',
  presenters: 'presenters let in',
  'anyone-inside': 'anyone inside lets in',
}

/** The answer in a few words, for a table. */
export function answerWords(answer: Answer): string {
  if (answer.outcome === 'in') return `in as ${roles[answer.role ?? ''] ?? 'attendee'}`
  if (answer.outcome === 'refused') return 'refused'
  if (answer.step === 'host-absent') return 'held: no host yet'
  return `held, ${keeperWords[answer.keepers ?? ''] ?? 'hosts let in'}`
}

/** What somebody reads who stands there. */
export function sees(answer: Answer): string {
  if (answer.outcome === 'in') return `You are in, as ${roles[answer.role ?? ''] ?? 'attendee'}.`
  switch (answer.step) {
    case 'locked':
      return 'This meeting is locked. Nobody else can come in.'
    case 'removed':
      return 'You were removed from this meeting and cannot come back.'
    case 'late':
      return 'The meeting closed its door after the start.'
    case 'region':
      return 'You cannot join from the country you are in.'
    case 'route':
      return 'This meeting takes no callers.'
    case 'sign-in':
      return 'Sign in with an account that this meeting knows.'
    case 'registration':
      return 'Only people approved beforehand can come in.'
    case 'passcode':
      return 'Type the passcode. Without it you are not let in.'
    case 'host-absent':
      return 'The meeting has not begun: no host is here yet.'
    default:
      return 'You are waiting. Somebody inside can let you in.'
  }
}

/** What could be done instead of changing a control. */
export const actWords: Record<string, string> = {
  unlock: 'a host unlocks the meeting',
  'host-in': 'a host comes in',
  invite: 'they are invited by name',
  'give-passcode': 'they are given the passcode',
  'by-app': 'they come by the app',
  lock: 'a host locks the meeting',
}

/** Somebody in the table, and how they stand there. */
interface Standing {
  invited: boolean
  now: Answer
  then: Answer
}

/** What a host sees of all who are sent to the door: who waits, and who is in uninvited. */
export function roomOf<T extends Standing>(comers: T[]): { waiting: T[]; strangers: T[] } {
  return {
    waiting: comers.filter((c) => c.then.outcome === 'held'),
    strangers: comers.filter((c) => c.then.outcome === 'in' && !c.invited),
  }
}
