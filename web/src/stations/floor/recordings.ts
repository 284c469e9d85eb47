import { t } from '@/wording'
import type { RecordingLine } from '@/api/schema'

/** A length as people say it: `48 s`, `12 min`, `1 h 05`. */
export function length(seconds: number): string {
  if (seconds < 90) return `${seconds} s`
  const minutes = Math.round(seconds / 60)
  if (minutes < 60) return t('floor.minutesMin', { minutes })
  return `${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, '0')}`
}

/** How a recording came to its end, in a sentence. */
export function ended(r: Pick<RecordingLine, 'end' | 'endedBy'>): string {
  switch (r.end) {
    case 'running':
      return t('floor.itRuns')
    case 'stopped':
      return r.endedBy ? t('floor.stoppedByEndedBy', { endedBy: r.endedBy }) : t('floor.stopped')
    case 'replaced':
      return t('floor.endedByTheOneThatEndedByBegan', { endedBy: r.endedBy ?? t('floor.somebody') })
    case 'left':
      return t('floor.endedWhenTheyLeft')
    default:
      return t('floor.untilTheEndOfTheSession')
  }
}

/** What people answered, who did not agree first. */
const ANSWERS: { answer: string; rust: boolean; words: (n: number) => string }[] = [
  { answer: 'declined', rust: true, words: (n) => t('floor.nDidNotAgree', { n }) },
  {
    answer: 'not-told',
    rust: true,
    words: (n) => t('floor.nXNotTold', { n, x: n === 1 ? t('floor.was') : t('floor.were') }),
  },
  { answer: 'not-answered', rust: true, words: (n) => t('floor.nDidNotAnswer', { n }) },
  { answer: 'given', rust: false, words: (n) => t('floor.nAgreed', { n }) },
  { answer: 'told', rust: false, words: (n) => t('floor.nSawTheNotice', { n }) },
]

/** What one person answered. */
export const answerWords: Record<string, string> = {
  declined: t('floor.theyDeclined'),
  'not-told': t('floor.theyWereNotTold'),
  'not-answered': t('floor.theyDidNotAnswer'),
  given: t('floor.theyAgreed'),
  told: t('floor.theySawTheNotice'),
}

/** How many answered what. */
export function answersOf(r: Pick<RecordingLine, 'recorded'>): { words: string; rust: boolean }[] {
  return ANSWERS.flatMap(({ answer, rust, words }) => {
    const n = r.recorded.filter((p) => p.answer === answer).length
    return n ? [{ words: words(n), rust }] : []
  })
}
