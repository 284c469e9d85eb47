import type { LedgerEntry } from '@/api/schema'
import { counted } from '@/shell/counted'
import { t } from '@/wording'
import { fieldWords, none, valueWords, type Meaning } from './fields'

/** Acts in words; what is not here is read from its name. */
const acts: Record<string, string> = {
  'session.opened': t('ledger.signedIn'),
  'session.closed': t('ledger.signedOut'),
  'session.refused': t('ledger.triedToSignInRefused'),
  'floor.session-practised': t('ledger.practisedASession'),
  'floor.ordered': t('ledger.actedInASession'),
  'incident.written': t('ledger.wroteAnIncident'),
  'draft.begun-from-session': t('ledger.beganADraftAfterASession'),
  'alert.handled': t('ledger.handledAnAlert'),
  'token.issued': t('ledger.issuedAnAccessToken'),
  'meeting.scheduled': t('ledger.scheduledAMeeting'),
  'meeting.changed': t('ledger.changedAMeeting'),
  'meeting.controls-changed': t('ledger.changedControls'),
  'meeting.cancelled': t('ledger.cancelledAMeeting'),
  'meeting.restored': t('ledger.putBackAVersion'),
  'meetings.changed': t('ledger.changedSeveralMeetings'),
  'meetings.handed-over': t('ledger.handedMeetingsOver'),
  'waiver.asked-for': t('ledger.askedForAWaiver'),
  'file.taken-in': t('ledger.broughtInAFile'),
  'bundle.taken-in': t('ledger.broughtInABundle'),
  'import.taken-back': t('ledger.tookBackAnImport'),
  'draft.begun': t('ledger.beganADraft'),
  'draft.changed': t('ledger.changedADraft'),
  'edition.published': t('ledger.publishedOrProposed'),
  'edition.consented-to': t('ledger.consentedToAnEdition'),
  'edition.withdrawn': t('ledger.withdrewAnEdition'),
  'audit.begun': t('ledger.beganAnAudit'),
  'waiver.granted': t('ledger.grantedAWaiver'),
  'waiver.ended': t('ledger.endedAWaiver'),
  'waiver.changed': t('ledger.aWaiverLapsedOrChanged'),
  'remedy.ordered': t('ledger.orderedARemedy'),
  'remedy.undo-ordered': t('ledger.orderedAnUndo'),
  'hosts.asked': t('ledger.askedHosts'),
  'request.answered': t('ledger.answeredARequest'),
  'directory.made': t('ledger.madeSomebodyOrAListAsA'),
  'directory.changed': t('ledger.changedSomebodyOrAListAsA'),
  'directory.replaced': t('ledger.replacedSomebodyOrAListAsA'),
  'directory.deleted': t('ledger.tookSomebodyOrAListAwayAs'),
  'directory.changed-many': t('ledger.changedManyAtOnceAsADirectory'),
  'collector.set': t('ledger.setWhereTheLedgerIsSent'),
  'registrations.decided': t('ledger.answeredWhoAskedToTakePart'),
  'session.held': t('ledger.heldTheRecordsOfASession'),
  'session.released': t('ledger.releasedTheRecordsOfASession'),
  'access.set': t('ledger.actAccessSet'),
  'account.changed': t('ledger.actAccountChanged'),
  'account.factor-taken': t('ledger.actAccountFactorTaken'),
  'account.invited': t('ledger.actAccountInvited'),
  'account.link-made': t('ledger.actAccountLinkMade'),
  'account.sessions-ended': t('ledger.actAccountSessionsEnded'),
  'alerting.set': t('ledger.actAlertingSet'),
  'alerting.tested': t('ledger.actAlertingTested'),
  'alerts.handled': t('ledger.actAlertsHandled'),
  'answer.taken': t('ledger.actAnswerTaken'),
  'asking.set': t('ledger.actAskingSet'),
  'attendance.taken-out': t('ledger.actAttendanceTakenOut'),
  'audit.resumed': t('ledger.actAuditResumed'),
  'audit.scheduled': t('ledger.actAuditScheduled'),
  'audit.stopped': t('ledger.actAuditStopped'),
  'baseline.dropped': t('ledger.actBaselineDropped'),
  'baseline.set': t('ledger.actBaselineSet'),
  'bridge.set': t('ledger.actBridgeSet'),
  'bundle.taken-out': t('ledger.actBundleTakenOut'),
  'calendar.added': t('ledger.actCalendarAdded'),
  'calendar.gone-agreed': t('ledger.actCalendarGoneAgreed'),
  'calendar.read-now': t('ledger.actCalendarReadNow'),
  'calendar.removed': t('ledger.actCalendarRemoved'),
  'calendar.set': t('ledger.actCalendarSet'),
  'calendar.taken-out': t('ledger.actCalendarTakenOut'),
  'consent.set': t('ledger.actConsentSet'),
  'deputy.ended': t('ledger.actDeputyEnded'),
  'deputy.named': t('ledger.actDeputyNamed'),
  'draft.brought-up': t('ledger.actDraftBroughtUp'),
  'draft.discarded': t('ledger.actDraftDiscarded'),
  'draft.renamed': t('ledger.actDraftRenamed'),
  'draft.taken-in': t('ledger.actDraftTakenIn'),
  'edition.declined': t('ledger.actEditionDeclined'),
  'factor.begun': t('ledger.actFactorBegun'),
  'factor.ended': t('ledger.actFactorEnded'),
  'factor.set': t('ledger.actFactorSet'),
  'feed.ended': t('ledger.actFeedEnded'),
  'feed.made': t('ledger.actFeedMade'),
  'floor.lockdown-undone': t('ledger.actFloorLockdownUndone'),
  'floor.locked-down': t('ledger.actFloorLockedDown'),
  'floor.set-back': t('ledger.actFloorSetBack'),
  'floor.started': t('ledger.actFloorStarted'),
  'group.changed': t('ledger.actGroupChanged'),
  'group.removed': t('ledger.actGroupRemoved'),
  'house.changed': t('ledger.actHouseChanged'),
  'keeping.set': t('ledger.actKeepingSet'),
  'keys.dropped': t('ledger.actKeysDropped'),
  'keys.rotated': t('ledger.actKeysRotated'),
  'language.chosen': t('ledger.actLanguageChosen'),
  'ledger.taken-out': t('ledger.actLedgerTakenOut'),
  'meeting.accepted': t('ledger.actMeetingAccepted'),
  'meeting.made-in-service': t('ledger.actMeetingMadeInService'),
  'meeting.set-back': t('ledger.actMeetingSetBack'),
  'message.read': t('ledger.actMessageRead'),
  'messages.read': t('ledger.actMessagesRead'),
  'passcode.read': t('ledger.actPasscodeRead'),
  'password.changed': t('ledger.actPasswordChanged'),
  'password.set-by-link': t('ledger.actPasswordSetByLink'),
  'person.changed': t('ledger.actPersonChanged'),
  'proposal.withdrawn': t('ledger.actProposalWithdrawn'),
  'recovery-codes.made': t('ledger.actRecoveryCodesMade'),
  'remedy.retried': t('ledger.actRemedyRetried'),
  'report.taken-out': t('ledger.actReportTakenOut'),
  'request.accepted': t('ledger.actRequestAccepted'),
  'request.closed': t('ledger.actRequestClosed'),
  'room.changed': t('ledger.actRoomChanged'),
  'schedule.changed': t('ledger.actScheduleChanged'),
  'schedule.removed': t('ledger.actScheduleRemoved'),
  'scheduling.announcing-set': t('ledger.actSchedulingAnnouncingSet'),
  'service.consented': t('ledger.actServiceConsented'),
  'service.defaults-set-back': t('ledger.actServiceDefaultsSetBack'),
  'service.key-given': t('ledger.actServiceKeyGiven'),
  'service.linked': t('ledger.actServiceLinked'),
  'service.proposal-dropped': t('ledger.actServiceProposalDropped'),
  'service.proposed': t('ledger.actServiceProposed'),
  'service.set': t('ledger.actServiceSet'),
  'service.unlinked': t('ledger.actServiceUnlinked'),
  'session.ended': t('ledger.actSessionEnded'),
  'table.taken-out': t('ledger.actTableTakenOut'),
  'token.ended': t('ledger.actTokenEnded'),
  'waiver.answered': t('ledger.actWaiverAnswered'),
  'waiver.seconded': t('ledger.actWaiverSeconded'),
  'waivers.set': t('ledger.actWaiversSet'),
  'waivers.units-set': t('ledger.actWaiversUnitsSet'),
  // what the program does by itself is named by what it changed
  'alert.changed': t('ledger.actAlertChanged'),
  'alerting.changed': t('ledger.actAlertingChanged'),
  'audit.changed': t('ledger.actAuditChanged'),
  'calendar.changed': t('ledger.actCalendarChanged'),
  'deputy.changed': t('ledger.actDeputyChanged'),
  'edition.changed': t('ledger.actEditionChanged'),
  'incident.changed': t('ledger.actIncidentChanged'),
  'lockdown.changed': t('ledger.actLockdownChanged'),
  'service.changed': t('ledger.actServiceChanged'),
  'session.changed': t('ledger.actSessionChanged'),
  'ledger.sealed': t('ledger.actLedgerSealed'),
  'ledger.cut': t('ledger.actLedgerCut'),
  'work.given-up': t('ledger.actWorkGivenUp'),
  'work.tried-again': t('ledger.actWorkTriedAgain'),
}

