import { many } from '@/wording'
import type en from '@/wording/en'

/** A number and what it counts, in the singular or the plural. */
export function counted(n: number, what: keyof typeof en.count): string {
  return many(`count.${what}`, n)
}
