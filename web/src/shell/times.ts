/** A time for a table: today, tomorrow, a weekday within a week, a date after that. */
export function shortTime(iso: string | null | undefined, zone?: string): string {
  if (!iso) return 'none ahead'
  const then = new Date(iso)
  const days = Math.floor((startOfDay(then).getTime() - startOfDay(new Date()).getTime()) / 864e5)
  const clock = then.toLocaleTimeString('en-GB', {
    hour: '2-digit',
    minute: '2-digit',
    timeZone: zone,
  })
  if (days === 0) return `today ${clock}`
  if (days === 1) return `tomorrow ${clock}`
  if (days > 1 && days < 7)
    return `${then.toLocaleDateString('en-GB', { weekday: 'short' }).toLowerCase()} ${clock}`
  return `${then.toLocaleDateString('en-GB', { day: 'numeric', month: 'short' })} ${clock}`
}

function startOfDay(date: Date): Date {
  return new Date(date.getFullYear(), date.getMonth(), date.getDate())
}

/** Date and time in full, in the viewer's zone. */
export function fullTime(iso: string, zone?: string): string {
  return new Date(iso).toLocaleString('en-GB', {
    weekday: 'short',
    day: 'numeric',
    month: 'short',
    year: 'numeric',
    hour: '2-digit',
    minute: '2-digit',
    timeZone: zone,
  })
}

/** The day alone. */
export function day(iso: string): string {
  return new Date(iso).toLocaleDateString('en-GB', { day: 'numeric', month: 'short' })
}
