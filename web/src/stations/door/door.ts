import { t } from '@/wording'
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
  if (minutes === 0) return t('door.atTheStart')
  const n = Math.abs(minutes)
  const count = n === 1 ? t('door.n1Minute') : t('door.nMinutes', { n })
  return minutes < 0
    ? t('door.countBeforeTheStart', { count })
    : t('door.countAfterTheStart', { count })
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
  host: t('door.host'),
  'co-host': t('door.coHost'),
  presenter: t('door.presenter'),
  attendee: t('door.attendee'),
  onlooker: t('door.onlooker'),
}
const keeperWords: Record<string, string> = {
  hosts: t('door.hostsLetIn'),
  presenters: t('door.presentersLetIn'),
  'anyone-inside': t('door.anyoneInsideLetsIn'),
}

/** The answer in a few words, for a table. */
export function answerWords(answer: Answer): string {
  if (answer.outcome === 'in')
    return t('door.inAsRoles', { roles: roles[answer.role ?? ''] ?? t('door.attendee') })
  if (answer.outcome === 'refused') return t('door.refused')
  if (answer.step === 'host-absent') return t('door.heldNoHostYet')
  return t('door.heldKeeperWords', {
    keeperWords: keeperWords[answer.keepers ?? ''] ?? t('door.hostsLetIn'),
  })
}

/** What somebody reads who stands there. */
export function sees(answer: Answer): string {
  if (answer.outcome === 'in')
    return t('door.youAreInAsRoles', { roles: roles[answer.role ?? ''] ?? t('door.attendee') })
  switch (answer.step) {
    case 'locked':
      return t('door.thisMeetingIsLockedNobodyElseCan')
    case 'removed':
      return t('door.youWereRemovedFromThisMeetingAnd')
    case 'late':
      return t('door.theMeetingClosedItsDoorAfterThe')
    case 'region':
      return t('door.youCannotJoinFromTheCountryYou')
    case 'route':
      return t('door.thisMeetingTakesNoCallers')
    case 'sign-in':
      return t('door.signInWithAnAccountThatThis')
    case 'registration':
      return t('door.onlyPeopleApprovedBeforehandCanCome')
    case 'passcode':
      return t('door.typeThePasscodeWithoutItYouAre')
    case 'host-absent':
      return t('door.theMeetingHasNotBegunNoHost')
    default:
      return t('door.youAreWaitingSomebodyInsideCanLet')
  }
}

/** What could be done instead of changing a control. */
export const actWords: Record<string, string> = {
  unlock: t('door.aHostUnlocksTheMeeting'),
  'host-in': t('door.aHostComesIn'),
  invite: t('door.theyAreInvitedByName'),
  'give-passcode': t('door.theyAreGivenThePasscode'),
  'by-app': t('door.theyComeByTheApp'),
  lock: t('door.aHostLocksTheMeeting'),
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
