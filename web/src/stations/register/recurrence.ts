import { t } from '@/wording'

/** Days of the week by their names in a recurrence rule (RFC 5545). */
export const dayNames: Record<string, string> = {
  MO: t('register.mon'),
  TU: t('register.tue'),
  WE: t('register.wed'),
  TH: t('register.thu'),
  FR: t('register.fri'),
  SA: t('register.sat'),
  SU: t('register.sun'),
}
const ordinals: Record<string, string> = {
  '1': t('register.first'),
  '2': t('register.second'),
  '3': t('register.third'),
  '4': t('register.fourth'),
  '5': t('register.fifth'),
  '-1': t('register.last'),
}

/** A recurrence rule (RFC 5545) in a few words; rules beyond the common ones are shown as they are. */
export function recurrenceWords(rule: string | null | undefined): string {
  if (!rule) return t('register.once')
  const parts = Object.fromEntries(rule.split(';').map((p) => p.split('=')))
  const interval = Number(parts.INTERVAL ?? 1)
  const by = String(parts.BYDAY ?? '')
    .split(',')
    .filter(Boolean)
  const names = by.map((d) => {
    const match = /^(-?\d)?([A-Z]{2})$/.exec(d)
    const ordinal = match?.[1] ? `${ordinals[match[1]] ?? match[1]} ` : ''
    return ordinal + (dayNames[match?.[2] ?? ''] ?? d)
  })
  const known = ['FREQ', 'INTERVAL', 'BYDAY', 'UNTIL', 'COUNT', 'WKST']
  if (Object.keys(parts).some((k) => !known.includes(k))) return rule
  const on = names.length ? ` ${names.join(' ')}` : ''
  switch (parts.FREQ) {
    case 'DAILY':
      return interval === 1 ? t('register.daily') : t('register.everyIntervalDays', { interval })
    case 'WEEKLY':
      if (by.join() === 'MO,TU,WE,TH,FR' && interval === 1) return t('register.workdays')
      return (
        (interval === 1
          ? t('register.weekly')
          : interval === 2
            ? t('register.fortnightly')
            : t('register.everyIntervalWeeks', { interval })) + on
      )
    case 'MONTHLY':
      return (
        (interval === 1 ? t('register.monthly') : t('register.everyIntervalMonths', { interval })) +
        on
      )
    case 'YEARLY':
      return interval === 1 ? t('register.yearly') : t('register.everyIntervalYears', { interval })
    default:
      return rule
  }
}
