import { describe, expect, it } from 'vitest'
import type { ControlView } from '@/api/schema'
import { catalogue } from '@/testing/mounting'
import { partName, partWords } from './history'

const controls = new Map(
  (catalogue as unknown as { controls: ControlView[] }).controls.map((c) => [c.id, c]),
)
const words = (part: string, text: string | null) =>
  partWords(part, text, controls, (id) => (id === 'board' ? 'Board meeting' : ''))

describe('what changed of a meeting', () => {
  it('is named as people name it', () => {
    const [control] = controls.values()
    expect(partName(control?.id ?? '', controls)).toBe(control?.title)
    // every part of a meeting's document that the server tells of
    const all =
      'title description kind host coHosts presenters invitees lists space start zone minutes recurrence exDates rDates number occurrences room wholeDay reminder groups'
    const plain = new Set([
      'title',
      'kind',
      'host',
      'presenters',
      'lists',
      'space',
      'start',
      'number',
      'room',
      'recurrence',
      'reminder',
    ])
    for (const part of all.split(' ')) {
      if (!plain.has(part)) expect(partName(part, controls), part).not.toBe(part)
    }
  })

  it('is said on the meeting’s own clock, and in words', () => {
    expect(words('start', '2027-01-11T09:00')).toBe('11 Jan 2027, 09:00')
    expect(words('kind', 'board')).toBe('Board meeting')
    expect(words('kind', 'gone-since')).toBe('gone-since')
    expect(words('recurrence', 'FREQ=WEEKLY;BYDAY=MO')).toBe('weekly Mon')
    expect(words('recurrence', 'FREQ=DAILY;COUNT=6')).toBe('daily, 6 times')
    expect(words('recurrence', 'FREQ=DAILY;UNTIL=20270301T090000Z')).toBe('daily, until 1 Mar 2027')
    expect(words('wholeDay', 'true')).toBe('yes')
    expect(words('room', null)).toBe('none')
    expect(words('invitees', 'a@x.example (optional), b@x.example (captioner, de)')).toBe(
      'a@x.example (optional), b@x.example (captioner, de)',
    )
    expect(words('groups', 'North (list crew, 2 by name), South (0 by name)')).toBe(
      'North (list crew, 2 by name), South (0 by name)',
    )
  })

  it('names the controls that one date has of its own', () => {
    const [control] = controls.values()
    expect(
      words(
        'occurrences',
        `2027-01-11T09:00 → 2027-01-12T10:30 (30 min, ${control?.id}), 2027-01-18T09:00 (45 min)`,
      ),
    ).toBe(
      `11 Jan 2027, 09:00 → 12 Jan 2027, 10:30 (30 min, ${control?.title}), 18 Jan 2027, 09:00 (45 min)`,
    )
  })

  it('is cut where it is long', () => {
    expect(words('description', 'x'.repeat(200))).toHaveLength(141)
  })
})
