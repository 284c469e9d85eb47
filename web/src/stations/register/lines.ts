import { watch, type Ref } from 'vue'
import { api, take } from '@/api/client'
import type { Line } from '@/api/schema'
import { PAGE, usePages } from '@/shell/pages'

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

/** The register's lines, read a page at a time as they come into sight. */
export function useLines(filter: Ref<LineFilter>) {
  const pages = usePages<Line>((page) => {
    const { service, ...rest } = filter.value
    const query = { ...rest, service: service ? Number(service) : undefined, page, size: PAGE }
    return take(api.GET('/api/meetings', { params: { query } }))
  })
  // by what it asks for: an address in which only the row differs asks for the same lines, and rows
  // that are drawn anew under the pointer lose its click
  watch(() => JSON.stringify(filter.value), pages.restart, { immediate: true })
  return pages
}
