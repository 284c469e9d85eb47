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
    name: 'Publish the draft',
    words: 'edition rulebook',
    sort: 'do',
    roles: WARDEN,
    to: '/rulebook?publish=1',
  },
  {
    name: 'Bring in a file',
    words: 'import upload bundle calendar table ics csv',
    sort: 'do',
    roles: WARDEN,
    to: '/register?import=1',
  },
  { name: 'Audit now', words: 'run check', sort: 'do', roles: WARDEN, to: '/audit?run=1' },
  {
    name: 'Practise a session',
    words: 'rehearse stand-in',
    sort: 'do',
    roles: HOSTS,
    to: '/floor?practise=',
  },
  {
    name: 'Schedule a meeting',
    words: 'new create plan',
    sort: 'do',
    roles: HOSTS,
    to: '/register/new',
  },
  {
    name: 'Subscribe in a calendar',
    words: 'feed ics',
    sort: 'do',
    roles: EVERYBODY,
    to: '/register?feeds=1',
  },
  {
    name: 'Messages that went out',
    words: 'mail outbox letters',
    sort: 'go to',
    roles: WARDEN,
    to: '/outbox',
  },
  { name: 'Remedies', words: 'mended undo', sort: 'go to', roles: UNITS, to: '/audit/remedies' },
  { name: 'Compare audits', sort: 'go to', roles: UNITS, to: '/audit/compare' },
  { name: 'Trends', words: 'chart history', sort: 'go to', roles: UNITS, to: '/audit/trends' },
  { name: 'Waivers', words: 'exceptions', sort: 'go to', roles: UNITS, to: '/audit/waivers' },
  { name: 'Asked of hosts', words: 'requests', sort: 'go to', roles: UNITS, to: '/audit/requests' },
  { name: 'Audit runs', words: 'reports', sort: 'go to', roles: UNITS, to: '/audit/runs' },
  {
    name: 'Cancelled meetings',
    words: 'restore deleted',
    sort: 'go to',
    roles: EVERYBODY,
    to: '/register/cancelled',
  },
  {
    name: 'Compare editions',
    words: 'difference',
    sort: 'go to',
    roles: EVERYBODY,
    to: '/rulebook/compare',
  },
  { name: 'Editions', sort: 'go to', roles: EVERYBODY, to: '/rulebook/editions' },
  {
    name: 'Lists, spaces and rooms',
    words: 'groups units kinds partners domains',
    sort: 'go to',
    roles: ALL,
    to: '/people/groups',
  },
  {
    name: 'Accounts',
    words: 'users roles deputies',
    sort: 'go to',
    roles: ALL,
    to: '/house/accounts',
  },
  { name: 'Access tokens', words: 'api keys', sort: 'go to', roles: ALL, to: '/house/tokens' },
  { name: 'Directory', words: 'scim', sort: 'go to', roles: ALL, to: '/house/directory' },
  {
    name: 'Conference services',
    words: 'link bridge connect',
    sort: 'go to',
    roles: ALL,
    to: '/house/conference',
  },
  { name: 'Calendars', words: 'caldav ics', sort: 'go to', roles: ALL, to: '/house/calendars' },
  {
    name: 'Alerts',
    words: 'on call webhook quiet hours',
    sort: 'go to',
    roles: ALL,
    to: '/house/alerts',
  },
  {
    name: 'Retention',
    words: 'keeping delete how long',
    sort: 'go to',
    roles: ALL,
    to: '/house/keeping',
  },
  {
    name: 'Your account',
    words: 'password second factor sign-ins',
    sort: 'go to',
    roles: EVERYBODY,
    to: '/account',
  },
  { name: 'Help', words: 'guide', sort: 'go to', roles: EVERYBODY, to: '/help' },
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
    { name: 'Change the theme', words: 'dark light', sort: 'do', go: acts.theme },
    { name: 'Show the keys', words: 'shortcuts', sort: 'do', go: acts.keys },
    { name: 'Sign out', words: 'log out leave', sort: 'do', go: acts.signOut },
  ]
}

/** Whether what is typed is in a command's name, or in what else it is called. */
export const isCalled = (command: Command, wanted: string) =>
  `${command.name} ${command.words ?? ''}`.toLowerCase().includes(wanted)