/** Whether an act, or a sort of thing, has words of its own in each language. */
export const hasWords = (name: string) => name in acts || name in objects

/** What was done, as people say it. */
export function actWords(act: string): string {
  const known = acts[act]
  if (known) return known
  const [object = '', done = ''] = act.split('.')
  return `${done.replace(/-/g, ' ')} ${object.replace(/-/g, ' ')}`.trim()
}

const objects: Record<string, string> = {
  account: t('ledger.objectAccount'),
  alert: t('ledger.objectAlert'),
  alerting: t('ledger.objectAlerting'),
  audit: t('ledger.objectAudit'),
  bridge: t('ledger.objectBridge'),
  calendar: t('ledger.objectCalendar'),
  deputy: t('ledger.objectDeputy'),
  directory: t('ledger.objectDirectory'),
  draft: t('ledger.objectDraft'),
  edition: t('ledger.objectEdition'),
  feed: t('ledger.objectFeed'),
  floor: t('ledger.objectFloor'),
  group: t('ledger.objectGroup'),
  house: t('ledger.objectHouse'),
  import: t('ledger.objectImport'),
  incident: t('ledger.objectIncident'),
  ledger: t('ledger.objectLedger'),
  lockdown: t('ledger.objectLockdown'),
  meeting: t('ledger.objectMeeting'),
  outbox: t('ledger.objectOutbox'),
  person: t('ledger.objectPerson'),
  register: t('ledger.objectRegister'),
  remedy: t('ledger.objectRemedy'),
  request: t('ledger.objectRequest'),
  room: t('ledger.objectRoom'),
  schedule: t('ledger.objectSchedule'),
  service: t('ledger.objectService'),
  session: t('ledger.objectSession'),
  token: t('ledger.objectToken'),
  waiver: t('ledger.objectWaiver'),
  work: t('ledger.objectWork'),
}

