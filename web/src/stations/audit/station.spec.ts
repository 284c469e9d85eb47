import { describe, expect, it, vi } from 'vitest'
import { gatherer } from '@/api/live'
import type { Compared, Drift, Point } from '@/api/schema'
import { daysOf, movedWords, placed, shore } from '@/stations/lookout/tide'
import { driftWords, sidesOf } from './compare'
import { jobWords } from './jobs'
import { bandSeries, familySeries, mendSeries, severitySeries } from './trends'
import { counted } from '@/shell/counted'
import { identityOf, subjectOf, untilFriday } from './wall'

const finding = { check: 'beyond-limit', family: 'chat', severity: 3, text: 'x' }

describe('a finding’s name', () => {
  it('is the same as the server’s', () => {
    expect(identityOf('m-1', { ...finding, control: 'chat' })).toBe('m-1||beyond-limit|chat')
    expect(identityOf('m-1', { ...finding, guarantee: 'g', occurrence: '2027-01-11T09:00' })).toBe(
      'm-1|2027-01-11T09:00|beyond-limit|g',
    )
    expect(subjectOf(finding)).toBe('')
  })
})

describe('how a remedy stands', () => {
  it('does not look done while it is half done', () => {
    expect(jobWords({ items: 2, sent: 0, states: { done: 2 } })).toEqual({
      words: 'Done in 2 meetings.',
      tone: 'good',
    })
    const half = jobWords({ items: 3, sent: 1, states: { done: 1, waiting: 1, refused: 1 } })
    expect(half.tone).toBe('wait')
    expect(half.words).toBe(
      'Done in 1 of 3 meetings; 1 waiting, 1 refused by the conference service. 1 new invitation went out.',
    )
    expect(jobWords({ items: 2, sent: 0, states: { done: 1, refused: 1 } }).tone).toBe('bad')
    const unsure = jobWords({ items: 2, sent: 0, states: { done: 1, confirming: 1 } })
    expect(unsure.tone).toBe('wait')
    expect(unsure.words).toBe(
      'Done in 1 of 2 meetings; 1 decided, and not confirmed by their service yet.',
    )
    expect(jobWords({ items: 1, sent: 0, states: { overtaken: 1 } }).tone).toBe('bad')
  })
})

describe('until Friday', () => {
  it.each([
    ['2026-11-25T10:00', '2026-11-27T18:00'], // a Wednesday
    ['2026-11-26T23:59', '2026-11-27T18:00'],
    ['2026-11-27T08:00', '2026-12-04T18:00'], // a Friday means the next
    ['2026-12-30T08:00', '2027-01-01T18:00'],
  ])('from %s is %s', (now, then) => {
    expect(untilFriday(new Date(now))).toBe(then)
  })
})

describe('a comparison', () => {
  const compared = {
    come: { changed: 2, back: 1 },
    gone: { mended: 4, waived: 1 },
    still: 7,
    drifted: [{}],
  } as unknown as Compared
  it('counts its sides', () => {
    expect(sidesOf(compared).map((s) => `${s.id} ${s.count}`)).toEqual([
      'come 3',
      'gone 5',
      'still 7',
      'drifted 1',
    ])
  })
  it('says who made a clean meeting drift', () => {
    const drift = { act: 'controls', by: 'd.roche@x', at: '2026-11-22T10:00:00Z' } as Drift
    expect(driftWords(drift)).toBe('d.roche@x changed its controls on 22 Nov')
    expect(driftWords({ ...drift, act: 'edition' })).toBe('the rulebook changed on 22 Nov')
    expect(driftWords({ ...drift, act: 'around', by: null })).toContain('something around it')
  })
})

describe('trends', () => {
  const point = (grave: number, chat: number) =>
    ({
      bySeverity: { '5': grave },
      byBand: { open: 1 },
      byFamily: { chat, guarantees: 1 },
    }) as unknown as Point
  it('draw each severity and band, told apart by more than colour', () => {
    const lines = severitySeries([point(3, 0), point(1, 0)])
    expect(lines[0]).toMatchObject({ name: 'grave', values: [3, 1] })
    const looks = lines.map((l) => `${l.tone} ${l.dash.join()}`)
    expect(new Set(looks).size).toBe(5)
    expect(bandSeries([point(1, 1)])[0]?.values).toEqual([1])
  })
  it('show the families with most findings', () => {
    const families = [
      { id: 'chat', title: 'Chat', shortTitle: 'Chat' },
      { id: 'entry', title: 'Entry', shortTitle: 'Entry' },
    ]
    const lines = familySeries([point(0, 5), point(0, 2)], families as never)
    expect(lines.map((l) => l.name)).toEqual(['Chat', 'Guarantees'])
    expect(lines[0]?.values).toEqual([5, 2])
  })
  it('tell the time to mend in days', () => {
    expect(mendSeries([{ week: '2026-11-02', findings: 2, medianHours: 36 }])[0]?.values).toEqual([
      1.5,
    ])
  })
})

describe('the tide', () => {
  const from = '2026-11-25T00:00:00Z'
  const to = '2026-12-09T00:00:00Z'
  const mark = (start: string, exposure: number, worst = 1) => ({
    meeting: 'm',
    title: 't',
    host: 'h',
    start,
    minutes: 60,
    exposure,
    worst,
  })
  it('places what is held by time and exposure', () => {
    const places = placed(
      [mark('2026-12-02T00:00:00Z', 50), mark('2026-11-25T00:00:00Z', 0, 5)],
      from,
      to,
      1400,
      100,
    )
    expect(places.map((p) => [p.x, p.height, p.storm])).toEqual([
      [700, 50, false],
      [0, 3, true],
    ])
    expect(placed([mark('2027-01-01T00:00:00Z', 50)], from, to, 1400, 100)).toEqual([])
  })
  it('has fourteen days and knows the weekend', () => {
    const days = daysOf(from, to, 1400)
    expect(days.length).toBe(14)
    expect(days.filter((d) => d.weekend).map((d) => d.x)).toEqual([300, 400, 1000, 1100])
  })
  it('rises where something is high', () => {
    const edge = shore(placed([mark('2026-11-25T00:00:00Z', 100)], from, to, 24, 100), 24, 140)
    expect(edge.split(' ')).toEqual(['6,40.0', '18,140.0', '30,140.0'])
  })
  it('says how a count moved', () => {
    expect([
      movedWords(3, 5),
      movedWords(5, 3),
      movedWords(3, 3),
      movedWords(3, undefined),
    ]).toEqual(['2 fewer', '2 more', 'as before', 'as before'])
    expect(counted(1, 'meeting')).toBe('1 meeting')
  })
})

describe('what is heard of', () => {
  it('is told once for a burst, and everything after a break of the line', () => {
    vi.useFakeTimers()
    const told: string[][] = []
    const hear = gatherer((keys) => told.push(keys), 100)
    hear('waivers')
    hear('standing')
    hear('nothing known')
    expect(told).toEqual([])
    vi.advanceTimersByTime(100)
    expect(told.length).toBe(1)
    expect(told[0]).toContain('waivers')
    expect(told[0]).toContain('meetings')
    hear('connected')
    vi.advanceTimersByTime(100)
    expect(told[1]).toContain('remedies')
    vi.useRealTimers()
  })
})
