import { expect, it } from 'vitest'
import { withBelow } from './units'

const units = [
  { id: 'harbour', parent: null },
  { id: 'pilotage', parent: 'harbour' },
  { id: 'boats', parent: 'pilotage' },
  { id: 'berths', parent: 'harbour' },
]

it('takes a unit with all that is below it, and nothing beside it', () => {
  expect(withBelow(units, 'pilotage')).toEqual(['pilotage', 'boats'])
  expect(withBelow(units, 'harbour')).toEqual(['harbour', 'pilotage', 'berths', 'boats'])
  expect(withBelow(units, 'berths')).toEqual(['berths'])
  expect(withBelow(units, 'gone')).toEqual(['gone'])
})

it('ends where units are each other’s parents', () => {
  expect(
    withBelow(
      [
        { id: 'a', parent: 'b' },
        { id: 'b', parent: 'a' },
      ],
      'a',
    ),
  ).toEqual(['a', 'b'])
})
