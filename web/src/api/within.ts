import type { Plain } from './catalogue'
import type { ControlView } from './schema'

/**
 * The static order of a control's values, as the core has it: whether a value stands at a limit or
 * on its strict side. For drawing only; what counts is the server's judgement, which also reads the
 * lists of a meeting.
 */
export function within(control: ControlView, value: Plain, limit: Plain): boolean {
  if (control.scale === 'sets') {
    const names = value as string[]
    const bar = limit as string[]
    if (control.emptyIsAll && bar.length === 0) return true
    return !(control.emptyIsAll && names.length === 0) && names.every((n) => bar.includes(n))
  }
  if (control.scale === 'numbers') {
    const amount = (v: Plain) => (typeof v === 'number' ? v : Number.POSITIVE_INFINITY)
    return control.largerIsStricter
      ? amount(value) >= amount(limit)
      : amount(value) <= amount(limit)
  }
  const rank = (v: Plain) => control.rungs.findIndex((r) => r.word === v)
  return control.neutral ? rank(value) === rank(limit) : rank(value) >= rank(limit)
}
