import type { HeldView } from '@/api/schema'
import { shortTime } from '@/shell/times'

const short: Record<string, string> = {
  waiting: 'waiting',
  sent: 'sent',
  refused: 'refused',
  other: 'holds something else',
  kept: 'not sent',
}

/** The same for a line of a list; empty where there is nothing to say. */
export function shortWriting(line: { writing?: string | null }): string {
  return short[line.writing ?? ''] ?? ''
}

/** How far what was decided has come in a conference service, in words; null where nothing was. */
export function writingWords(held: HeldView): { text: string; wrong: boolean } | null {
  const said = held.why ? `: ${held.why}` : ''
  switch (held.writing) {
    case 'waiting':
      return {
        text: `Waiting to be sent${held.late ? ', for longer than is allowed' : ''}.`,
        wrong: held.late,
      }
    case 'sent':
      return { text: 'Sent, and not read back yet.', wrong: held.late }
    case 'confirmed':
      if (held.differences.length) return { text: 'It is not as it was decided.', wrong: true }
      return held.confirmedAt
        ? { text: `As decided, confirmed ${shortTime(held.confirmedAt)}.`, wrong: false }
        : null
    case 'refused':
      return { text: `${held.name} refused it${said}.`, wrong: true }
    case 'other':
      return { text: `${held.name} holds something else${said}.`, wrong: true }
    case 'kept':
      return {
        text:
          held.level === 'suggest'
            ? 'Decided, and not sent: somebody has to send it.'
            : `Decided, and not sent: ${held.name} is linked for reading only.`,
        wrong: true,
      }
    default:
      return null
  }
}
