import { t } from '@/wording'
import { label, type Plain } from '@/api/catalogue'
import type { ControlView, Resolved } from '@/api/schema'
import type { Rule } from './book'

/** A place on a ladder: a value, its words, and how many series stand there. */
export interface Rung {
  value: Plain
  label: string
  count: number
  /** The conference services that cannot hold it, by name. */
  notIn?: string[]
}

/** The same rungs, each with the services that cannot hold it. */
export function withMeans(
  control: string,
  rungs: Rung[],
  services: { name: string; means: Record<string, unknown> }[],
): Rung[] {
  return services.length === 0
    ? rungs
    : rungs.map((rung) => ({
        ...rung,
        notIn: services.filter((s) => !holds(s.means[control], rung.value)).map((s) => s.name),
      }))
}
function holds(means: unknown, value: Plain): boolean {
  if (!means) return false
  const values = (means as { values?: Plain[] }).values
  return !values || values.some((v) => JSON.stringify(v) === JSON.stringify(value))
}

const usual: Record<string, number[]> = {
  minutes: [60, 30, 15, 10, 5, 0],
  characters: [4, 6, 8, 10, 12, 16],
}

/**
 * The rungs of a control, loosest first. Words have theirs; numbers get the usual ones and every one
 * that a rule or a series has; sets get each set that a rule or a series has, the widest first.
 */
export function rungsOf(
  control: ControlView,
  rule: Rule | undefined,
  counts: Record<string, number>,
): Rung[] {
  const rung = (value: Plain): Rung => ({
    value,
    label: short(control, value),
    count: counts[Array.isArray(value) ? value.join(',') : String(value)] ?? 0,
  })
  if (control.scale === 'words') return control.rungs.map((r) => rung(r.word))
  const ruled = [rule?.start, rule?.limit, rule?.value]
  if (control.scale === 'numbers') {
    const found = Object.keys(counts)
      .filter((k) => /^\d+$/.test(k))
      .map(Number)
    const numbers = [
      ...new Set([
        ...(usual[control.unit ?? ''] ?? []),
        ...found,
        ...ruled.filter((v): v is number => typeof v === 'number'),
      ]),
    ].sort((a, b) => (control.largerIsStricter ? a - b : b - a))
    return [...control.rungs.map((r) => rung(r.word)), ...numbers.map(rung)]
  }
  const sets = new Map<string, string[]>()
  const keep = (names: string[]) => sets.set(names.join(','), names)
  keep(control.emptyIsAll ? [] : (control.universe ?? []))
  for (const key of Object.keys(counts)) if (key !== '?') keep(key === '' ? [] : key.split(','))
  for (const value of ruled) if (Array.isArray(value)) keep(value)
  const size = (names: string[]) =>
    control.emptyIsAll && names.length === 0 ? Number.POSITIVE_INFINITY : names.length
  return [...sets.values()].sort((a, b) => size(b) - size(a)).map(rung)
}

/** Words short enough to stand under a rung. */
function short(control: ControlView, value: Plain): string {
  if (typeof value === 'number' && value > 0)
    return control.unit === 'minutes' ? t('rulebook.valueMin', { value }) : String(value)
  return label(control, value)
}

/** The value new meetings begin with. */
export function startOf(rule: Rule | undefined): Plain | undefined {
  return rule?.mode === 'fix' ? rule.value : rule?.start
}

/** The loosest value hosts may choose; none for a suggestion. */
export function limitOf(rule: Rule | undefined): Plain | undefined {
  return rule?.mode === 'fix' ? rule.value : rule?.mode === 'bound' ? rule.limit : undefined
}

/** A rule of one's own in place of what applies from above: its values, not its reason. */
export function ownFrom(control: string, resolved: Resolved | undefined): Rule | undefined {
  const rule = ruleFrom(control, resolved)
  if (rule) {
    delete rule.reason
    delete rule.sealed
  }
  return rule
}

/** The same rule in another mode, with what it has carried over. */
export function inMode(rule: Rule | undefined, control: ControlView, mode: Rule['mode']): Rule {
  const start = startOf(rule) ?? strictest(control)
  const common = {
    control: control.id,
    mode,
    importance: rule?.importance ?? 2,
    ...(rule?.reason ? { reason: rule.reason } : {}),
  }
  const sealed = rule?.sealed ? { sealed: true } : {}
  if (mode === 'suggest') return { ...common, start }
  if (mode === 'fix') return { ...common, value: start, ...sealed }
  return { ...common, start, limit: limitOf(rule) ?? start, ...sealed }
}

function strictest(control: ControlView): Plain {
  if (control.scale === 'words') return control.rungs[control.rungs.length - 1]?.word ?? ''
  if (control.scale === 'numbers') return control.largerIsStricter ? 10 : 0
  return control.emptyIsAll ? [] : (control.universe ?? [])
}

/** A resolved rule in the form of a layer's own, for drawing. */
export function ruleFrom(control: string, resolved: Resolved | undefined): Rule | undefined {
  if (!resolved) return undefined
  const start = resolved.start as Plain
  const limit = (resolved.limit ?? undefined) as Plain | undefined
  const common = {
    control,
    importance: resolved.importance,
    ...(resolved.reason ? { reason: resolved.reason } : {}),
    ...(resolved.sealed ? { sealed: true } : {}),
  }
  if (resolved.mode === 'fix') return { ...common, mode: 'fix', value: start }
  if (resolved.mode === 'suggest') return { ...common, mode: 'suggest', start }
  return { ...common, mode: 'bound', start, ...(limit === undefined ? {} : { limit }) }
}
