import { t } from '@/wording'
import { useQuery } from '@pinia/colada'
import { computed } from 'vue'
import { api, take } from './client'
import { nameOf } from './names'
import type { ControlView, Plain } from './schema'

/** A control's value in its plain form. */
export type { Plain }

/**
 * What the core declares: controls, families, checks, personas, rights, levels.
 *
 * @param when whether it is wanted yet
 */
export function useCatalogue(when: () => boolean = () => true) {
  const { data, error } = useQuery({
    key: ['catalogue'],
    query: () => take(api.GET('/api/catalogue')),
    enabled: when,
    staleTime: Infinity,
  })
  const controls = computed(() => new Map((data.value?.controls ?? []).map((c) => [c.id, c])))
  const checks = computed(() => new Map((data.value?.checks ?? []).map((c) => [c.id, c])))
  const controlTitle = (id: string) => controls.value.get(id)?.title ?? id
  const checkTitle = (id: string) => checks.value.get(id)?.title ?? id
  const stepTitle = (id: string) => data.value?.steps.find((s) => s.id === id)?.title ?? id
  return { catalogue: data, error, controls, controlTitle, checkTitle, stepTitle }
}

/**
 * The organisation's name, units and kinds.
 *
 * @param when whether they are wanted yet
 */
export function useOrganisation(when: () => boolean = () => true) {
  const { data } = useQuery({
    key: ['organisation'],
    query: () => take(api.GET('/api/organisation')),
    enabled: when,
    staleTime: 60_000,
  })
  const unitName = (id?: string | null) => data.value?.units.find((u) => u.id === id)?.name ?? ''
  const kindName = (id?: string | null) => data.value?.kinds.find((k) => k.id === id)?.name ?? ''
  return { organisation: data, unitName, kindName }
}

/** A layer as people read it. */
export function layerName(
  scope: { level: string; id?: string },
  unitName: (id?: string) => string,
  kindName: (id?: string) => string,
): string {
  if (scope.level === 'organisation') return t('shell.organisation')
  return (scope.level === 'unit' ? unitName(scope.id) : kindName(scope.id)) || scope.id || ''
}

/** A value as people read it. */
export function label(control: ControlView | undefined, value: unknown): string {
  if (value === null || value === undefined) return t('shell.notKnown')
  if (Array.isArray(value)) {
    if (value.length === 0) return control?.emptyIsAll ? t('shell.all') : t('shell.none')
    return value.map((member) => nameOf(control, String(member))).join(', ')
  }
  const rung = control?.rungs.find((r) => r.word === value)
  if (rung) return rung.label
  if (value === 0 && control?.zero) return control.zero
  if (typeof value === 'number' && control?.unit) return `${value} ${control.unit}`
  return String(value)
}

/**
 * The values a list of choices offers: words, or usual numbers with those that are known already,
 * such as the present one and the limit.
 */
export function optionsOf(
  control: ControlView,
  known: unknown[],
): { value: Plain; label: string }[] {
  const words = control.rungs.map((r) => ({ value: r.word as Plain, label: r.label }))
  if (control.scale === 'words') return words
  const usual = control.unit === 'minutes' ? [60, 30, 15, 10, 5, 0] : []
  const numbers = [
    ...new Set([...usual, ...known.filter((v): v is number => typeof v === 'number')]),
  ].sort((a, b) => b - a)
  return [...words, ...numbers.map((n) => ({ value: n as Plain, label: label(control, n) }))]
}
