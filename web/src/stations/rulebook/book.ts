import type { Plain } from '@/api/catalogue'

/** A rule as the bundle writes it. */
export interface Rule {
  control: string
  mode: 'suggest' | 'bound' | 'fix'
  start?: Plain
  limit?: Plain
  value?: Plain
  sealed?: boolean
  importance?: number
  reason?: string
}

/** A guarantee as the bundle writes it. */
export interface Guarantee {
  id: string
  who: string[]
  rights: string[]
  ceiling: string
  importance?: number
  reason?: string
}

/** A layer as the bundle writes it. */
export interface Layer {
  scope: { level: 'organisation' | 'unit' | 'kind'; id?: string }
  rules: Rule[]
  guarantees?: Guarantee[]
}

/** The bundle's rulebook part. */
export interface Rulebook {
  layers: Layer[]
}

/** A rule or a guarantee at its place. */
export interface Place {
  layer: string
  control?: string
  guarantee?: string
}

/** What was at a place and what is to be there; null is nothing. */
export interface Edit extends Place {
  before: Rule | Guarantee | null
  after: Rule | Guarantee | null
}

export const copy = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T

/** Whether two plain values are the same, in whatever order their keys stand. */
export function same(a: unknown, b: unknown): boolean {
  if (a === b) return true
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false
  const x = a as Record<string, unknown>
  const y = b as Record<string, unknown>
  const keys = new Set([...Object.keys(x), ...Object.keys(y)])
  return [...keys].every((key) => same(x[key], y[key]))
}

/** A layer's name in addresses: `organisation`, `unit:pilotage`. */
export function scopeKey(scope: Layer['scope']): string {
  return scope.id ? `${scope.level}:${scope.id}` : scope.level
}

export function scopeOf(key: string): Layer['scope'] {
  const [level, id] = key.split(':')
  return { level: level as Layer['scope']['level'], ...(id ? { id } : {}) }
}

export function layerOf(book: Rulebook | null | undefined, key: string): Layer | undefined {
  return book?.layers.find((layer) => scopeKey(layer.scope) === key)
}

export function ruleOf(
  book: Rulebook | null | undefined,
  key: string,
  control: string,
): Rule | undefined {
  return layerOf(book, key)?.rules.find((rule) => rule.control === control)
}

/** What stands at a place, or null. */
export function at(book: Rulebook, place: Place): Rule | Guarantee | null {
  const layer = layerOf(book, place.layer)
  const found = place.control
    ? layer?.rules.find((rule) => rule.control === place.control)
    : layer?.guarantees?.find((guarantee) => guarantee.id === place.guarantee)
  return found ?? null
}

export const samePlace = (a: Place, b: Place) =>
  a.layer === b.layer && a.control === b.control && a.guarantee === b.guarantee

/** The rulebook with something else at a place. */
export function put(book: Rulebook, place: Place, item: Rule | Guarantee | null): Rulebook {
  const next = copy(book)
  let layer = layerOf(next, place.layer)
  if (!layer) {
    if (!item) return next
    layer = { scope: scopeOf(place.layer), rules: [] }
    next.layers.push(layer)
  }
  if (place.control) {
    const i = layer.rules.findIndex((rule) => rule.control === place.control)
    if (item && i >= 0) layer.rules[i] = item as Rule
    else if (item) layer.rules.push(item as Rule)
    else if (i >= 0) layer.rules.splice(i, 1)
  } else {
    layer.guarantees ??= []
    const i = layer.guarantees.findIndex((guarantee) => guarantee.id === place.guarantee)
    if (item && i >= 0) layer.guarantees[i] = item as Guarantee
    else if (item) layer.guarantees.push(item as Guarantee)
    else if (i >= 0) layer.guarantees.splice(i, 1)
  }
  return next
}

/** An id no guarantee of the rulebook has yet, made from what it says. */
export function freeId(book: Rulebook, who: string, right: string): string {
  const taken = new Set(book.layers.flatMap((l) => (l.guarantees ?? []).map((g) => g.id)))
  const base = `${who}-${right}`
  let id = base
  for (let i = 2; taken.has(id); i++) id = `${base}-${i}`
  return id
}
