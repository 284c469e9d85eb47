import { type EntryKey, useQueryCache } from '@pinia/colada'

/**
 * Shows what an act answered. A reading that was under way before it is older than that, and is not
 * listened to any more.
 */
export function useKeep() {
  const cache = useQueryCache()
  return <T>(key: EntryKey, answered: T) => {
    cache.cancelQueries({ key, exact: true })
    cache.setQueryData<T>(key, answered)
  }
}
