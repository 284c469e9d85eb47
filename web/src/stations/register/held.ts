import { t } from '@/wording'
import type { HeldView } from '@/api/schema'
import { shortTime } from '@/shell/times'

const short: Record<string, string> = {
  waiting: t('register.waiting'),
  sent: t('register.sent'),
  refused: t('register.refused'),
  other: t('register.holdsSomethingElse'),
  kept: t('register.notSent'),
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
        text: t('register.waitingToBeSentX', {
          x: held.late ? t('register.forLongerThanIsAllowed') : '',
        }),
        wrong: held.late,
      }
    case 'sent':
      return { text: t('register.sentAndNotReadBackYet'), wrong: held.late }
    case 'confirmed':
      if (held.differences.length) return { text: t('register.itIsNotAsItWasDecided'), wrong: true }
      return held.confirmedAt
        ? {
            text: t('register.asDecidedConfirmedConfirmedAt', {
              confirmedAt: shortTime(held.confirmedAt),
            }),
            wrong: false,
          }
        : null
    case 'refused':
      return { text: t('register.nameRefusedItSaid', { name: held.name, said }), wrong: true }
    case 'other':
      return {
        text: t('register.nameHoldsSomethingElseSaid', { name: held.name, said }),
        wrong: true,
      }
    case 'kept':
      return {
        text:
          held.level === 'suggest'
            ? t('register.decidedAndNotSentSomebodyHasTo')
            : t('register.decidedAndNotSentNameIsLinked', { name: held.name }),
        wrong: true,
      }
    default:
      return null
  }
}
