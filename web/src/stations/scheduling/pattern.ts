import { same } from '@/stations/rulebook/book'
import { addDays, toInstant, toLocal } from './zones'

/** How a meeting recurs, as people choose it; a rule (RFC 5545) is made of it. */
export interface Pattern {
  every: 'once' | 'day' | 'week' | 'month' | 'year' | 'rule'
  interval: number
  /** Weekdays of a weekly series, `MO` to `SU`. */
  days: string[]
  /** A monthly or yearly series by its date, or by its weekday such as the second Tuesday. */
  by: 'date' | 'weekday'
  end: 'never' | 'until' | 'count'
  /** The last day, included. */
  until: string
  count: number
  /** A rule that is beyond these choices, as it is. */
  rule: string
  /** The rule that these were read from: while nothing of it is changed, it stays to the letter. */
  readFrom?: { rule: string; start: string; zone: string }
}

const codes = ['SU', 'MO', 'TU', 'WE', 'TH', 'FR', 'SA']
export const weekdays = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU']

/** The weekday of a local start. */
export function weekdayOf(start: string): string {
  return codes[new Date(`${start.slice(0, 10)}T00:00:00Z`).getUTCDay()] ?? 'MO'
}

/** Which of its weekday in the month a start is: 1 to 4, or -1 for the last where it is the fifth. */
export function ordinalOf(start: string): number {
  const week = Math.ceil(Number(start.slice(8, 10)) / 7)
  return week > 4 ? -1 : week
}

export function once(start: string): Pattern {
  return {
    every: 'once',
    interval: 1,
    days: [weekdayOf(start)],
    by: 'date',
    end: 'until',
    until: addDays(start.slice(0, 10), 90),
    count: 10,
    rule: '',
  }
}

/** Reads a rule into choices; what is beyond them stays a rule. */
export function parseRule(rule: string | null | undefined, start: string, zone: string): Pattern {
  return rule ? { ...choicesOf(rule, start, zone), readFrom: { rule, start, zone } } : once(start)
}

function choicesOf(rule: string, start: string, zone: string): Pattern {
  const pattern = once(start)
  const parts = Object.fromEntries(
    rule
      .toUpperCase()
      .split(';')
      .map((p) => p.split('=') as [string, string]),
  )
  const frequency = { DAILY: 'day', WEEKLY: 'week', MONTHLY: 'month', YEARLY: 'year' } as const
  const every = frequency[parts.FREQ as keyof typeof frequency]
  const known = ['FREQ', 'INTERVAL', 'BYDAY', 'UNTIL', 'COUNT', 'WKST', 'BYMONTHDAY', 'BYMONTH']
  const days = (parts.BYDAY ?? '').split(',').filter(Boolean)
  const here = `${ordinalOf(start)}${weekdayOf(start)}`
  const first = `${Math.ceil(Number(start.slice(8, 10)) / 7)}${weekdayOf(start)}`
  const plain =
    every !== undefined &&
    Object.keys(parts).every((k) => known.includes(k)) &&
    (!parts.BYMONTHDAY || Number(parts.BYMONTHDAY) === Number(start.slice(8, 10))) &&
    (!parts.BYMONTH || Number(parts.BYMONTH) === Number(start.slice(5, 7))) &&
    (every === 'day'
      ? !days.length
      : every === 'week'
        ? days.every((d) => weekdays.includes(d))
        : !days.length || (days.length === 1 && (days[0] === here || days[0] === first)))
  if (!plain || !every) return { ...pattern, every: 'rule', rule }
  return {
    ...pattern,
    every,
    interval: Number(parts.INTERVAL ?? 1),
    days: every === 'week' && days.length ? days : pattern.days,
    by: every !== 'week' && days.length ? 'weekday' : 'date',
    end: parts.UNTIL ? 'until' : parts.COUNT ? 'count' : 'never',
    until: parts.UNTIL ? untilDay(parts.UNTIL, zone) : pattern.until,
    count: parts.COUNT ? Number(parts.COUNT) : pattern.count,
  }
}

function untilDay(until: string, zone: string): string {
  const day = `${until.slice(0, 4)}-${until.slice(4, 6)}-${until.slice(6, 8)}`
  if (!until.endsWith('Z')) return day
  const time = `${until.slice(9, 11)}:${until.slice(11, 13)}:${until.slice(13, 15)}`
  return toLocal(new Date(`${day}T${time}Z`), zone).slice(0, 10)
}

/** Makes the rule; null for a single meeting. */
export function buildRule(pattern: Pattern, start: string, zone: string): string | null {
  if (pattern.every === 'once') return null
  if (pattern.every === 'rule') return pattern.rule.trim() || null
  const { readFrom: read, ...choices } = pattern
  // of two ways to write one rule another would be another series to whoever has it
  if (
    read?.start === start &&
    read.zone === zone &&
    same(choices, choicesOf(read.rule, start, zone))
  ) {
    return read.rule
  }
  const frequency = { day: 'DAILY', week: 'WEEKLY', month: 'MONTHLY', year: 'YEARLY' }[
    pattern.every
  ]
  const parts = [`FREQ=${frequency}`]
  if (pattern.interval > 1) parts.push(`INTERVAL=${pattern.interval}`)
  if (pattern.every === 'week' && pattern.days.length) {
    parts.push(`BYDAY=${weekdays.filter((d) => pattern.days.includes(d)).join(',')}`)
  }
  if (pattern.every === 'month' || pattern.every === 'year') {
    if (pattern.by === 'weekday') {
      if (pattern.every === 'year') parts.push(`BYMONTH=${Number(start.slice(5, 7))}`)
      parts.push(`BYDAY=${ordinalOf(start)}${weekdayOf(start)}`)
    }
  }
  if (pattern.end === 'count') parts.push(`COUNT=${Math.max(1, pattern.count)}`)
  if (pattern.end === 'until' && pattern.until) {
    // in UTC, as the standard asks where the start has a zone
    const last = toInstant(`${pattern.until}T23:59`, zone).toISOString()
    parts.push(`UNTIL=${last.slice(0, 19).replace(/[-:]/g, '')}Z`)
  }
  return parts.join(';')
}
