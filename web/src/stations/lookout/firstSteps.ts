import { t } from '@/wording'
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
      name: t('lookout.whoYouAre'),
      says: t('lookout.yourNameAndTheDomainsOfYour'),
      ways: [{ name: t('lookout.sayWhoYouAre'), to: '/people/groups/house' }],
      done: house.domains > 0,
    },
    {
      id: 'people',
      name: t('lookout.yourPeople'),
      says: t('lookout.fromADirectoryThatKeepsThemUp'),
      ways: [
        { name: t('lookout.bringInPeople'), to: '/register?import=1' },
        { name: t('lookout.linkADirectory'), to: '/house/directory' },
      ],
      // the one who is walking here may be all there is
      done: house.people > 1,
    },
    {
      id: 'meetings',
      name: t('lookout.yourMeetings'),
      says: t('lookout.fromTheServiceThatHoldsThemFrom'),
      ways: [
        { name: t('lookout.linkAConferenceService'), to: '/house/conference' },
        { name: t('lookout.readACalendar'), to: '/house/calendars' },
        { name: t('lookout.bringInMeetings'), to: '/register?import=1' },
      ],
      done: house.meetings > 0,
    },
    {
      id: 'rulebook',
      name: t('lookout.yourRulebook'),
      says: t('lookout.whatMeetingsBeginWithAndWhatThey'),
      ways: [{ name: t('lookout.writeTheRulebook'), to: '/rulebook' }],
      done: house.edition,
    },
    {
      id: 'audit',
      name: t('lookout.yourFirstAudit'),
      says: t('lookout.everyMeetingHeldAgainstTheRulebookPublishing'),
      ways: [{ name: t('lookout.auditAllOfThem'), to: '/audit?run=1' }],
      done: house.audited,
    },
  ]
}
