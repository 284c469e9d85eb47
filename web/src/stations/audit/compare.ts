import { t } from '@/wording'
import type { Compared, Drift } from '@/api/schema'
import { day } from '@/shell/times'

/** Why a finding came, in the words of the page. */
export const comeReasons: Record<string, string> = {
  scheduled: t('audit.inANewMeeting'),
  changed: t('audit.theMeetingWasChanged'),
  rule: t('audit.theRulebookChanged'),
  around: t('audit.somethingAroundItChanged'),
  unwaived: t('audit.itsWaiverEnded'),
  back: t('audit.comeBack'),
}

/** Why a finding is gone. */
export const goneReasons: Record<string, string> = {
  mended: t('audit.mended'),
  waived: t('audit.waived'),
  over: t('audit.theMeetingIsOver'),
  rule: t('audit.theRulebookChanged'),
}

const sum = (counts: Record<string, number>) => Object.values(counts).reduce((a, b) => a + b, 0)

/** The parts of a comparison with their counts. */
export function sidesOf(c: Compared) {
  return [
    { id: 'come', name: t('audit.new'), count: sum(c.come), tone: 'text-rust' },
    { id: 'gone', name: t('audit.gone'), count: sum(c.gone), tone: 'text-kelp' },
    { id: 'still', name: t('audit.stillThere'), count: c.still, tone: '' },
    {
      id: 'drifted',
      name: t('audit.driftedSinceClean'),
      count: c.drifted.length,
      tone: 'text-sand',
    },
  ]
}

const acts: Record<string, string> = {
  controls: t('audit.changedItsControls'),
  changed: t('audit.changedIt'),
  imported: t('audit.broughtItInAgain'),
  'handed-over': t('audit.handedItOver'),
  restored: t('audit.putAnEarlierVersionBack'),
  undone: t('audit.undidARemedy'),
}

/** Who or what made a clean meeting drift. */
export function driftWords(d: Drift): string {
  if (d.act === 'edition') return t('audit.theRulebookChangedOnAt', { at: d.at ? day(d.at) : '' })
  if (!d.by) return t('audit.somethingAroundItChangedSuchAsThe')
  return t('audit.byActsOnAt', {
    by: d.by,
    acts: acts[d.act] ?? t('audit.changedIt'),
    at: d.at ? day(d.at) : '',
  })
}
