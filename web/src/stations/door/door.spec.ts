// @vitest-environment happy-dom
import { flushPromises } from '@vue/test-utils'
import { afterEach, describe, expect, it, vi } from 'vitest'
import type { Comer } from '@/api/schema'
import { catalogue, control, mounted } from '@/testing/mounting'
import AdmissionPart from './AdmissionPart.vue'
import { answerWords, momentWords, pencilOf, pencilText, roomOf, sees } from './door'
import SideBySide from './SideBySide.vue'
import WaysTable from './WaysTable.vue'

const server = vi.hoisted(() => ({ calls: [] as unknown[], answer: {} as unknown }))
vi.mock('@/api/client', async (original) => {
  const shared = await import('@/testing/mounting')
  const call = () => async (path: string, options: { body?: unknown }) => {
    if (path !== '/api/catalogue') server.calls.push(options.body)
    return {
      data: path === '/api/catalogue' ? shared.catalogue : server.answer,
      response: { ok: true },
    }
  }
  return { ...(await original<object>()), api: { GET: call(), POST: call() } }
})
afterEach(() => {
  server.calls.length = 0
  document.body.innerHTML = ''
})

const answer = (outcome: string, step: string | null, keepers: string | null = null) => ({
  outcome,
  step,
  keepers,
  role: outcome === 'refused' ? null : 'attendee',
  rights: outcome === 'refused' ? [] : ['listen'],
  trail: [
    { step: 'locked', control: null, value: null, outcome: 'in', words: 'Not locked.' },
    ...(step ? [{ step, control: step, value: 'on', outcome, words: `Stopped at ${step}.` }] : []),
  ],
})
const comer = (key: string, now: ReturnType<typeof answer>, more: Partial<Comer> = {}): Comer =>
  ({
    key,
    phrase: `is ${key}`,
    persona: true,
    invited: false,
    standing: 'unknown',
    tie: 'none',
    route: 'app',
    holdsPasscode: false,
    now,
    then: now,
    ...more,
  }) as Comer

describe('a moment', () => {
  it.each([
    [-30, '30 minutes before the start'],
    [-1, '1 minute before the start'],
    [0, 'at the start'],
    [1, '1 minute after the start'],
    [60, '60 minutes after the start'],
  ])('%i is %s', (minutes, words) => expect(momentWords(minutes)).toBe(words))
})

describe('the pencil in the address', () => {
  const controls = new Map(
    [...catalogue.controls, { ...control('chat'), id: 'regions', scale: 'sets', rungs: [] }].map(
      (c) => [c.id, c],
    ),
  )
  it('comes back as it went', () => {
    const pencil = { chat: 'off', 'early-entry': 15, regions: ['GB', 'IE'], polls: 'on' }
    expect(pencilText(pencil)).toBe('chat:off,early-entry:15,regions:GB+IE,polls:on')
    expect(pencilOf(pencilText(pencil) ?? '', controls)).toEqual(pencil)
    expect(pencilOf('regions:', controls)).toEqual({ regions: [] })
    expect(pencilOf('early-entry:any-time', controls)).toEqual({ 'early-entry': 'any-time' })
  })
  it('leaves out what is no control', () => {
    expect(pencilText({})).toBeUndefined()
    expect(pencilOf('', controls)).toEqual({})
    expect(pencilOf('nonsense,mast:tall,chat:off', controls)).toEqual({ chat: 'off' })
  })
})

