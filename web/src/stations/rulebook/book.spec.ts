import { describe, expect, it } from 'vitest'
import { at, freeId, put, same, scopeKey, scopeOf, type Rule, type Rulebook } from './book'

const chat: Rule = { control: 'chat', mode: 'fix', value: 'off' }
const book: Rulebook = {
  layers: [
    { scope: { level: 'organisation' }, rules: [chat] },
    {
      scope: { level: 'unit', id: 'pilotage' },
      rules: [],
      guarantees: [{ id: 'g', who: ['removed'], rights: ['listen'], ceiling: 'never' }],
    },
  ],
}

describe('a rulebook, item by item', () => {
  it('finds what stands at a place', () => {
    expect(at(book, { layer: 'organisation', control: 'chat' })).toBe(chat)
    expect(at(book, { layer: 'unit:pilotage', guarantee: 'g' })).toMatchObject({ ceiling: 'never' })
    expect(at(book, { layer: 'kind:hearing', control: 'chat' })).toBeNull()
  })

  it('puts, replaces and takes away, and leaves the one before as it was', () => {
    const polls: Rule = { control: 'polls', mode: 'suggest', start: 'on' }
    const more = put(book, { layer: 'kind:hearing', control: 'polls' }, polls)
    expect(at(more, { layer: 'kind:hearing', control: 'polls' })).toEqual(polls)
    const other = put(
      more,
      { layer: 'organisation', control: 'chat' },
      { ...chat, value: 'always' },
    )
    expect(at(other, { layer: 'organisation', control: 'chat' })).toMatchObject({ value: 'always' })
    const less = put(other, { layer: 'unit:pilotage', guarantee: 'g' }, null)
    expect(at(less, { layer: 'unit:pilotage', guarantee: 'g' })).toBeNull()
    expect(book.layers).toHaveLength(2)
    expect(at(book, { layer: 'organisation', control: 'chat' })).toBe(chat)
  })

  it('takes nothing away where there is nothing', () => {
    expect(put(book, { layer: 'kind:drill', control: 'chat' }, null)).toEqual(book)
  })
})

describe('same', () => {
  it('does not ask for the order of keys', () => {
    expect(same({ a: 1, b: [1, 2] }, { b: [1, 2], a: 1 })).toBe(true)
    expect(same({ a: 1 }, { a: 1, b: undefined })).toBe(true)
    expect(same([1, 2], [2, 1])).toBe(false)
    expect(same(null, {})).toBe(false)
    expect(same(undefined, null)).toBe(false)
  })
})

it('reads the layers’ names it writes', () => {
  for (const key of ['organisation', 'unit:pilotage', 'kind:open-day'])
    expect(scopeKey(scopeOf(key))).toBe(key)
})

it('gives a guarantee an id that none has', () => {
  expect(freeId(book, 'removed', 'listen')).toBe('removed-listen')
  const taken = put(
    book,
    { layer: 'organisation', guarantee: 'removed-listen' },
    { id: 'removed-listen', who: ['removed'], rights: ['listen'], ceiling: 'never' },
  )
  expect(freeId(taken, 'removed', 'listen')).toBe('removed-listen-2')
})
