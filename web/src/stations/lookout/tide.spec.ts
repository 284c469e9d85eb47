import { describe, expect, it } from 'vitest'
import type { Mark } from '@/api/schema'
import { daysOf, nearest, peaks, placed, shore, strokes } from './tide'

const from = '2026-11-29T00:00:00Z'
const to = '2026-12-13T00:00:00Z'
const mark = (meeting: string, start: string, exposure: number, worst = 2): Mark => ({
  meeting,
  title: meeting,
  host: 'h@saltmarsh.example',
  start,
  minutes: 30,
  exposure,
  worst,
})
const places = placed(
  [
    mark('first', '2026-11-29T00:00:00Z', 50),
    mark('middle', '2026-12-06T00:00:00Z', 100, 5),
    mark('close', '2026-12-06T01:00:00Z', 1),
    mark('after', '2026-12-14T00:00:00Z', 80),
  ],
  from,
  to,
  1400,
  116,
)

describe('the strip of fourteen days', () => {
  it('places a mark by its time and as high as it is exposed, and none that is outside', () => {
    expect(places.map((p) => [p.mark.meeting, Math.round(p.x), p.height, p.storm])).toEqual([
      ['first', 0, 58, false],
      ['middle', 700, 116, true],
      ['close', 704, 3, false],
    ])
  })

  it('draws a line for each, upward from its base, and a peak', () => {
    expect(strokes(places.slice(0, 2), 142)).toBe('M0 142v-58M700 142v-116')
    expect(peaks(places.slice(1, 2), 142)).toBe('M696 23l4-6l4 6z')
  })

  it('knows which one is pointed at', () => {
    const at = (x: number, up: number) => nearest(places, x, up)?.meeting ?? 'none'
    expect(at(700, 60)).toBe('middle')
    expect(at(704, 10)).toBe('close')
    expect(at(704, 60)).toBe('middle') // the other one is not that high
    expect(at(720, 10)).toBe('none')
    expect(at(0, 69)).toBe('none')
    expect(at(0, -10)).toBe('none')
  })

  it('has a day for each of its days, and the highest of each stretch as its edge', () => {
    const days = daysOf(from, to, 1400)
    expect(days.map((d) => d.x).slice(0, 3)).toEqual([0, 100, 200])
    expect(days.filter((d) => d.weekend).map((d) => d.x)).toEqual([0, 600, 700, 1300])
    const edge = shore(places, 1400, 142).split(' ')
    expect(edge[0]).toBe('6,84.0')
    expect(edge[1]).toBe('18,142.0')
    expect(edge[58]).toBe('702,26.0')
  })
})
