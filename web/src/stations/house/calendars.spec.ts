import { describe, expect, it } from 'vitest'
import type { ReadSource } from '@/api/schema'
import { broughtWords, rhythmWords, sourceWords } from './calendars'

const source = (some: Partial<ReadSource>) =>
  ({ purpose: 'meetings', state: 'read', meetings: 0, gone: 0, ...some }) as ReadSource

describe('calendars that are read', () => {
  it('say what is wrong with them, and what to do', () => {
    expect(sourceWords(source({}))).toEqual({ text: 'read', wrong: false })
    expect(sourceWords(source({ state: 'away', trouble: 'is not at this address (404)' }))).toEqual(
      {
        text: 'it is not at this address (404)',
        wrong: true,
      },
    )
    expect(sourceWords(source({ state: 'refused' })).text).toContain('give another')
    expect(sourceWords(source({ state: 'asks', gone: 23 })).text).toContain('23 of its meetings')
    expect(sourceWords(source({ state: 'paused' })).wrong).toBe(false)
  })

  it('count what they brought in the right number', () => {
    expect(broughtWords(source({ meetings: 1 }))).toBe('1 meeting')
    expect(broughtWords(source({ meetings: 0 }))).toBe('0 meetings')
    expect(broughtWords(source({ meetings: 2, purpose: 'busy' }))).toBe('2 busy times')
  })

  it('say their rhythm, also one that the list has not', () => {
    expect(rhythmWords(60)).toBe('every hour')
    expect(rhythmWords(7)).toBe('every 7 minutes')
  })
})
