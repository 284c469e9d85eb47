import { describe, expect, it } from 'vitest'
import type { OnWeek } from '@/api/schema'
import { mondayOf, placed } from './week'

const on = (id: string, start: string, end: string): OnWeek => ({
  id,
  title: id,
  at: start,
  start: `2027-01-${start}:00Z`,
  end: `2027-01-${end}:00Z`,
  band: 'shut',
  worst: 0,
})

describe('the week', () => {
  it('begins on Monday', () => {
    expect(mondayOf('2027-01-11')).toBe('2027-01-11')
    expect(mondayOf('2027-01-17')).toBe('2027-01-11')
  })

  it('puts what overlaps side by side, and what does not at full width', () => {
    const day = placed(
      [
        on('a', '12T09:00', '12T11:00'),
        on('b', '12T10:00', '12T12:00'),
        on('c', '12T11:00', '12T12:00'),
        on('d', '12T15:00', '12T16:00'),
        on('e', '13T09:00', '13T10:00'),
      ],
      '2027-01-12',
      'UTC',
    )
    const of = (id: string) => day.find((p) => p.of.id === id)
    expect(day.map((p) => p.of.id)).toEqual(['a', 'b', 'c', 'd'])
    expect(of('a')).toMatchObject({ left: 0, width: 0.5 })
    expect(of('b')).toMatchObject({ left: 0.5, width: 0.5 })
    expect(of('c')).toMatchObject({ left: 0, width: 0.5 })
    expect(of('d')).toMatchObject({ left: 0, width: 1, top: 15 / 24, height: 1 / 24 })
  })

  it('shows on each day the part that lies in it', () => {
    const night = [on('n', '12T22:00', '13T02:00')]
    expect(placed(night, '2027-01-12', 'UTC')[0]).toMatchObject({ top: 22 / 24, height: 2 / 24 })
    expect(placed(night, '2027-01-13', 'UTC')[0]).toMatchObject({ top: 0, height: 2 / 24 })
  })
})
