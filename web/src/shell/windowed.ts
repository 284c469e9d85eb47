/** Which rows of a long list are drawn: those in sight and some around them. */
export interface WindowOfRows {
  first: number
  last: number
  before: number
  after: number
}

/**
 * The rows to draw.
 *
 * @param total all rows
 * @param top how far it is scrolled, in pixels
 * @param height of what is in sight
 * @param row height of one row
 */
export function windowOf(
  total: number,
  top: number,
  height: number,
  row: number,
  around = 12,
): WindowOfRows {
  const first = Math.max(0, Math.min(Math.floor(top / row) - around, total))
  const last = Math.min(total, Math.ceil((top + height) / row) + around)
  return {
    first,
    last: Math.max(first, last),
    before: first * row,
    after: (total - Math.max(first, last)) * row,
  }
}

/** The pages of a list that a stretch of rows needs. */
export function pagesFor(first: number, last: number, size: number): number[] {
  const pages: number[] = []
  for (let page = Math.floor(first / size); page * size < last; page++) pages.push(page)
  return pages
}
