import { describe, expect, it } from 'vitest'
import { recurrenceWords } from './recurrence'

describe('recurrenceWords', () => {
  it.each([
    [null, 'once'],
    ['FREQ=DAILY;UNTIL=20270630T220000Z', 'daily'],
    ['FREQ=WEEKLY;BYDAY=TU,TH', 'weekly Tue Thu'],
    ['FREQ=WEEKLY;INTERVAL=2;BYDAY=MO', 'fortnightly Mon'],
    ['FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR', 'workdays'],
    ['FREQ=MONTHLY;BYDAY=2TH', 'monthly second Thu'],
    ['FREQ=MONTHLY;BYDAY=-1FR', 'monthly last Fri'],
  ])('%s is “%s”', (rule, words) => expect(recurrenceWords(rule)).toBe(words))

  it('shows a rule it has no words for as it is', () => {
    expect(recurrenceWords('FREQ=YEARLY;BYWEEKNO=20')).toBe('FREQ=YEARLY;BYWEEKNO=20')
  })
})
