import { label, type Plain } from '@/api/catalogue'
import type { BeyondLine, ControlView } from '@/api/schema'
import type { Guarantee, Rule } from './book'
import { limitOf, startOf } from './rungs'

/** What kinds of rules are called. */
export const modeWords: Record<string, string> = {
  suggest: 'default',
  bound: 'limit',
  fix: 'fixed',
}

/** A rule in words. */
export function ruleWords(control: ControlView | undefined, rule: Rule | null | undefined): string {
  if (!rule) return 'no rule'
  const start = label(control, startOf(rule))
  const range =
    rule.mode === 'bound'
      ? `default ${start}, limit ${label(control, limitOf(rule))}`
      : `${modeWords[rule.mode]}: ${start}`
  return `${range}${rule.sealed ? ', sealed' : ''}`
}

type Phrases = { id: string; phrase: string }[]

/** A guarantee as a sentence. */
export function guaranteeWords(
  tables: { personas: Phrases; rights: Phrases; levels: Phrases } | undefined,
  guarantee: Guarantee | null | undefined,
): string {
  if (!guarantee) return 'no guarantee'
  const phrase = (list: Phrases | undefined, id: string) =>
    list?.find((named) => named.id === id)?.phrase ?? id
  const who = guarantee.who.map((id) => phrase(tables?.personas, id)).join(' or ')
  const what = guarantee.rights.map((id) => phrase(tables?.rights, id)).join(' or ')
  const except =
    guarantee.ceiling === 'never' ? '' : `, except ${phrase(tables?.levels, guarantee.ceiling)}`
  return `Nobody who ${who} may ${what}${except}.`
}

/** What a draft asks of a conference service that it cannot hold, and what would do instead. */
export function beyondWords(line: BeyondLine, control: ControlView | undefined): string {
  const title = control?.title ?? line.control
  const count = (n: number) => `${n} ${n === 1 ? 'meeting' : 'meetings'}`
  if (!line.after)
    return `${line.service} can hold ${title} again as it is asked: ${count(line.before)}.`
  const was = line.before ? ` (${line.before} now)` : ''
  const other =
    line.stricter === null || line.stricter === undefined
      ? 'Nothing it has is as strict: another control that keeps the same people out would do, or another service.'
      : `It has “${label(control, line.stricter as Plain)}”, which is stricter.`
  return `${line.service} cannot hold ${title} as it is asked: ${count(line.after)} beyond its means${was}. ${other}`
}
