const days: Record<string, string> = {
  MO: 'Mon',
  TU: 'Tue',
  WE: 'Wed',
  TH: 'Thu',
  FR: 'Fri',
  SA: 'Sat',
  SU: 'Sun',
}
const ordinals: Record<string, string> = {
  '1': 'first',
  '2': 'second',
  '3': 'third',
  '4': 'fourth',
  '5': 'fifth',
  '-1': 'last',
}

/** A recurrence rule (RFC 5545) in a few words; rules beyond the common ones are shown as they are. */
export function recurrenceWords(rule: string | null | undefined): string {
  if (!rule) return 'once'
  const parts = Object.fromEntries(rule.split(';').map((p) => p.split('=')))
  const interval = Number(parts.INTERVAL ?? 1)
  const by = String(parts.BYDAY ?? '')
    .split(',')
    .filter(Boolean)
  const names = by.map((d) => {
    const match = /^(-?\d)?([A-Z]{2})$/.exec(d)
    const ordinal = match?.[1] ? `${ordinals[match[1]] ?? match[1]} ` : ''
    return ordinal + (days[match?.[2] ?? ''] ?? d)
  })
  const known = ['FREQ', 'INTERVAL', 'BYDAY', 'UNTIL', 'COUNT', 'WKST']
  if (Object.keys(parts).some((k) => !known.includes(k))) return rule
  const on = names.length ? ` ${names.join(' ')}` : ''
  switch (parts.FREQ) {
    case 'DAILY':
      return interval === 1 ? 'daily' : `every ${interval} days`
    case 'WEEKLY':
      if (by.join() === 'MO,TU,WE,TH,FR' && interval === 1) return 'workdays'
      return (
        (interval === 1 ? 'weekly' : interval === 2 ? 'fortnightly' : `every ${interval} weeks`) +
        on
      )
    case 'MONTHLY':
      return (interval === 1 ? 'monthly' : `every ${interval} months`) + on
    case 'YEARLY':
      return interval === 1 ? 'yearly' : `every ${interval} years`
    default:
      return rule
  }
}
