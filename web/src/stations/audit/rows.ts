import { computed, reactive, ref, watch, type Ref } from 'vue'
import { api, take } from '@/api/client'
import type { WallRow } from '@/api/schema'
import { pagesFor } from '@/stations/register/windowed'

/** What the wall is narrowed to, and how its rows stand together. */
export interface WallFilter {
  audit: number
  show: string
  group: string
  unit: string
  kind: string
  host: string
  check: string
  subject: string
  baseline: string
  severity: string
  text: string
  /** From when to before when a meeting's next occurrence begins, as instants. */
  from?: string
  to?: string
}

const size = 200

/** The wall's rows, read a page at a time as they come into sight. */
export function useWall(filter: Ref<WallFilter | null>) {
  const pages = reactive(new Map<number, WallRow[]>())
  const total = ref<number | null>(null)
  const problem = ref<Error | null>(null)
  const waiting = new Set<number>()
  let round = 0

  async function page(number: number, again = false) {
    const wanted = filter.value
    if (!wanted || (pages.has(number) && !again) || waiting.has(number)) return
    const mine = round
    waiting.add(number)
    try {
      const { audit, severity, ...texts } = wanted
      const given = Object.fromEntries(Object.entries(texts).filter(([, v]) => v))
      const answer = await take(
        api.GET('/api/audits/{id}/wall', {
          params: {
            path: { id: audit },
            query: {
              ...given,
              ...(severity ? { severity: Number(severity) } : {}),
              page: number,
              size,
            },
          },
        }),
      )
      if (mine !== round) return
      pages.set(number, answer.items)
      total.value = answer.total
      problem.value = null
    } catch (e) {
      if (mine === round) problem.value = e as Error
    } finally {
      if (mine === round) waiting.delete(number)
    }
  }
  function reload() {
    round++
    waiting.clear()
    pages.clear()
    total.value = null
    void page(0)
  }
  /** Reads what is there once more without taking it away meanwhile. */
  function refresh() {
    const known = [...pages.keys()]
    ;(known.length ? known : [0]).forEach((n) => void page(n, true))
  }
  // by its text: the address changes for other reasons too, and a list is not read again for those
  watch(() => JSON.stringify(filter.value), reload, { immediate: true })

  const at = (index: number): WallRow | undefined =>
    pages.get(Math.floor(index / size))?.[index % size]
  function want(first: number, last: number) {
    pagesFor(first, Math.min(last, total.value ?? last), size).forEach((p) => void page(p))
  }
  const known = computed(() => [...pages.values()].flat())
  return { at, want, total, problem, reload, refresh, known }
}
