import { counted } from '@/shell/counted'
import type { ReadSource } from '@/api/schema'

/** How often a calendar is read, in minutes. */
export const rhythms = [
  { minutes: 1, words: 'every minute' },
  { minutes: 15, words: 'every 15 minutes' },
  { minutes: 60, words: 'every hour' },
  { minutes: 1440, words: 'once a day' },
]

/** The same for a calendar that has another rhythm than these. */
export function rhythmWords(minutes: number): string {
  return rhythms.find((r) => r.minutes === minutes)?.words ?? `every ${minutes} minutes`
}

/** What a calendar is read for. */
export const purposes = [
  { id: 'meetings', words: 'Its events are meetings here' },
  { id: 'busy', words: 'Only when somebody has no time' },
]

/** How it stands with a calendar, in words. */
export function sourceWords(s: ReadSource): { text: string; wrong: boolean } {
  switch (s.state) {
    case 'paused':
      return { text: 'paused', wrong: false }
    case 'new':
      return { text: 'not read yet', wrong: false }
    case 'refused':
      return { text: 'the account is refused: give another', wrong: true }
    case 'away':
      return { text: `it ${s.trouble ?? 'does not answer'}`, wrong: true }
    case 'asks':
      return { text: `${s.gone} of its meetings are gone at once`, wrong: true }
    default:
      return { text: 'read', wrong: false }
  }
}

/** How much a calendar has brought, in words. */
export function broughtWords(s: ReadSource): string {
  const [one, many] = s.purpose === 'busy' ? ['busy time', 'busy times'] : ['meeting', 'meetings']
  return counted(s.meetings, one, many)
}