describe('what the door says', () => {
  it('names who can let somebody in, and tells held from held', () => {
    expect(answerWords(answer('held', 'waiting-room', 'presenters'))).toBe(
      'held, presenters let in',
    )
    expect(answerWords(answer('held', 'host-absent', 'hosts'))).toBe('held: no host yet')
    expect(answerWords(answer('refused', 'passcode'))).toBe('refused')
    expect(answerWords(answer('in', null))).toBe('in as attendee')
  })
  it('has words of its own for every step', () => {
    const steps = ['locked', 'removed', 'late', 'region', 'route', 'sign-in', 'registration']
    const words = [...steps, 'passcode', 'host-absent', 'waiting-room'].map((step) =>
      sees(answer('refused', step)),
    )
    expect(new Set(words).size).toBe(10)
  })
  it('shows a host who waits and who is in uninvited', () => {
    const waits = comer('a', answer('held', 'waiting-room', 'hosts'))
    const stranger = comer('b', answer('in', null))
    const guest = comer('c', answer('in', null), { invited: true })
    expect(roomOf([waits, stranger, guest])).toEqual({ waiting: [waits], strangers: [stranger] })
  })
})

describe('the ways', () => {
  it('end where the door stops them, the pencilled one beneath', async () => {
    const stopped = comer('finder', answer('refused', 'passcode'))
    stopped.then = answer('held', 'waiting-room', 'hosts')
    const wrapper = mounted(WaysTable, {
      comers: [stopped, comer('guest', answer('in', null), { invited: true })],
      pencilled: true,
      chosen: 'finder',
      cursor: 0,
    })
    await flushPromises()
    const rows = wrapper.findAll('tr[aria-selected]')
    expect(rows.map((r) => r.attributes('aria-selected'))).toEqual(['true', 'false'])
    expect(rows[0]?.text()).toContain('Stopped at passcode. passcode: on')
    expect(rows[0]?.text()).toContain('refused')
    expect(rows[0]?.text()).toContain('→ held, hosts let in')
    // a closed bar, and beneath it the notched one further on
    expect(rows[0]?.findAll('rect').length).toBe(1)
    expect(rows[1]?.text()).not.toContain('→')
    await rows[1]?.trigger('click')
    await wrapper.find('thead button').trigger('click')
    expect(wrapper.emitted('choose')).toEqual([['guest']])
    expect(wrapper.emitted('weigh')).toEqual([['passcode']])
  })
})

describe('side by side', () => {
  it('shows the host the strangers inside, and them what they read', async () => {
    const host = comer('h@x', answer('in', null), { persona: false, invited: true })
    const wrapper = mounted(SideBySide, {
      comers: [host, comer('finder', answer('in', null)), comer('late', answer('held', 'late'))],
      host: 'h@x',
      left: 'h@x',
      right: 'finder',
    })
    await flushPromises()
    const [left, right] = wrapper.findAll('section')
    expect(left?.text()).toContain('is late')
    expect(left?.text()).toContain('Inside, uninvited, is who')
    expect(right?.text()).toContain('You are in, as attendee.')
    expect(right?.text()).toContain('listen in')
    await right?.find('select').setValue('late')
    expect(wrapper.emitted('pick')).toEqual([['right', 'late']])
  })
})

describe('what it would take', () => {
  it('asks for the other of what is, and gives the way to the pencil', async () => {
    server.answer = {
      already: false,
      ways: [
        {
          changes: [{ control: 'chat', from: 'always', to: 'off' }],
          friction: 2,
          exposure: 12.5,
          beside: ['removed'],
          beyond: [{ control: 'chat', isFix: false, words: 'the rulebook allows no looser' }],
        },
      ],
      acts: ['lock'],
    }
    const wrapper = mounted(AdmissionPart, {
      rehearsal: { meeting: 'm', pencil: {}, people: [], moment: {} },
      comer: comer('finder', answer('in', null)),
    })
    await flushPromises()
    expect(server.calls.at(-1)).toMatchObject({ who: 'finder', goal: 'not-in' })
    expect(wrapper.text()).toContain('the rulebook allows no looser')
    expect(wrapper.text()).toContain('also kept out whoever: has been removed before')
    expect(wrapper.text()).toContain('a host locks the meeting')
    await wrapper.find('li button').trigger('click')
    expect(wrapper.emitted('pencil')).toEqual([[{ chat: 'off' }]])
    await wrapper.find('select').setValue('refused')
    await flushPromises()
    expect(server.calls.at(-1)).toMatchObject({ goal: 'refused' })
  })
})
