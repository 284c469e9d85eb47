import { t } from '@/wording'

const terms: Record<string, string> = {
  member: t('shell.termMember'),
  guest: t('shell.termGuest'),
  partner: t('shell.termPartner'),
  outsider: t('shell.termOutsider'),
  unknown: t('shell.termUnknown'),
  required: t('shell.termRequired'),
  optional: t('shell.termOptional'),
  host: t('shell.host'),
  'co-host': t('shell.termCoHost'),
  presenter: t('shell.termPresenter'),
  attendee: t('shell.termAttendee'),
  onlooker: t('shell.termOnlooker'),
  added: t('shell.termAdded'),
  changed: t('shell.termChanged'),
  unchanged: t('shell.termUnchanged'),
  refused: t('shell.termRefused'),
  new: t('shell.termNew'),
  gone: t('shell.termGone'),
  tighter: t('shell.termTighter'),
  looser: t('shell.termLooser'),
  'moved sideways': t('shell.termMoved'),
  'binds now': t('shell.termBinds'),
  'only suggested now': t('shell.termSuggests'),
  'fixed now': t('shell.termFixed'),
  'no longer fixed': t('shell.termFreed'),
  'starts elsewhere': t('shell.termStart'),
  'sealed now': t('shell.termSealed'),
  'no longer sealed': t('shell.termUnsealed'),
  'more important': t('shell.termWeightier'),
  'less important': t('shell.termLighter'),
  'another reason': t('shell.termReason'),
}

/** A word of the server's that stands for itself, as people read it. */
export const term = (word: string) => terms[word] ?? word
