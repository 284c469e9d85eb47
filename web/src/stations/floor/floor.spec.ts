import { describe, expect, it } from 'vitest'
import type { FloorAlert, PersonLine, SessionLine, SessionPage } from '@/api/schema'
import {
  coHostNote,
  byCause,
  came,
  fromStart,
  howLong,
  inSessionWords,
  outWords,
  strangers,
  troubleOf,
  wayWords,
  withOrder,
} from './floor'

const person = (who: string, part: Partial<PersonLine> = {}) =>
  ({ who, name: who, standing: 'unknown', tie: 'none', route: 'app', ...part }) as PersonLine
const line = {
  door: 3,
  inside: 2,
  locked: false,
  waitingRoom: true,
  starts: '2026-03-02T10:00:00Z',
  ends: '2026-03-02T11:00:00Z',
} as SessionLine
const page = {
  line,
  controls: {},
  door: [person('a'), person('b')],
  inside: [person('h', { role: 'host' }), person('c', { role: 'attendee', sharing: true })],
  out: [],
} as unknown as SessionPage
const asked = (act: string, people: string[] = [], more = {}) => ({
  key: 'k',
  act,
  people,
  ...more,
})
const who = (list: PersonLine[]) => list.map((p) => p.who)

describe('alerts', () => {
  const alert = (id: number, cause: string, severity: number) =>
    ({ id, cause, severity, words: `alert ${id}` }) as FloorAlert
  it('stand together by their cause, the gravest for all', () => {
    const causes = byCause([
      alert(1, 'setting/chat', 2),
      alert(2, 'person/x', 4),
      alert(3, 'setting/chat', 5),
    ])
    expect(causes.map((c) => [c.cause, c.first.id, c.alerts.length])).toEqual([
      ['setting/chat', 3, 2],
      ['person/x', 2, 1],
    ])
  })
  it('tell strangers at the door apart', () => {
    const door = [person('a', { expected: true }), person('b', { expected: false })]
    expect(strangers(door).map((p) => p.who)).toEqual(['b'])
  })
})

describe('coHostNote', () => {
  it('says who gets what was kept, by the rule', () => {
    expect(coHostNote(['Ada'], 'host-alone')).toBe(
      'Ada gets no recording, chat log or attendance: the host alone does.',
    )
    expect(coHostNote(['Ada', 'Bo'], 'co-hosts')).toBe(
      'Ada, Bo get no recording, chat log or attendance: only co-hosts named beforehand do.',
    )
    expect(coHostNote([], 'co-hosts')).toBe('')
  })
})

describe('inSessionWords', () => {
  const one = { meeting: 'm', title: 'M', session: 's', follows: true, service: null }
  it('says what becomes of a change in a running session', () => {
    expect(inSessionWords([], 3)).toBe('')
    expect(inSessionWords([one], 1)).toBe('It is in session, which follows at once.')
    expect(inSessionWords([{ ...one, follows: false, service: 'Curlew' }], 1)).toBe(
      'It is in session. Curlew cannot change a running session.',
    )
    expect(inSessionWords([one, one, { ...one, follows: false, service: 'Curlew' }], 7)).toBe(
      '3 of these are in session: 2 follow at once; 1 not, since Curlew cannot.',
    )
  })
})

describe('withOrder', () => {
  it('lets in those who were named, and counts them', () => {
    const then = withOrder(page, asked('let-in', ['b']))
    expect(who(then.door)).toEqual(['a'])
    expect(who(then.inside)).toEqual(['b', 'h', 'c'])
    expect([then.line.door, then.line.inside]).toEqual([2, 3])
    expect(who(page.door)).toEqual(['a', 'b'])
  })
  it('lets in everybody, those further down the list too', () => {
    const then = withOrder(page, asked('let-in-all'))
    expect(then.door).toEqual([])
    expect([then.line.door, then.line.inside]).toEqual([0, 5])
  })
  it('puts out and says whether the way back is barred', () => {
    const then = withOrder(page, asked('remove-and-bar', ['c']))
    expect(who(then.inside)).toEqual(['h'])
    expect(outWords(then.out[0] as PersonLine)).toBe('removed, barred')
    const away = withOrder(page, asked('turn-away', ['a']))
    expect(outWords(away.out[0] as PersonLine)).toBe('turned away')
  })
  it('locks, sets, silences and stops', () => {
    expect(withOrder(page, asked('lock')).line.locked).toBe(true)
    const set = withOrder(page, asked('set', [], { control: 'waiting-room', value: 'off' }))
    expect(set.line.waitingRoom).toBe(false)
    const silent = withOrder(page, asked('silence-all')).inside
    expect(silent.map((p) => !!p.silenced)).toEqual([false, true])
    expect(withOrder(page, asked('stop-share')).inside.some((p) => p.sharing)).toBe(false)
    const role = withOrder(page, asked('role', ['c'], { value: 'co-host' }))
    expect(role.inside[1]?.role).toBe('co-host')
  })
  it('leaves the page alone where an act changes nothing on it', () => {
    expect(withOrder(page, asked('end'))).toBe(page)
  })
})

describe('words', () => {
  it('tell the clock against the meeting', () => {
    const at = (iso: string) => new Date(iso).getTime()
    expect(fromStart(line, at('2026-03-02T09:57:30Z'))).toBe('3 min to the start')
    expect(fromStart(line, at('2026-03-02T10:12:00Z'))).toBe('12 min in')
    expect(fromStart(line, at('2026-03-02T11:05:00Z'))).toBe('5 min past the end')
    expect(howLong('2026-03-02T10:00:00Z', at('2026-03-02T10:01:05Z'))).toBe('1:05')
    expect(howLong('2026-03-02T10:00:00Z', at('2026-03-02T11:05:00Z'))).toBe('1 h 5 min')
  })
  it('tell how people came and why they are out', () => {
    expect(came(person('x', { route: 'phone' }))).toBe('unknown, not invited, by phone')
    expect(came(person('x', { tie: 'co-host' }))).toBe('co-host')
    expect(wayWords('let-in-by-peer', 'Ann')).toBe('let in by Ann')
    expect(wayWords('by-themselves')).toBe('straight in')
    expect(outWords(person('x', { whyOut: 'refused', step: 'passcode' }))).toBe(
      'refused: no passcode',
    )
  })
  it('tell of an order that did not go through alone', () => {
    const order = { id: 'k', act: 'lock', people: [], attempts: 1, reason: 'because' }
    expect(troubleOf({ ...order, state: 'refused' })).toBe('Lock: refused, because.')
    expect(troubleOf({ ...order, state: 'done' })).toBe('')
  })
})
