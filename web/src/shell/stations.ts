/** A station: a place to work, in the order in which the work is done. */
export interface Station {
  name: string
  path: string
}

const all: (Station & { roles: string[] })[] = [
  { name: 'Rulebook', path: '/rulebook', roles: ['warden', 'auditor', 'host'] },
  { name: 'Register', path: '/register', roles: ['warden', 'auditor', 'host'] },
  { name: 'Audit', path: '/audit', roles: ['warden', 'auditor'] },
]

/** The stations that a role may enter. */
export function stationsFor(role: string): Station[] {
  return all.filter((station) => station.roles.includes(role))
}
