import { t } from '@/wording'
import { weekday } from '@/shell/times'
import type { Mark } from '@/api/schema'

/** A mark on the strip, placed. */
export interface Placed {
  mark: Mark
  x: number
  height: number
  storm: boolean
}

const day = 864e5

/**
 * Places occurrences along the strip; one whose height is its exposure.
 *
 * @param width of the strip in pixels
 * @param most height of a mark of exposure 100
 */
export function placed(
  marks: Mark[],
  from: string,
  to: string,
  width: number,
  most: number,
): Placed[] {
  const begin = new Date(from).getTime()
  const length = new Date(to).getTime() - begin
  return marks
    .map((mark) => ({
      mark,
      x: ((new Date(mark.start).getTime() - begin) / length) * width,
      height: Math.max(3, (mark.exposure / 100) * most),
      storm: mark.worst >= 5,
    }))
    .filter((p) => p.x >= 0 && p.x <= width)
}

/** A line for each mark, as one path. */
export function strokes(places: Placed[], base: number): string {
  return places.map((p) => `M${p.x} ${base}v${-p.height}`).join('')
}

/** A peak on top of each mark, as one path. */
export function peaks(places: Placed[], base: number): string {
  return places.map((p) => `M${p.x - 4} ${base - p.height - 3}l4-6l4 6z`).join('')
}

/**
 * The mark that is pointed at: the nearest of those within a few pixels.
 *
 * @param x in pixels from the left
 * @param up in pixels from the strip's base
 */
export function nearest(places: Placed[], x: number, up: number, reach = 4): Mark | null {
  let best: Placed | undefined
  for (const p of places) {
    const isNear = Math.abs(p.x - x) <= reach && up >= -reach && up <= p.height + 10
    if (isNear && (!best || Math.abs(p.x - x) <= Math.abs(best.x - x))) best = p
  }
  return best?.mark ?? null
}

/** The days of the strip, with where each begins. */
export function daysOf(from: string, to: string, width: number) {
  const begin = new Date(from).getTime()
  const length = new Date(to).getTime() - begin
  return Array.from({ length: Math.round(length / day) }, (_, i) => {
    const date = new Date(begin + i * day)
    return {
      x: (i * day * width) / length,
      name: weekday(date),
      weekend: [0, 6].includes(date.getUTCDay()),
    }
  })
}

/** The water's edge over the strip: the highest mark of each stretch, as points of a line. */
export function shore(places: Placed[], width: number, base: number, step = 12): string {
  const points: string[] = []
  for (let x = 0; x <= width; x += step) {
    const near = places.filter((p) => p.x >= x && p.x < x + step)
    const height = near.reduce((h, p) => Math.max(h, p.height), 0)
    points.push(`${x + step / 2},${(base - height).toFixed(1)}`)
  }
  return points.join(' ')
}

/** How a count moved from the audit before: up, down or the same. */
export function movedWords(now: number, before: number | undefined): string {
  if (before === undefined || now === before) return t('lookout.asBefore')
  return now > before
    ? t('lookout.nowMore', { now: now - before })
    : t('lookout.beforeFewer', { before: before - now })
}
