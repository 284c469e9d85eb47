import type { RecordingLine } from '@/api/schema'

/** A length as people say it: `48 s`, `12 min`, `1 h 05`. */
export function length(seconds: number): string {
  if (seconds < 90) return `${seconds} s`
  const minutes = Math.round(seconds / 60)
  if (minutes < 60) return `${minutes} min`
  return `${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, '0')}`
}

/** How a recording came to its end, in a sentence. */
export function ended(r: Pick<RecordingLine, 'end' | 'endedBy'>): string {
  switch (r.end) {
    case 'running':
      return 'It runs.'
    case 'stopped':
      return r.endedBy ? `Stopped by ${r.endedBy}.` : 'Stopped.'
    case 'replaced':
      return `Ended by the one that ${r.endedBy ?? 'somebody'} began.`
    case 'left':
      return 'Ended when they left.'
    default:
      return 'Until the end of the session.'
  }
}

/** What people answered, who did not agree first. */
const ANSWERS: { answer: string; rust: boolean; words: (n: number) => string }[] = [
  { answer: 'declined', rust: true, words: (n) => `${n} did not agree.` },
  { answer: 'not-told', rust: true, words: (n) => `${n} ${n === 1 ? 'was' : 'were'} not told.` },
  { answer: 'not-answered', rust: true, words: (n) => `${n} did not answer.` },
  { answer: 'given', rust: false, words: (n) => `${n} agreed.` },
  { answer: 'told', rust: false, words: (n) => `${n} saw the notice.` },
]

/** How many answered what. */
export function answersOf(r: Pick<RecordingLine, 'recorded'>): { words: string; rust: boolean }[] {
  return ANSWERS.flatMap(({ answer, rust, words }) => {
    const n = r.recorded.filter((p) => p.answer === answer).length
    return n ? [{ words: words(n), rust }] : []
  })
}
