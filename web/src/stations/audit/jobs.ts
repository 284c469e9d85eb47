import type { RemedyJob } from '@/api/schema'
import { counted } from '@/shell/counted'

const words: Record<string, string> = {
  waiting: 'waiting',
  sending: 'under way',
  confirming: 'decided, and not confirmed by their service yet',
  refused: 'refused by the conference service',
  overtaken: 'changed by somebody meanwhile, so left alone',
  gone: 'cancelled meanwhile',
  'given-up': 'given up after many tries',
}

/** How a remedy stands, so that nothing half done looks done. */
export function jobWords(job: Pick<RemedyJob, 'items' | 'states' | 'sent'>): {
  words: string
  tone: 'good' | 'wait' | 'bad'
} {
  const done = job.states.done ?? 0
  const others = Object.entries(job.states).filter(([state]) => state !== 'done')
  const parts = [
    done === job.items
      ? `Done in ${counted(done, 'meeting')}.`
      : `Done in ${done} of ${counted(job.items, 'meeting')};`,
    ...(others.length
      ? [`${others.map(([state, n]) => `${n} ${words[state] ?? state}`).join(', ')}.`]
      : []),
    ...(job.sent ? [`${counted(job.sent, 'new invitation')} went out.`] : []),
  ]
  const isUnderWay = !!(job.states.waiting ?? job.states.sending ?? job.states.confirming)
  const isBad = !!(job.states.refused ?? job.states['given-up'] ?? job.states.overtaken)
  return { words: parts.join(' '), tone: isUnderWay ? 'wait' : isBad ? 'bad' : 'good' }
}
