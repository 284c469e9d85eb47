import { folded } from './folded'
import { locale } from '@/wording'
import type { ControlView } from './schema'

/** A member of a set, and what people call it. */
export interface Member {
  code: string
  name: string
}

const countryNames = new Intl.DisplayNames(locale, { type: 'region', fallback: 'none' })

/** What people call a member: a country by its name, everything else as it is written. */
export function nameOf(control: ControlView | undefined, code: string): string {
  const isCountry = /^[A-Z]{2}$/.test(code) && (control?.universe?.length ?? 0) > 100
  return (isCountry && countryNames.of(code)) || code
}

/** Every member a set may have, by name; none where any word will do. */
export function membersOf(control: ControlView): Member[] {
  return (control.universe ?? [])
    .map((code) => ({ code, name: nameOf(control, code) }))
    .sort((a, b) => a.name.localeCompare(b.name, 'en'))
}

/** As a region or a store is called where no list says which there are: as the core takes it. */
const ANY_NAME = /^[A-Za-z0-9][A-Za-z0-9._-]{0,39}$/

const plain = (text: string) => folded(text).replace(/[’']/g, '').trim()

/** The member meant by a code, a name, or the beginning of one that is no other's. */
export function memberMeant(control: ControlView, text: string): string | null {
  if (!control.universe) return ANY_NAME.test(text.trim()) ? text.trim() : null
  const wanted = plain(text)
  if (!wanted) return null
  const all = membersOf(control)
  const exact = all.find((m) => plain(m.name) === wanted || m.code.toLowerCase() === wanted)
  if (exact) return exact.code
  const begin = all.filter((m) => plain(m.name).startsWith(wanted))
  return begin.length === 1 ? (begin[0]?.code ?? null) : null
}

/** What was typed or pasted, read name by name; where one is not known, nothing is taken. */
export function readNames(
  control: ControlView,
  text: string,
): { codes: string[]; unknown: string[] } {
  const parts = text
    .split(/[,;\n]/)
    .map((part) => part.trim())
    .filter(Boolean)
  // codes were always taken with spaces between them
  const words = parts.flatMap((part) =>
    memberMeant(control, part) === null && part.split(/\s+/).every((w) => memberMeant(control, w))
      ? part.split(/\s+/)
      : [part],
  )
  const codes = words.map((word) => memberMeant(control, word))
  return {
    codes: [...new Set(codes.filter((code) => code !== null))],
    unknown: words.filter((_, i) => codes[i] === null),
  }
}
