import { t } from '@/wording'
import { label, type Plain } from '@/api/catalogue'
import type { BeyondLine, ControlView } from '@/api/schema'
import type { Guarantee, Rule } from './book'
import { anyOf } from '@/shell/counted'
import { limitOf, startOf } from './rungs'

/** What kinds of rules are called. */
export const modeWords: Record<string, string> = {
  suggest: t('rulebook.default'),
  bound: t('rulebook.limit2'),
  fix: t('rulebook.fixed'),
}

/** A rule in words. */
export function ruleWords(control: ControlView | undefined, rule: Rule | null | undefined): string {
  if (!rule) return t('rulebook.noRule')
  const start = label(control, startOf(rule))
  const range =
    rule.mode === 'bound'
      ? t('rulebook.defaultStartLimitControl', { start, control: label(control, limitOf(rule)) })
      : `${modeWords[rule.mode]}: ${start}`
  return `${range}${rule.sealed ? t('rulebook.sealed2') : ''}`
}

type Phrases = { id: string; phrase: string }[]

/** A guarantee as a sentence. */
export function guaranteeWords(
  tables: { personas: Phrases; rights: Phrases; levels: Phrases } | undefined,
  guarantee: Guarantee | null | undefined,
): string {
  if (!guarantee) return t('rulebook.noGuarantee')
  const phrase = (list: Phrases | undefined, id: string) =>
    list?.find((named) => named.id === id)?.phrase ?? id
  const who = anyOf(guarantee.who.map((id) => phrase(tables?.personas, id)))
  const what = anyOf(guarantee.rights.map((id) => phrase(tables?.rights, id)))
  const except =
    guarantee.ceiling === 'never'
      ? ''
      : t('rulebook.exceptLevels', { levels: phrase(tables?.levels, guarantee.ceiling) })
  return t('rulebook.nobodyWhoWhoMayWhatExcept', { who, what, except })
}

/** What a draft asks of a conference service that it cannot hold, and what would do instead. */
export function beyondWords(line: BeyondLine, control: ControlView | undefined): string {
  const title = control?.title ?? line.control
  const count = (n: number) => `${n} ${n === 1 ? t('rulebook.meeting') : t('rulebook.meetings')}`
  if (!line.after)
    return t('rulebook.serviceCanHoldTitleAgainAsIt', {
      service: line.service,
      title,
      before: count(line.before),
    })
  const was = line.before ? t('rulebook.beforeNow', { before: line.before }) : ''
  const other =
    line.stricter === null || line.stricter === undefined
      ? t('rulebook.nothingItHasIsAsStrictAnother')
      : t('rulebook.itHasControlWhichIsStricter', {
          control: label(control, line.stricter as Plain),
        })
  return t('rulebook.serviceCannotHoldTitleAsItIs', {
    service: line.service,
    title,
    after: count(line.after),
    was,
    other,
  })
}
