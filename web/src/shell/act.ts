import { computed, ref, shallowReactive } from 'vue'

/**
 * Something that a person does on a page: while it is under way `busy` is true, and what goes wrong
 * with it is the `problem` until the next try. A second click meanwhile does nothing.
 */
export function useAct() {
  const { underWay, problem, attempt } = useRowAct()
  return {
    busy: computed(() => underWay.size > 0),
    problem,
    /** Does it; undefined where it went wrong, or where another is still under way. */
    attempt: <T>(work: () => Promise<T>) => attempt('', work),
  }
}

/**
 * Acts on the rows of a list: on different rows they go on beside each other; a second press on the
 * same row does nothing meanwhile.
 *
 * @param problem where what goes wrong is told, if that is told together with other acts
 */
export function useRowAct(problem = ref<Error | null>(null)) {
  /** The rows on which something is under way. */
  const underWay = shallowReactive(new Set<string | number>())

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

  return { underWay, problem, attempt }
}

/** Has acts wait for each other, so that of two in turn the last one stands. */
export function useTurns() {
  let last: Promise<unknown> = Promise.resolve()
  return (act: () => Promise<unknown>) => (last = last.then(act))
}
