import { t } from '@/wording'
import type { RemedyJob } from '@/api/schema'
import { counted } from '@/shell/counted'

const words: Record<string, string> = {
  waiting: t('audit.waiting'),
  sending: t('audit.underWay'),
  confirming: t('audit.decidedAndNotConfirmedByTheirService'),
  refused: t('audit.refusedByTheConferenceService'),
  overtaken: t('audit.changedBySomebodyMeanwhileSoLeftAlone'),
  gone: t('audit.cancelledMeanwhile'),
  'given-up': t('audit.givenUpAfterManyTries'),
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
      ? t('audit.doneInMeetings', { meetings: counted(done, 'meeting') })
      : t('audit.doneInDoneOfMeetings', { done, meetings: counted(job.items, 'meeting') }),
    ...(others.length
      ? [`${others.map(([state, n]) => `${n} ${words[state] ?? state}`).join(', ')}.`]
      : []),
    ...(job.sent ? [t('audit.newsWentOut', { news: counted(job.sent, 'newInvitation') })] : []),
  ]
  const isUnderWay = !!(job.states.waiting ?? job.states.sending ?? job.states.confirming)
  const isBad = !!(job.states.refused ?? job.states['given-up'] ?? job.states.overtaken)
  return { words: parts.join(' '), tone: isUnderWay ? 'wait' : isBad ? 'bad' : 'good' }
}
