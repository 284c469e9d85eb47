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
  open: boolean
  sort: string
}

const size = 200

/** The register's lines, read a page at a time as they come into sight. */
export function useLines(filter: Ref<LineFilter>) {
  const pages = reactive(new Map<number, Line[]>())
  const total = ref<number | null>(null)
  const problem = ref<Error | null>(null)
  const waiting = new Set<number>()
  let round = 0

  async function page(number: number) {
    if (pages.has(number) || waiting.has(number)) return
    const mine = round
    waiting.add(number)
    try {
      const { open, ...texts } = filter.value
      const answer = await take(
        api.GET('/api/meetings', {
          params: { query: { ...texts, open, page: number, size } },
        }),
      )
      if (mine !== round) return
      pages.set(number, answer.items)
      total.value = answer.total
      problem.value = null
    } catch (e) {
      if (mine === round) problem.value = e as Error
    } finally {
      waiting.delete(number)
    }
  }
  function reload() {
    round++
    waiting.clear()
    pages.clear()
    void page(0)
  }
  watch(filter, reload, { deep: true, immediate: true })

  const at = (index: number): Line | undefined =>
    pages.get(Math.floor(index / size))?.[index % size]
  function want(first: number, last: number) {
    pagesFor(first, Math.min(last, total.value ?? last), size).forEach((p) => void page(p))
  }
  const known = computed(() => [...pages.values()].flat())
  return { at, want, total, problem, reload, known }
}
