import { t } from '@/wording'
import { counted } from '@/shell/counted'
import type { ReadSource } from '@/api/schema'

/** How often a calendar is read, in minutes. */
export const rhythms = [
  { minutes: 1, words: t('house.everyMinute') },
  { minutes: 15, words: t('house.every15Minutes') },
  { minutes: 60, words: t('house.everyHour') },
  { minutes: 1440, words: t('house.onceADay') },
]

/** The same for a calendar that has another rhythm than these. */
export function rhythmWords(minutes: number): string {
  return (
    rhythms.find((r) => r.minutes === minutes)?.words ?? t('house.everyMinutesMinutes', { minutes })
  )
}

/** What a calendar is read for. */
export const purposes = [
  { id: 'meetings', words: t('house.itsEventsAreMeetingsHere') },
  { id: 'busy', words: t('house.onlyWhenSomebodyHasNoTime') },
]

/** How it stands with a calendar, in words. */
export function sourceWords(s: ReadSource): { text: string; wrong: boolean } {
  switch (s.state) {
    case 'paused':
      return { text: t('house.paused'), wrong: false }
    case 'new':
      return { text: t('house.notReadYet'), wrong: false }
    case 'refused':
      return { text: t('house.theAccountIsRefusedGiveAnother'), wrong: true }
    case 'away':
      return {
        text: t('house.itTrouble', { trouble: s.trouble ?? t('house.doesNotAnswer') }),
        wrong: true,
      }
    case 'asks':
      return { text: t('house.goneOfItsMeetingsAreGoneAt', { gone: s.gone }), wrong: true }
    default:
      return { text: t('house.read2'), wrong: false }
  }
}

/** How much a calendar has brought, in words. */
export function broughtWords(s: ReadSource): string {
  return counted(s.meetings, s.purpose === 'busy' ? 'busyTime' : 'meeting')
}
