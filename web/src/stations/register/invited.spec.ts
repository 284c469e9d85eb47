import { describe, expect, it } from 'vitest'
import type { Overview } from '@/api/schema'
import { groupText, guessingText, nameOf, taskText } from './invited'

const house = {
  lists: [{ id: 'crew', name: 'Night crew', members: 0 }],
} as unknown as Overview

describe('who is invited, in words', () => {
  it('names a task with its language', () => {
    expect(taskText('interpreter', 'ga')).toBe('interpreter (Irish)')
    expect(taskText('contributor', null)).toBe('contributor')
  })
  it('names lists, and says of one that is gone that it is', () => {
    expect(nameOf(house.lists, 'crew')).toBe('Night crew')
    expect(nameOf(house.lists, 'old')).toBe('one that is gone')
    expect(nameOf(undefined, 'crew')).toBe('one that is gone')
  })
  it('says who is in a group: by name, by a list, or both', () => {
    expect(groupText({ name: 'North', members: ['a@x', 'b@x'], list: null }, house)).toBe(
      'North (2)',
    )
    expect(groupText({ name: 'Empty', members: [], list: null }, house)).toBe('Empty (0)')
    expect(groupText({ name: 'South', members: [], list: 'crew' }, house)).toBe(
      'South (the list Night crew)',
    )
    expect(groupText({ name: 'Both', members: ['a@x'], list: 'crew' }, house)).toBe(
      'Both (1 and the list Night crew)',
    )
  })
  it('says how long guessing takes, in the largest unit that tells', () => {
    expect(guessingText(30, 20)).toBe('less than a day to guess at 20 tries a minute, an estimate')
    expect(guessingText(1440 * 1736.4, 20)).toContain('1,736 days')
    expect(guessingText(1440 * 40_000, 20)).toContain('more than a century')
  })
})
