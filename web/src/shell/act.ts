import { ref } from 'vue'

/**
 * Something that a person does on a page: while it is under way `busy` is true, and what goes wrong
 * with it is the `problem` until the next try. A second click meanwhile does nothing.
 */
export function useAct() {
  const busy = ref(false)
  const problem = ref<Error | null>(null)

  /** Does it; undefined where it went wrong, or where another is still under way. */
  async function attempt<T>(work: () => Promise<T>): Promise<T | undefined> {
    if (busy.value) return undefined
    busy.value = true
    problem.value = null
    try {
      return await work()
    } catch (e) {
      problem.value = e as Error
      return undefined
    } finally {
      busy.value = false
    }
  }

  return { busy, problem, attempt }
}

/**
 * Acts on the rows of a list: on different rows they go on beside each other; a second press on the
 * same row does nothing meanwhile.
 */
export function useRowAct() {
  const underWay = new Set<string | number>()
  const problem = ref<Error | null>(null)

  /** Does it to a row; undefined where it went wrong, or where it is still under way. */
  async function attempt<T>(row: string | number, work: () => Promise<T>): Promise<T | undefined> {
    if (underWay.has(row)) return undefined
    underWay.add(row)
    problem.value = null
    try {
      return await work()
    } catch (e) {
      problem.value = e as Error
      return undefined
    } finally {
      underWay.delete(row)
    }
  }

  return { problem, attempt }
}
