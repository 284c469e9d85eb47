/** A station: a place to work, in the order in which the work is done. */
export interface Station {
  name: string
  path: string
}

const all: (Station & { roles: string[] })[] = [
  { name: 'Lookout', path: '/lookout', roles: ['warden', 'unit-warden', 'auditor', 'host'] },
  { name: 'My corner', path: '/corner', roles: ['unit-warden', 'host'] },
  { name: 'Rulebook', path: '/rulebook', roles: ['warden', 'unit-warden', 'auditor', 'host'] },
  { name: 'Register', path: '/register', roles: ['warden', 'unit-warden', 'auditor', 'host'] },
  { name: 'Audit', path: '/audit', roles: ['warden', 'unit-warden', 'auditor'] },
  { name: 'Door', path: '/door', roles: ['warden', 'unit-warden', 'auditor', 'host'] },
  { name: 'Floor', path: '/floor', roles: ['warden', 'unit-warden', 'auditor', 'host'] },
  { name: 'People', path: '/people', roles: ['warden', 'auditor'] },
  { name: 'Ledger', path: '/ledger', roles: ['warden', 'auditor'] },
  { name: 'House', path: '/house', roles: ['warden', 'auditor'] },
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
