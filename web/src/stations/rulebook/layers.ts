import { layerName, useOrganisation } from '@/api/catalogue'
import { scopeOf } from './book'

/** Gives a layer's name as people read it, from its key. */
export function useLayerTitle(): (key: string) => string {
  const { unitName, kindName } = useOrganisation()
  return (key) =>
    layerName(
      scopeOf(key),
      (id) => unitName(id),
      (id) => kindName(id),
    )
}
