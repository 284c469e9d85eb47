import { t } from '@/wording'
/** A station: a place to work, in the order in which the work is done. */
export interface Station {
  name: string
  path: string
}

const all: (Station & { roles: string[] })[] = [
  {
    name: t('shell.lookout'),
    path: '/lookout',
    roles: ['warden', 'unit-warden', 'auditor', 'host'],
  },
  { name: t('shell.myCorner'), path: '/corner', roles: ['unit-warden', 'host'] },
  {
    name: t('shell.rulebook'),
    path: '/rulebook',
    roles: ['warden', 'unit-warden', 'auditor', 'host'],
  },
  {
    name: t('shell.register'),
    path: '/register',
    roles: ['warden', 'unit-warden', 'auditor', 'host'],
  },
  { name: t('shell.audit'), path: '/audit', roles: ['warden', 'unit-warden', 'auditor'] },
  { name: t('shell.door'), path: '/door', roles: ['warden', 'unit-warden', 'auditor', 'host'] },
  { name: t('shell.floor'), path: '/floor', roles: ['warden', 'unit-warden', 'auditor', 'host'] },
  { name: t('shell.people'), path: '/people', roles: ['warden', 'auditor'] },
  { name: t('shell.ledger'), path: '/ledger', roles: ['warden', 'auditor'] },
  { name: t('shell.house'), path: '/house', roles: ['warden', 'auditor'] },
]

/** The stations that a role may enter. */
export function stationsFor(role: string): Station[] {
  return all.filter((station) => station.roles.includes(role))
}

/** Whether a role may be at an address; what is no station is for everybody. */
export function isStationOf(role: string, path: string): boolean {
  const station = all.find((each) => path.startsWith(each.path))
  return !station || station.roles.includes(role)
}
