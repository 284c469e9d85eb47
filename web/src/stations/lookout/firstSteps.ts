/** What there is in a house so far. */
export interface House {
  domains: number
  people: number
  meetings: number
  edition: boolean
  audited: boolean
}

interface Step {
  id: string
  name: string
  says: string
  ways: { name: string; to: string }[]
  done: boolean
}

/** The way from an empty house to the first audit, in the order in which each makes sense. */
export function stepsOf(house: House): Step[] {
  return [
    {
      id: 'house',
      name: 'Who you are',
      says: 'Your name, and the domains of your addresses: they decide who is an outsider.',
      ways: [{ name: 'Say who you are', to: '/people/groups/house' }],
      done: house.domains > 0,
    },
    {
      id: 'people',
      name: 'Your people',
      says: 'From a directory that keeps them up to date, or from a file.',
      ways: [
        { name: 'Bring in people', to: '/register?import=1' },
        { name: 'Link a directory', to: '/house/directory' },
      ],
      // the one who is walking here may be all there is
      done: house.people > 1,
    },
    {
      id: 'meetings',
      name: 'Your meetings',
      says: 'From the service that holds them, from a calendar, or from a file.',
      ways: [
        { name: 'Link a conference service', to: '/house/conference' },
        { name: 'Read a calendar', to: '/house/calendars' },
        { name: 'Bring in meetings', to: '/register?import=1' },
      ],
      done: house.meetings > 0,
    },
    {
      id: 'rulebook',
      name: 'Your rulebook',
      says: 'What meetings begin with and what they may not go beyond. A starter is there to keep or to change.',
      ways: [{ name: 'Write the rulebook', to: '/rulebook' }],
      done: house.edition,
    },
    {
      id: 'audit',
      name: 'Your first audit',
      says: 'Every meeting held against the rulebook. Publishing the first edition makes it by itself.',
      ways: [{ name: 'Audit all of them', to: '/audit?run=1' }],
      done: house.audited,
    },
  ]
}
