import { describe, expect, it } from 'vitest'
import { asCopy, changeOccurrence, emptyForm, fromDocument, toDocument, withStart } from './form'
import { buildRule, once, ordinalOf, parseRule, weekdayOf } from './pattern'
import { toInstant, toLocal } from './zones'

describe('zones', () => {
  it.each([
    ['2027-01-11T09:00', 'Europe/Dublin', '2027-01-11T09:00:00.000Z'],
    ['2027-07-12T09:00', 'Europe/Dublin', '2027-07-12T08:00:00.000Z'],
    ['2027-01-11T09:00', 'America/St_Johns', '2027-01-11T12:30:00.000Z'],
    ['2027-01-11T09:00', 'Pacific/Auckland', '2027-01-10T20:00:00.000Z'],
    // the hour that is skipped in spring moves on by the gap
    ['2027-03-28T01:30', 'Europe/Dublin', '2027-03-28T01:30:00.000Z'],
    // the hour that comes twice in autumn is its first
    ['2027-10-31T01:30', 'Europe/Dublin', '2027-10-31T00:30:00.000Z'],
  ])('%s in %s', (local, zone, instant) => {
    expect(toInstant(local, zone).toISOString()).toBe(instant)
  })

  it('comes back to the same clock', () => {
    for (let hour = 0; hour < 9000; hour += 37) {
      const instant = new Date(Date.UTC(2027, 0, 1) + hour * 36e5)
      for (const zone of ['Europe/Berlin', 'America/New_York', 'Asia/Kathmandu']) {
        const again = toInstant(toLocal(instant, zone), zone)
        // but for the hour that comes twice
        expect(Math.abs(again.getTime() - instant.getTime()) % 36e5).toBe(0)
        expect(toLocal(again, zone)).toBe(toLocal(instant, zone))
      }
    }
  })
})

describe('recurrence patterns', () => {
  const start = '2027-01-12T10:00' // the second Tuesday
  it('knows weekday and ordinal', () => {
    expect(weekdayOf(start)).toBe('TU')
    expect(ordinalOf(start)).toBe(2)
    expect(ordinalOf('2027-01-29T10:00')).toBe(-1)
  })

  it.each([
    'FREQ=DAILY;COUNT=5',
    'FREQ=WEEKLY;INTERVAL=2;BYDAY=TU,TH',
    'FREQ=MONTHLY;BYDAY=2TU;COUNT=12',
    'FREQ=MONTHLY',
    'FREQ=YEARLY;BYMONTH=1;BYDAY=2TU',
    'FREQ=DAILY;UNTIL=20270630T225900Z',
    'FREQ=MONTHLY;BYDAY=MO,TU;BYSETPOS=1',
  ])('%s goes in and comes out the same', (rule) => {
    const { readFrom, ...choices } = parseRule(rule, start, 'Europe/Dublin')
    expect(buildRule(choices, start, 'Europe/Dublin')).toBe(rule)
    expect(readFrom?.rule).toBe(rule)
  })

  it('stays to the letter while nothing of it is changed, however it is written', () => {
    const rule = 'FREQ=DAILY;WKST=MO;UNTIL=20270301T090000Z'
    const read = parseRule(rule, start, 'Europe/Dublin')
    expect(buildRule(read, start, 'Europe/Dublin')).toBe(rule)
    // an hour later that end would leave out the last date
    const moved = `${start.slice(0, 11)}11:00`
    expect(buildRule(read, moved, 'Europe/Dublin')).toBe('FREQ=DAILY;UNTIL=20270301T235900Z')
    expect(buildRule({ ...read, interval: 2 }, start, 'Europe/Dublin')).toBe(
      'FREQ=DAILY;INTERVAL=2;UNTIL=20270301T235900Z',
    )
    expect(buildRule(read, start, 'Asia/Tokyo')).toBe('FREQ=DAILY;UNTIL=20270301T145900Z')
  })

  it('keeps what it has no choice for', () => {
    expect(parseRule('FREQ=HOURLY', start, 'UTC').every).toBe('rule')
    expect(parseRule('FREQ=MONTHLY;BYDAY=3FR', start, 'UTC').every).toBe('rule')
    expect(buildRule(once(start), start, 'UTC')).toBeNull()
  })

  it('ends with the whole of its last day, on its own clock', () => {
    const pattern = { ...once(start), every: 'day' as const, until: '2027-01-20' }
    expect(buildRule(pattern, start, 'Pacific/Auckland')).toBe('FREQ=DAILY;UNTIL=20270120T105900Z')
  })
})

describe('the form', () => {
  const now = new Date('2027-01-11T09:20:00Z')
  const form = { ...emptyForm('h@x.example', now, 'UTC'), title: ' Hearing ' }

  it('begins at the next full hour', () => {
    expect(form.start).toBe('2027-01-11T10:00')
  })

  it('goes out and comes back', () => {
    const document = toDocument({ ...form, invitees: [{ email: 'a@x', need: 'optional' }] })
    expect(document.title).toBe('Hearing')
    expect('passcode' in document).toBe(false)
    expect(toDocument(fromDocument(document))).toEqual(document)
  })

  it('is copied without what must be its own', () => {
    const copy = asCopy({ ...form, number: '1', passcode: 'p', uid: 'u', exDates: ['x'] })
    expect(copy.number).toBeNull()
    expect(copy.passcode).toBeNull()
    expect(copy.uid).toBeUndefined()
    expect(copy.exDates).toEqual([])
  })

  it('keeps an occurrence only while it is different', () => {
    const at = '2027-01-18T10:00'
    const moved = changeOccurrence(form, at, { start: '2027-01-19T11:00', minutes: 30 })
    expect(moved).toEqual([{ at, start: '2027-01-19T11:00', minutes: 30 }])
    const back = changeOccurrence({ ...form, occurrences: moved }, at, { start: at, minutes: 60 })
    expect(back).toEqual([])
  })

  it('moves the weekday with the start', () => {
    const weekly = { ...form, pattern: { ...form.pattern, every: 'week' as const } }
    expect(withStart(weekly, '2027-01-14T10:00').pattern.days).toEqual(['TH'])
  })
})
