import { computed, reactive, ref, watch, type Ref } from 'vue'
import { api, take } from '@/api/client'
import type { Line } from '@/api/schema'
import { pagesFor } from './windowed'

/** What the register is narrowed to and sorted by. */
export interface LineFilter {
  text: string
  unit: string
  kind: string
  band: string
  host: string
  /** The number of the conference service that holds them, "0" for none, or empty for all. */
  service: string
  open: boolean
  sort: string
  /** From when to before when the next occurrence begins, as instants. */
  from?: string
  to?: string
}

const size = 200

/** The register's lines, read a page at a time as they come into sight. */
export function useLines(filter: Ref<LineFilter>) {
  const pages = reactive(new Map<number, Line[]>())
  const total = ref<number | null>(null)
  const problem = ref<Error | null>(null)
  const waiting = new Set<number>()
  let round = 0

  async function page(number: number, again = () => false) {
    if ((pages.has(number) && !again()) || waiting.has(number)) return
    const mine = round
    waiting.add(number)
    try {
      const { open, service, ...texts } = filter.value
      const answer = await take(
        api.GET('/api/meetings', {
          params: {
            query: {
              ...texts,
              open,
              service: service ? Number(service) : undefined,
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
  /** Reads what is there again; until the answers come what was read stays in sight. */
  function reload() {
    round++
    waiting.clear()
    const there = [...pages.keys()]
    const mine = round
    for (const number of there.length ? there : [0]) void page(number, () => mine === round)
  }
  function afresh() {
    pages.clear()
    reload()
  }
  // by what it asks for: an address in which only the row differs asks for the same lines, and rows
  // that are drawn anew under the pointer lose its click
  watch(() => JSON.stringify(filter.value), afresh, { immediate: true })

  const at = (index: number): Line | undefined =>
    pages.get(Math.floor(index / size))?.[index % size]
  function want(first: number, last: number) {
    pagesFor(first, Math.min(last, total.value ?? last), size).forEach((p) => void page(p))
  }
  const known = computed(() => [...pages.values()].flat())
  return { at, want, total, problem, reload, known }
}
