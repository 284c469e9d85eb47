import type { RouteLocationRaw } from 'vue-router'

/** Something that can be done with a row: a place to go to, a file to take, or an act. */
export interface RowAct {
  name: string
  to?: RouteLocationRaw
  file?: string
  act?: () => void
}
