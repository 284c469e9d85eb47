import { beforeEach, describe, expect, it, vi } from 'vitest'
import { ref } from 'vue'
import type { SessionPage } from '@/api/schema'
import { useOrders } from './useOrders'

interface Sent {
  key: string
  act: string
  people: string[]
}
const sent: Sent[] = []
/** To which session each went. */
const to: string[] = []
let session = 's-1'
/** What the server answers, in turn; an error is thrown. */
let answers: (object | Error | Promise<object>)[] = []
vi.mock('@/api/client', () => ({
  api: {
    POST: (_path: string, options: { body: Sent; params: { path: { id: string } } }) => {
      sent.push(options.body)
      to.push(options.params.path.id)
      return answers.shift()
    },
  },
  take: async (answer: unknown) => {
    if (answer instanceof Error) throw answer
    return answer
  },
}))

const person = (who: string) => ({ who, name: who, standing: 'unknown', tie: 'none' })
const pageOf = (door: string[], inside: string[]) =>
  ({
    line: { door: door.length, inside: inside.length, locked: false },
    controls: {},
    door: door.map(person),
    inside: inside.map(person),
    out: [],
    orders: [],
  }) as unknown as SessionPage
const done = { id: 'x', act: 'let-in', people: ['a'], state: 'done', reason: '', attempts: 1 }
const who = (page: SessionPage | undefined, list: 'door' | 'inside') =>
  page?.[list].map((p) => p.who)

function begin() {
  const page = ref<SessionPage | undefined>(pageOf(['a', 'b'], ['h']))
  const reread = vi.fn(async () => {
    page.value = pageOf(['b'], ['a', 'h'])
  })
  return { page, reread, ...useOrders(() => session, page, reread) }
}

beforeEach(() => {
  sent.length = to.length = 0
  session = 's-1'
  answers = []
})

describe('useOrders', () => {
  it('shows an act at once and lets go of it once the page has it', async () => {
    const { shown, pending, reread, order } = begin()
    answers = [done]
    const going = order('let-in', ['a'])
    expect(who(shown.value, 'inside')).toEqual(['a', 'h'])
    expect(pending.value).toHaveLength(1)
    await going
    expect(reread).toHaveBeenCalledOnce()
    expect(pending.value).toHaveLength(0)
    expect(who(shown.value, 'inside')).toEqual(['a', 'h'])
  })

  it('sends a second click on what is under way no second time', async () => {
    const { order } = begin()
    answers = [done, done]
    const first = order('let-in', ['a'])
    void order('let-in', ['a'])
    await first
    expect(sent).toHaveLength(1)
    void order('let-in', ['b'])
    expect(sent[1]?.key).not.toBe(sent[0]?.key)
  })

  it('sends what is about the same thing one after the other, so that the last stands', async () => {
    const { order, shown } = begin()
    const going: ((answer: object) => void)[] = []
    const slowly = () => new Promise<object>((resolve) => going.push(resolve))
    const locked = { ...done, act: 'lock', people: [] }
    answers = [slowly(), slowly(), slowly()]
    const first = order('lock')
    const second = order('unlock')
    const third = order('lock')
    expect(shown.value?.line.locked).toBe(true)
    expect(sent.map((s) => s.act)).toEqual(['lock'])
    going[0]?.(locked)
    await first
    expect(sent.map((s) => s.act)).toEqual(['lock', 'unlock'])
    going[1]?.({ ...locked, act: 'unlock' })
    await second
    expect(sent.map((s) => s.act)).toEqual(['lock', 'unlock', 'lock'])
    going[2]?.(locked)
    await third
  })

  it('turns away at once, whatever else of them is under way', () => {
    const { order } = begin()
    answers = [new Promise<object>(() => {}), done]
    void order('let-in', ['a'])
    void order('turn-away', ['a'])
    expect(sent.map((s) => s.act)).toEqual(['let-in', 'turn-away'])
  })

  it('waits no longer than a moment for one that gets no answer', async () => {
    vi.useFakeTimers()
    try {
      const { order } = begin()
      answers = [new Promise<object>(() => {}), { ...done, act: 'unlock', people: [] }]
      void order('lock')
      void order('unlock')
      await vi.advanceTimersByTimeAsync(4900)
      expect(sent.map((s) => s.act)).toEqual(['lock'])
      await vi.advanceTimersByTimeAsync(200)
      expect(sent.map((s) => s.act)).toEqual(['lock', 'unlock'])
    } finally {
      vi.useRealTimers()
    }
  })

  it('takes back what is refused, and says why', async () => {
    const { shown, trouble, page, order, reread } = begin()
    reread.mockImplementation(async () => {
      page.value = pageOf(['a', 'b'], ['h'])
    })
    answers = [{ ...done, state: 'refused', reason: 'there is nobody' }]
    await order('let-in', ['a'])
    expect(who(shown.value, 'door')).toEqual(['a', 'b'])
    expect(trouble.value).toBe('Let in: refused, there is nobody.')
  })

  it('sends again under the same key where nobody answers', async () => {
    const { pending, order } = begin()
    answers = [new TypeError('network'), new TypeError('network'), done]
    await order('let-in', ['a'])
    expect(sent.map((s) => s.key)).toEqual([sent[0]?.key, sent[0]?.key, sent[0]?.key])
    expect(pending.value).toHaveLength(0)
  })

  it('sends again to the session it was given for, wherever one has gone', async () => {
    const { order } = begin()
    answers = [new Error('away'), done]
    const going = order('let-in', ['a'])
    session = 's-2'
    await going
    expect(to).toEqual(['s-1', 's-1'])
  })

  it('gives up after three tries and puts the page back', async () => {
    const { shown, trouble, order } = begin()
    answers = [new TypeError('network'), new TypeError('network'), new TypeError('network')]
    await order('let-in', ['a'])
    expect(sent).toHaveLength(3)
    expect(who(shown.value, 'door')).toEqual(['a', 'b'])
    // one of them may have arrived, and its answer been lost
    expect(trouble.value).not.toContain('Nothing was done.')
    expect(trouble.value).toContain('Whether it was done')
  })

  it('does not send again what the server has said no to', async () => {
    const { trouble, order } = begin()
    answers = [Object.assign(new Error('You may not.'), { status: 403 })]
    await order('lock')
    expect(sent).toHaveLength(1)
    expect(trouble.value).toBe('You may not. Nothing was done.')
  })

  it('keeps what waits for the service until it is settled', async () => {
    const { shown, pending, trouble, order, settle } = begin()
    answers = [{ ...done, act: 'lock', people: [], state: 'waiting', reason: 'away' }]
    await order('lock')
    expect(pending.value[0]?.waits).toBe(true)
    expect(shown.value?.line.locked).toBe(true)
    const key = sent[0]?.key ?? ''
    const unsettled = { id: key, act: 'lock', people: [], reason: 'away', attempts: 2 }
    settle([{ ...unsettled, state: 'waiting' }])
    expect(pending.value).toHaveLength(1)
    settle([{ ...unsettled, state: 'given-up' }])
    expect(pending.value).toHaveLength(0)
    expect(shown.value?.line.locked).toBe(false)
    expect(trouble.value).toBe('Lock: given up, away.')
  })
})
