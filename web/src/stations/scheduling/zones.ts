/** Local times of other zones than the browser's: `2027-01-11T09:00` on the clock of a zone. */

/** How far a zone's clock is ahead of UTC at an instant, in minutes. */
function offsetAt(instant: number, zone: string): number {
  const parts = new Intl.DateTimeFormat('en-GB', {
    timeZone: zone,
    hourCycle: 'h23',
    year: 'numeric',
    month: 'numeric',
    day: 'numeric',
    hour: 'numeric',
    minute: 'numeric',
    second: 'numeric',
  }).formatToParts(instant)
  const of = (type: string) => Number(parts.find((p) => p.type === type)?.value)
  const shown = Date.UTC(
    of('year'),
    of('month') - 1,
    of('day'),
    of('hour'),
    of('minute'),
    of('second'),
  )
  return Math.round((shown - Math.floor(instant / 1000) * 1000) / 60_000)
}

/** The instant of a local time; one that a clock change skips moves on by the gap. */
export function toInstant(local: string, zone: string): Date {
  const plain = Date.parse(`${local.length === 16 ? `${local}:00` : local}Z`)
  const before = offsetAt(plain - 864e5, zone)
  let instant = plain - before * 60_000
  const there = offsetAt(instant, zone)
  if (there !== before) {
    const second = plain - there * 60_000
    instant = offsetAt(second, zone) === there ? second : instant
  }
  return new Date(instant)
}

/** What a zone's clock shows at an instant, to the minute: `2027-01-11T09:00`. */
export function toLocal(instant: Date, zone: string): string {
  return new Date(instant.getTime() + offsetAt(instant.getTime(), zone) * 60_000)
    .toISOString()
    .slice(0, 16)
}

export const browserZone = Intl.DateTimeFormat().resolvedOptions().timeZone

/** Zones to choose from, as the browser knows them. */
export const allZones: string[] =
  typeof Intl.supportedValuesOf === 'function'
    ? ['UTC', ...Intl.supportedValuesOf('timeZone')]
    : ['UTC', browserZone]

/**
 * The zone meant by its name, in whatever case, or by a city that is in one zone only; null where
 * there is no such zone.
 */
export function zoneMeant(text: string): string | null {
  const wanted = text.trim().toLowerCase().replace(/\s+/g, '_')
  if (!wanted) return null
  const exact = allZones.find((z) => z.toLowerCase() === wanted)
  if (exact) return exact
  const cities = allZones.filter((z) => z.toLowerCase().endsWith(`/${wanted}`))
  if (cities.length === 1) return cities[0] ?? null
  if (!/^[a-z]+(?:[_/+-][a-z0-9_+-]+)+$/.test(wanted)) return null
  try {
    // older names of zones stay good
    new Intl.DateTimeFormat('en', { timeZone: text.trim() })
    return text.trim()
  } catch {
    return null
  }
}

/** A day later or earlier, `2027-01-11`. */
export function addDays(day: string, days: number): string {
  return new Date(Date.parse(`${day}T00:00:00Z`) + days * 864e5).toISOString().slice(0, 10)
}
