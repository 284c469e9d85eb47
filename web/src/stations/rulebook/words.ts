import { label } from '@/api/catalogue'
import type { ControlView } from '@/api/schema'
import type { Guarantee, Rule } from './book'
import { limitOf, startOf } from './rungs'

/** A rule in words. */
export function ruleWords(control: ControlView | undefined, rule: Rule | null | undefined): string {
  if (!rule) return 'no rule'
  const start = label(control, startOf(rule))
  const range =
    rule.mode === 'bound'
      ? `bound: start ${start}, limit ${label(control, limitOf(rule))}`
      : `${rule.mode}: ${start}`
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
