import { describe, expect, it } from 'vitest'
import { columnsOf, moved } from './wall'

describe('the wall', () => {
  it('ends in guarantees and the meeting itself', () => {
    const columns = columnsOf([{ id: 'passcode', title: 'Passcode', shortTitle: 'Pass' }])
    expect(columns.map((c) => c.id)).toEqual(['passcode', 'guarantees', 'meeting'])
  })

  it('keeps a step inside', () => {
    expect(moved({ row: 0, column: 0 }, { row: -1, column: 1 }, 5, 3)).toEqual({
      row: 0,
      column: 1,
    })
    expect(moved({ row: 4, column: 2 }, { row: 1, column: 1 }, 5, 3)).toEqual({ row: 4, column: 2 })
  })
})
