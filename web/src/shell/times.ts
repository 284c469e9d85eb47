import { locale, t } from '@/wording'

const formats = new Map<string, Intl.DateTimeFormat>()

/** To make a format takes far longer than to use it, and a page may show hundreds of times. */
function format(how: Intl.DateTimeFormatOptions): Intl.DateTimeFormat {
  const key = JSON.stringify(how)
  let known = formats.get(key)
  if (!known) formats.set(key, (known = new Intl.DateTimeFormat(locale, how)))
  return known
}

/** Makes the formats of what most pages show before they are wanted. */
export function makeFormats() {
  const now = new Date()
  for (const days of [0, 3, 30]) shortTime(new Date(+now + days * 864e5).toISOString())
  day(now.toISOString())
  weekday(now)
}

/** A time for a table: today, tomorrow, a weekday within a week, a date after that. */
export function shortTime(iso: string | null | undefined, zone?: string): string {
  if (!iso) return t('shell.noneAhead')
  const then = new Date(iso)
  const days = Math.floor((startOfDay(then).getTime() - startOfDay(new Date()).getTime()) / 864e5)
  const clock = format({ hour: '2-digit', minute: '2-digit', timeZone: zone }).format(then)
  if (days === 0) return t('shell.todayClock', { clock })
  if (days === 1) return t('shell.tomorrowClock', { clock })
  if (days > 1 && days < 7)
    return `${format({ weekday: 'short' }).format(then).toLowerCase()} ${clock}`
  return `${format({ day: 'numeric', month: 'short' }).format(then)} ${clock}`
}

function startOfDay(date: Date): Date {
  return new Date(date.getFullYear(), date.getMonth(), date.getDate())
}

/** Date and time in full, in the viewer's zone. */
export function fullTime(iso: string, zone?: string): string {
  return format({
    weekday: 'short',
    day: 'numeric',
    month: 'short',
    year: 'numeric',
    hour: '2-digit',
    minute: '2-digit',
    timeZone: zone,
  }).format(new Date(iso))
}

/** A weekday and its number, of a day that begins at midnight in UTC. */
export function weekday(date: Date): string {
  return format({ weekday: 'short', day: 'numeric', timeZone: 'UTC' }).format(date)
}

/** The day alone. */
export function day(iso: string): string {
  return format({ day: 'numeric', month: 'short' }).format(new Date(iso))
}
