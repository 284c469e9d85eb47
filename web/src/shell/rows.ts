import { folded } from '@/api/folded'
import { nextTick, ref, watch, type Ref } from 'vue'
import { useKeys, type Key } from './keys'
import { t } from '@/wording'

/** A list of rows on a page: what its keys need to know. */
export interface Rows<T> {
  /** What its rows' elements are called: with `entry`, the first is `entry-0`. */
  name: string
  rows: () => readonly T[]
  /** Opens a row; left out where rows are not opened. */
  open?: (row: T) => void
  /** The row that is open beside the list; below 0 where none is. */
  opened?: () => number
  /** Where the rows come in pages: the page, from 0, how many there are, and going to one. */
  pages?: { at: () => number; count: () => number; turn: (page: number) => void }
  /** Whether its rows have a menu; they do where nothing is said. */
  menu?: boolean
  /** Keys of this list alone. */
  keys?: Key[]
}

/** Where one is in a list, and the keys that every list has: j k ↵ . f [ ]. */
export function useRows<T>(on: Rows<T>): { cursor: Ref<number>; look: (row: number) => string } {
  const cursor = ref(0)
  if (on.opened) {
    watch(on.opened, (row) => row >= 0 && (cursor.value = row), { immediate: true })
  }
  // where there are fewer now, one is at the last
  watch(
    () => on.rows().length,
    (count) => (cursor.value = Math.max(0, Math.min(cursor.value, count - 1))),
  )
  const element = (row: number) => document.getElementById(`${on.name}-${row}`)
  async function move(by: number) {
    cursor.value = Math.max(0, Math.min(on.rows().length - 1, cursor.value + by))
    await nextTick()
    const row = element(cursor.value)
    row?.scrollIntoView({ block: 'nearest' })
    row?.querySelector<HTMLElement>('a, button')?.focus({ preventScroll: true })
  }
  function turn(by: number) {
    const to = (on.pages?.at() ?? 0) + by
    if (to < 0 || to >= (on.pages?.count() ?? 0)) return
    cursor.value = 0
    on.pages?.turn(to)
  }
  const keys: Key[] = [
    { key: 'j', does: t('shell.nextRow'), act: () => void move(1) },
    { key: 'k', does: t('shell.rowBefore'), act: () => void move(-1) },
  ]
  const { open } = on
  if (open) {
    keys.push({
      key: 'Enter',
      does: t('shell.openTheRow'),
      act: () => {
        const row = on.rows()[cursor.value]
        if (row) open(row)
      },
    })
  }
  keys.push(...listKeys(on.menu === false ? null : () => element(cursor.value)))
  if (on.pages) {
    keys.push(
      { key: ']', does: t('shell.nextPage'), act: () => turn(1) },
      { key: '[', does: t('shell.pageBefore'), act: () => turn(-1) },
    )
  }
  useKeys([...keys, ...(on.keys ?? [])])
  return { cursor, look: (row) => rowLook(row === cursor.value) }
}

/**
 * The keys that lists have besides those that move: to a row's menu, and to the filter.
 *
 * @param row the row that one is at; null where rows have no menu
 */
export function listKeys(row: (() => HTMLElement | null) | null): Key[] {
  const keys: Key[] = [
    {
      key: 'f',
      does: t('shell.toTheFilter'),
      act: () => document.querySelector<HTMLElement>('[data-filter]')?.focus(),
    },
  ]
  if (row) {
    keys.unshift({
      key: '.',
      does: t('shell.whatTheRowOffers'),
      act: () => row()?.querySelector<HTMLElement>('[data-row-menu]')?.click(),
    })
  }
  return keys
}

/** How a row looks that one is at, or is not. */
export const rowLook = (isHere: boolean): string =>
  isHere ? 'bg-sheet outline outline-1 -outline-offset-1 outline-ink' : 'hover:bg-sheet'

/** A day such as `2026-05-01` that there is. */
export function isDay(text: string): boolean {
  return /^\d{4}-\d\d-\d\d$/.test(text) && !Number.isNaN(Date.parse(`${text}T00:00`))
}

/**
 * The days from one to another, both in it, as instants; what is empty, or no day, has no end
 * there.
 */
export function daysBetween(from: string, to: string): { from?: string; to?: string } {
  const given: { from?: string; to?: string } = {}
  if (isDay(from)) given.from = new Date(`${from}T00:00`).toISOString()
  if (isDay(to)) {
    const end = new Date(`${to}T00:00`)
    end.setDate(end.getDate() + 1)
    given.to = end.toISOString()
  }
  return given
}

/** Whether a text or one of several has some words in it, whatever their case and accents. */
export function holds(words: string, ...texts: (string | null | undefined)[]): boolean {
  const wanted = folded(words.trim())
  return !wanted || texts.some((text) => text && folded(text).includes(wanted))
}

/** Whether an instant is within some days; what never was is within none, but where all is shown. */
export function isWithin(
  at: string | null | undefined,
  days: { from?: string; to?: string },
): boolean {
  if (!at) return !days.from && !days.to
  return (!days.from || at >= days.from) && (!days.to || at < days.to)
}
