import { describe, expect, it } from 'vitest'
import { answersOf, ended, length } from './recordings'

const person = (answer: string) => ({ who: answer, name: 'N', since: '', answer, at: null })

describe('recordings', () => {
  it('says lengths as people do', () => {
    expect([0, 89, 90, 3540, 3600, 3900].map(length)).toEqual([
      '0 s',
      '89 s',
      '2 min',
      '59 min',
      '1 h 00',
      '1 h 05',
    ])
  })
  it('names who ended it where that is known', () => {
    expect(ended({ end: 'stopped', endedBy: 'Ada' })).toBe('Stopped by Ada.')
    expect(ended({ end: 'stopped', endedBy: null })).toBe('Stopped.')
    expect(ended({ end: 'replaced', endedBy: 'Bo' })).toBe('Ended by the one that Bo began.')
  })
  it('puts those who did not agree first', () => {
    const recorded = ['given', 'declined', 'given', 'not-told'].map(person)
    expect(answersOf({ recorded })).toEqual([
      { words: '1 did not agree.', rust: true },
      { words: '1 was not told.', rust: true },
      { words: '2 agreed.', rust: false },
    ])
  })
})