/** What an act was done to, by the sort of thing it is. */
export const objectWords = (object: string) => objects[object] ?? object

/**
 * What an entry is about, as people call it: by its title, as so many at once, or by the number of
 * its sort. An id that nobody would say is left out.
 */
export function titleWords(entry: Pick<LedgerEntry, 'object' | 'objectId' | 'title'>): string {
  const sort = objectWords(entry.object)
  const [, many] = /^(\d+) changed$/.exec(entry.title) ?? []
  if (many && entry.object === 'meeting') return counted(Number(many), 'meeting')
  if (many && entry.object === 'person') return counted(Number(many), 'person')
  if (many) return t('ledger.atOnce', { n: many })
  const [, number] = /^(?:audit|edition) (\d+)$/.exec(entry.title) ?? []
  if (number) return `${sort} ${number}`
  if (entry.title) return entry.title
  if (/^\d+$/.test(entry.objectId)) return `${sort} ${entry.objectId}`
  const isSaid = entry.objectId && !/[0-9a-f]{8}-|^[\w-]{20,}$/.test(entry.objectId)
  return isSaid ? entry.objectId : sort
}

/** One value that changed. */
export interface Line {
  name: string
  before: string
  after: string
}

/** Before and after, a line a value; what is nested is named with its path. */
export function linesOf(
  before: unknown,
  after: unknown,
  of: Meaning = none,
  path: string[] = [],
): Line[] {
  const isMap = (v: unknown) => typeof v === 'object' && v !== null && !Array.isArray(v)
  if (!isMap(before) && !isMap(after)) {
    if (JSON.stringify(before ?? null) === JSON.stringify(after ?? null)) return []
    return [
      {
        name: fieldWords(path, of) || t('ledger.all'),
        before: valueWords(path, before, of),
        after: valueWords(path, after, of),
      },
    ]
  }
  const was = (isMap(before) ? before : {}) as Record<string, unknown>
  const is = (isMap(after) ? after : {}) as Record<string, unknown>
  return [...new Set([...Object.keys(was), ...Object.keys(is)])].flatMap((key) =>
    linesOf(was[key], is[key], of, [...path, key]),
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
export function changedBy(entry: LedgerEntry, of: Meaning = none): ChangedThing[] {
  const details = entry.details as unknown as {
    changed?: { object: string; id: string; title: string; before?: unknown; after?: unknown }[]
  }
  return (details.changed ?? []).map((c) => ({
    object: c.object,
    id: c.id,
    title: c.title,
    lines: linesOf(c.before, c.after, of),
  }))
}

/** What programs tell each other, and nobody else. */
const BETWEEN_PROGRAMS = new Set(['version', 'key', 'code'])

/** What was asked, a line a value; of edits what came of them, where the entry has it. */
export function askedIn(entry: LedgerEntry, of: Meaning = none): Line[] {
  const { asked, changed } = entry.details as unknown as { asked?: unknown; changed?: unknown[] }
  if (typeof asked !== 'object' || asked === null) {
    return linesOf(undefined, asked, of).filter((line) => line.after !== '')
  }
  const kept = Object.entries(asked).filter(
    ([name]) => !BETWEEN_PROGRAMS.has(name) && !(name === 'edits' && changed?.length),
  )
  return linesOf(undefined, Object.fromEntries(kept), of).filter((line) => line.after !== '')
}
