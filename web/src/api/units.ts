import { computed } from 'vue'
import { useOrganisation } from './catalogue'
import { useSession } from './session'

type Unit = { id: string; parent?: string | null }

/** A unit and those below it, the unit first. */
export function withBelow(units: Unit[], top: string): string[] {
  const found = [top]
  for (let i = 0; i < found.length; i++) {
    for (const unit of units)
      if (unit.parent === found[i] && !found.includes(unit.id)) found.push(unit.id)
  }
  return found
}

/** What a unit’s warden looks after; everybody else is bound to no unit. */
export function useOwnUnits() {
  const session = useSession()
  const { organisation, unitName } = useOrganisation()
  const own = computed(() =>
    session.isUnitWarden
      ? withBelow(organisation.value?.units ?? [], session.who?.unit ?? '')
      : null,
  )
  /** Whether a layer of the rulebook is theirs to change. */
  const isOwnLayer = (layer: string) =>
    own.value === null || own.value.some((unit) => layer === `unit:${unit}`)
  return { own, isOwnLayer, ownName: computed(() => unitName(session.who?.unit)) }
}
