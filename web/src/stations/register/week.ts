import type { OnWeek } from '@/api/schema'
import { addDays, toInstant } from '@/stations/scheduling/zones'

/** An occurrence on a day's column: fractions of the day's height and of the column's width. */
export interface Placed {
  of: OnWeek
  top: number
  height: number
  left: number
  width: number
}

/** The Monday of a day's week. */
export function mondayOf(day: string): string {
  const weekday = new Date(`${day}T00:00:00Z`).getUTCDay()
  return addDays(day, -((weekday + 6) % 7))
}

/** Places a day's occurrences: what overlaps stands side by side, each as wide as its crowd allows. */
export function placed(items: OnWeek[], day: string, zone: string): Placed[] {
  const from = toInstant(`${day}T00:00`, zone).getTime()
  const to = toInstant(`${addDays(day, 1)}T00:00`, zone).getTime()
  const length = to - from
  const here = items
    .map((of) => ({ of, start: Date.parse(of.start), end: Date.parse(of.end) }))
    .filter((o) => o.end > from && o.start < to)
    .sort((a, b) => a.start - b.start || b.end - a.end)
  const result: Placed[] = []
  let crowd: { of: OnWeek; start: number; end: number; lane: number }[] = []
  let until = 0
  function close() {
    const lanes = Math.max(0, ...crowd.map((c) => c.lane)) + 1
    for (const c of crowd) {
      const top = Math.max(0, c.start - from) / length
      result.push({
        of: c.of,
        top,
        height: Math.max(0, Math.min(to, c.end) - Math.max(from, c.start)) / length,
        left: c.lane / lanes,
        width: 1 / lanes,
      })
    }
    crowd = []
  }
  for (const o of here) {
    if (crowd.length && o.start >= until) close()
    const taken = new Set(crowd.filter((c) => c.end > o.start).map((c) => c.lane))
    let lane = 0
    while (taken.has(lane)) lane++
    crowd.push({ ...o, lane })
    until = Math.max(crowd.length === 1 ? 0 : until, o.end)
  }
  close()
  return result
}
