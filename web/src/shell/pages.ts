import { computed, reactive, ref } from 'vue'
import { pagesFor } from './windowed'

/** Some rows of a long list, and how many it has. */
export interface SomeRows<T> {
  items: T[]
  total: number
}

/** How many rows are asked for at once. */
export const PAGE = 200

/**
 * A long list that is read a page at a time as its rows come into sight.
 *
 * @param ask asks for a page; undefined while there is nothing to ask for
 */
export function usePages<T>(ask: (page: number) => Promise<SomeRows<T>> | undefined) {
  const pages = reactive(new Map<number, unknown>()) as Map<number, T[]>
  const total = ref<number | null>(null)
  const problem = ref<Error | null>(null)
  /** The pages that are asked for, and whether they have changed since: then they are asked for once more. */
  const waiting = new Map<number, boolean>()
  let round = 0

  async function page(number: number, again = false) {
    if (waiting.has(number)) {
      if (again) waiting.set(number, true)
      return
    }
    if (pages.has(number) && !again) return
    const asked = ask(number)
    if (!asked) return
    const mine = round
    waiting.set(number, false)
    try {
      const answer = await asked
      if (mine !== round) return
      pages.set(number, answer.items)
      total.value = answer.total
      problem.value = null
    } catch (e) {
      if (mine === round) problem.value = e as Error
    } finally {
      if (mine === round) {
        const isOld = waiting.get(number)
        waiting.delete(number)
        if (isOld) void page(number, true)
      }
    }
  }
  /** Something has changed: what was read is read again, and stays in sight until it is. */
  function refresh() {
    const known = [...new Set([...pages.keys(), ...waiting.keys()])]
    ;(known.length ? known : [0]).forEach((n) => void page(n, true))
  }
  /** Somebody has changed something here: no answer counts that was asked for before. */
  function reload() {
    round++
    waiting.clear()
    refresh()
  }
  /** Another list: of this one stays in sight how long it was, until it is known how long that is. */
  function restart() {
    pages.clear()
    reload()
  }

  const at = (index: number): T | undefined => pages.get(Math.floor(index / PAGE))?.[index % PAGE]
  function want(first: number, last: number) {
    pagesFor(first, Math.min(last, total.value ?? last), PAGE).forEach((p) => void page(p))
  }
  const known = computed(() => [...pages.values()].flat())
  return { at, want, total, problem, reload, refresh, restart, known }
}
