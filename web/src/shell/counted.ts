import { many, t } from '@/wording'
import type en from '@/wording/en'

/** A number and what it counts, in the singular or the plural. */
export function counted(n: number, what: keyof typeof en.count): string {
  return many(`count.${what}`, n)
}

/** Several things that all are meant: `a and b and c`. */
export const allOf = (things: string[]) => things.join(` ${t('shell.and')} `)

/** Several things of which any may be meant: `a or b or c`. */
export const anyOf = (things: string[]) => things.join(` ${t('shell.or')} `)
