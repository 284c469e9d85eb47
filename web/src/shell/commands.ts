import { folded } from '@/api/folded'
import { t } from '@/wording'
import type { Router } from 'vue-router'
import { stationsFor } from './stations'

/** Something that the command field finds. */
export interface Command {
  name: string
  /** What else people call it; found, and not shown. */
  words?: string
  sort: string
  go: () => unknown
}

/** What it takes to do what is no address. */
export interface Acts {
  keys: () => unknown
  theme: () => unknown
  signOut: () => unknown
}

interface Line {
  name: string
  words?: string
  sort: 'go to' | 'do'
  roles: string[]
  to: string
}

const WARDEN = ['warden']
const ALL = ['warden', 'auditor']
const UNITS = ['warden', 'unit-warden', 'auditor']
const HOSTS = ['warden', 'unit-warden', 'host']
const EVERYBODY = ['warden', 'unit-warden', 'auditor', 'host']

const lines: Line[] = [
  {
    name: t('shell.publishTheDraft'),
    words: t('shell.editionRulebook'),
    sort: 'do',
    roles: WARDEN,
    to: '/rulebook?publish=1',
  },
  {
    name: t('shell.bringInAFile'),
    words: t('shell.importUploadBundleCalendarTableIcsCsv'),
    sort: 'do',
    roles: WARDEN,
    to: '/register?import=1',
  },
  {
    name: t('shell.auditNow'),
    words: t('shell.runCheck'),
    sort: 'do',
    roles: WARDEN,
    to: '/audit?run=1',
  },
  {
    name: t('shell.practiseASession'),
    words: t('shell.rehearseStandIn'),
    sort: 'do',
    roles: HOSTS,
    to: '/floor?practise=',
  },
  {
    name: t('shell.scheduleAMeeting'),
    words: t('shell.newCreatePlan'),
    sort: 'do',
    roles: HOSTS,
    to: '/register/new',
  },
  {
    name: t('shell.subscribeInACalendar'),
    words: t('shell.feedIcs'),
    sort: 'do',
    roles: EVERYBODY,
    to: '/register?feeds=1',
  },
  {
    name: t('shell.messagesThatWentOut'),
    words: t('shell.mailOutboxLetters'),
    sort: 'go to',
    roles: WARDEN,
    to: '/outbox',
  },
  {
    name: t('shell.remedies'),
    words: t('shell.mendedUndo'),
    sort: 'go to',
    roles: UNITS,
    to: '/audit/remedies',
  },
  { name: t('shell.compareAudits'), sort: 'go to', roles: UNITS, to: '/audit/compare' },
  {
    name: t('shell.trends'),
    words: t('shell.chartHistory'),
    sort: 'go to',
    roles: UNITS,
    to: '/audit/trends',
  },
  {
    name: t('shell.waivers'),
    words: t('shell.exceptions'),
    sort: 'go to',
    roles: UNITS,
    to: '/audit/waivers',
  },
  {
    name: t('shell.askedOfHosts'),
    words: t('shell.requests'),
    sort: 'go to',
    roles: UNITS,
    to: '/audit/requests',
  },
  {
    name: t('shell.auditRuns'),
    words: t('shell.reports'),
    sort: 'go to',
    roles: UNITS,
    to: '/audit/runs',
  },
  {
    name: t('shell.cancelledMeetings'),
    words: t('shell.restoreDeleted'),
    sort: 'go to',
    roles: EVERYBODY,
    to: '/register/cancelled',
  },
  {
    name: t('shell.compareEditions'),
    words: t('shell.difference'),
    sort: 'go to',
    roles: EVERYBODY,
    to: '/rulebook/compare',
  },
  { name: t('shell.editions'), sort: 'go to', roles: EVERYBODY, to: '/rulebook/editions' },
  {
    name: t('shell.listsSpacesAndRooms'),
    words: t('shell.groupsUnitsKindsPartnersDomains'),
    sort: 'go to',
    roles: ALL,
    to: '/people/groups',
  },
  {
    name: t('shell.accounts'),
    words: t('shell.usersRolesDeputies'),
    sort: 'go to',
    roles: ALL,
    to: '/house/accounts',
  },
  {
    name: t('shell.accessTokens'),
    words: t('shell.apiKeys'),
    sort: 'go to',
    roles: ALL,
    to: '/house/tokens',
  },
  {
    name: t('shell.directory'),
    words: t('shell.scim'),
    sort: 'go to',
    roles: ALL,
    to: '/house/directory',
  },
  {
    name: t('shell.conferenceServices'),
    words: t('shell.linkBridgeConnect'),
    sort: 'go to',
    roles: ALL,
    to: '/house/conference',
  },
  {
    name: t('shell.calendars'),
    words: t('shell.caldavIcs'),
    sort: 'go to',
    roles: ALL,
    to: '/house/calendars',
  },
  {
    name: t('shell.alerts'),
    words: t('shell.onCallWebhookQuietHours'),
    sort: 'go to',
    roles: ALL,
    to: '/house/alerts',
  },
  {
    name: t('shell.retention'),
    words: t('shell.keepingDeleteHowLong'),
    sort: 'go to',
    roles: ALL,
    to: '/house/keeping',
  },
  {
    name: t('shell.yourAccount'),
    words: t('shell.passwordSecondFactorSignIns'),
    sort: 'go to',
    roles: EVERYBODY,
    to: '/account',
  },
  {
    name: t('shell.help'),
    words: t('shell.guide'),
    sort: 'go to',
    roles: EVERYBODY,
    to: '/help',
  },
]

/** What a role can go to and do, in the order in which it is offered. */
export function commandsFor(role: string, router: Router, acts: Acts): Command[] {
  return [
    ...stationsFor(role).map((s) => ({
      name: s.name,
      sort: 'go to',
      go: () => router.push(s.path),
    })),
    ...lines
      .filter((line) => line.roles.includes(role))
      .map((line) => ({ ...line, go: () => router.push(line.to) })),
    { name: t('shell.changeTheTheme'), words: t('shell.darkLight'), sort: 'do', go: acts.theme },
    { name: t('shell.showTheKeys'), words: t('shell.shortcuts'), sort: 'do', go: acts.keys },
    { name: t('shell.signOut'), words: t('shell.logOutLeave'), sort: 'do', go: acts.signOut },
  ]
}

/** Whether what is typed is in a command's name, or in what else it is called. */
export const isCalled = (command: Command, wanted: string) =>
  folded(`${command.name} ${command.words ?? ''}`).includes(folded(wanted))
