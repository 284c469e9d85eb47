import { watch, type Ref } from 'vue'
import { api, take } from '@/api/client'
import type { WallRow } from '@/api/schema'
import { PAGE, usePages } from '@/shell/pages'

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

/** The wall's rows, read a page at a time as they come into sight. */
export function useWall(filter: Ref<WallFilter | null>) {
  const pages = usePages<WallRow>((page) => {
    if (!filter.value) return undefined
    const { audit, severity, ...texts } = filter.value
    const given = Object.fromEntries(Object.entries(texts).filter(([, v]) => v))
    const query = {
      ...given,
      ...(severity ? { severity: Number(severity) } : {}),
      page,
      size: PAGE,
    }
    return take(api.GET('/api/audits/{id}/wall', { params: { path: { id: audit }, query } }))
  })
  // by its text: the address changes for other reasons too, and a list is not read again for those
  watch(() => JSON.stringify(filter.value), restart, { immediate: true })
  function restart() {
    pages.total.value = null
    pages.restart()
  }
  return { ...pages, restart }
}
