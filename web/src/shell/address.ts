import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { daysBetween } from './rows'

/** What a page shows stands in its address: it is read from there and changed there. */
export function useAddress() {
  const route = useRoute()
  const router = useRouter()
  const query = (key: string) => String(route.query[key] ?? '')
  /** Changes a part; a list that shows something else begins at its first page. */
  const set = (part: Record<string, string | undefined>) =>
    router.replace({ query: { ...route.query, page: undefined, ...part } })
  /** Shows all again. */
  const clear = () => router.replace({ query: {} })
  /** The page of a list, from 0; whatever else stands there is the first. */
  const page = computed(() => Math.max(0, Math.floor(Number(query('page'))) || 0))
  /** The days from `from` to `to`, as instants. */
  const days = computed(() => daysBetween(query('from'), query('to')))
  /** Whether a list is narrowed by words, days, or one of these. */
  const isNarrowedBy = (...keys: string[]) =>
    ['text', 'from', 'to', ...keys].some((key) => query(key) !== '')
  return { query, set, clear, page, days, isNarrowedBy }
}
