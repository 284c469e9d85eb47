import { t } from '@/wording'
import { AWAY, Problem } from '@/api/client'
import { computed, type Ref, ref, shallowReactive, shallowRef } from 'vue'

/** An act without an answer may have been done: only a look tells. */
const unanswered = (e: unknown) =>
  e instanceof Problem && e.code === AWAY
    ? new Problem(0, AWAY, t('shell.noAnswerToAnAct'), [])
    : undefined

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
      problem.value = unanswered(e) ?? (e as Error)
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

/**
 * A setting that counts as soon as it is chosen. Of several choices in turn the last stands; until it
 * is answered the field shows what was chosen, and then what is in force, also where it was refused.
 * The field stays usable meanwhile, so that the keyboard keeps its place.
 *
 * @param inForce what is in force, as it was read last
 * @param put sets it, and reads again what is in force
 * @param problem where what goes wrong is told, if that is told together with other acts
 */
export function useSetting<T>(
  inForce: () => T,
  put: (wanted: T) => Promise<unknown>,
  problem: Ref<Error | null> = ref(null),
) {
  const turn = useTurns()
  const { attempt } = useRowAct(problem)
  const chosen = shallowRef<{ value: T }>()
  return {
    problem,
    shown: computed(() => (chosen.value ? chosen.value.value : inForce())),
    /** Sets it; whether it was taken. */
    set(value: T) {
      const mine = { value }
      chosen.value = mine
      return turn(async () => {
        const done = await attempt('', () => put(value).then(() => true))
        if (chosen.value === mine) chosen.value = undefined
        return done === true
      }) as Promise<boolean>
    },
  }
}

/** A key for one act: sent again with it, it is still one. */
export function freshKey(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16))
  return Array.from(bytes, (b) => b.toString(16).padStart(2, '0')).join('')
}
