import { until } from '@vueuse/core'
import { ref, watch, type Ref } from 'vue'
import { api, take } from '@/api/client'
import type { AppraisalView, ImpactView } from '@/api/schema'
import type { Rulebook } from './book'

const wire = (book: Rulebook) => book as unknown as Record<string, unknown>

/**
 * Asks anew whenever something changes, one question at a time: what changes while an answer is on
 * its way is asked after it, and only its last state. What was answered last is not asked again.
 */
export function latest<A, T>(
  wanted: () => A | null,
  ask: (about: A) => Promise<T>,
): { answer: Ref<T | null>; problem: Ref<Error | null>; asking: Ref<boolean> } {
  const answer = ref(null) as Ref<T | null>
  const problem = ref<Error | null>(null)
  const asking = ref(false)
  let again = false
  let answered = ''
  async function go() {
    again = true
    if (asking.value) return
    asking.value = true
    while (again) {
      again = false
      const about = wanted()
      if (about === null) {
        answer.value = null
        answered = ''
        continue
      }
      const question = JSON.stringify(about)
      if (question === answered) continue
      try {
        answer.value = await ask(about)
        problem.value = null
        answered = question
      } catch (e) {
        problem.value = e as Error
      }
    }
    asking.value = false
  }
  watch(wanted, go, { immediate: true })
  return { answer, problem, asking }
}

/** What publishing the rulebook would change in the register. */
export function useImpact(
  book: Ref<Rulebook | null>,
  subject: Ref<string | null>,
  size: Ref<number>,
  /** The edition that it is held against; undefined while it is not known. */
  edition: Ref<number | undefined>,
  allowed: () => boolean,
) {
  return latest(
    () =>
      book.value && allowed()
        ? {
            edition: edition.value,
            body: { document: wire(book.value), subject: subject.value, from: 0, size: size.value },
          }
        : null,
    ({ body }): Promise<ImpactView> => take(api.POST('/api/rulebook/impact', { body })),
  )
}

/** For whom a rulebook is resolved. */
export interface Whom {
  unit?: string | undefined
  kind?: string | undefined
  person?: string | undefined
}

/**
 * The rulebook as it applies to somebody, and what is to be said about it; asked when what is more
 * urgent has been answered.
 */
export function useAppraisal(
  book: Ref<Rulebook | null>,
  whom: Ref<Whom>,
  busy: Ref<boolean> = ref(false),
) {
  return latest(
    () =>
      book.value
        ? {
            document: wire(book.value),
            unit: whom.value.unit ?? null,
            kind: whom.value.kind ?? null,
            person: whom.value.person ?? null,
          }
        : null,
    async (body): Promise<AppraisalView> => {
      await until(busy).toBe(false)
      return take(api.POST('/api/rulebook/appraisal', { body }))
    },
  )
}
