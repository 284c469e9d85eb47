import { describe, expect, it } from 'vitest'
import { pagesFor, windowOf } from './windowed'

describe('a long list', () => {
  it('draws what is in sight and a few more', () => {
    expect(windowOf(50_000, 34_000, 680, 34)).toEqual({
      first: 988,
      last: 1032,
      before: 988 * 34,
      after: (50_000 - 1032) * 34,
    })
  })

  it.each([
    [0, 0],
    [3, 0],
    [3, 5000],
    [100, 1e9],
  ])('of %i rows, scrolled by %i, is as high as all its rows', (total, top) => {
    const w = windowOf(total, top, 600, 34)
    expect(w.before + (w.last - w.first) * 34 + w.after).toBe(total * 34)
    expect(w.first).toBeGreaterThanOrEqual(0)
    expect(w.last).toBeLessThanOrEqual(total)
  })

  it('reads the pages it needs', () => {
    expect(pagesFor(0, 30, 200)).toEqual([0])
    expect(pagesFor(190, 230, 200)).toEqual([0, 1])
    expect(pagesFor(400, 400, 200)).toEqual([])
  })
})
