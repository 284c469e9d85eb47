// @vitest-environment happy-dom
import { flushPromises } from '@vue/test-utils'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { mounted } from '@/testing/mounting'
import JoinPart from './JoinPart.vue'
import { mayStart } from './join'

const server = vi.hoisted(() => ({ join: {} as unknown, calls: [] as string[] }))
vi.mock('@/api/client', async (original) => {
  const call = (method: string) => async (path: string) => {
    server.calls.push(`${method} ${path}`)
    return {
      data: method === 'GET' ? server.join : { id: 's-1' },
      response: { ok: true },
    }
  }
  return { ...(await original<object>()), api: { GET: call('GET'), POST: call('POST') } }
})
afterEach(() => {
  server.calls.length = 0
})

describe('starting', () => {
  it('is from twelve hours before the next date', () => {
    const now = new Date('2027-01-04T09:00:00Z').getTime()
    expect(mayStart('2027-01-04T21:00:00Z', now)).toBe(true)
    expect(mayStart('2027-01-04T21:01:00Z', now)).toBe(false)
    expect(mayStart('2027-01-04T08:30:00Z', now)).toBe(true)
    expect(mayStart(null, now)).toBe(false)
  })
})

describe('joining', () => {
  it('copies the link, and all of it as text', async () => {
    const written: string[] = []
    Object.defineProperty(navigator, 'clipboard', {
      configurable: true,
      value: { writeText: async (text: string) => void written.push(text) },
    })
    server.join = {
      link: 'https://redshank.example/j/1',
      instead: '',
      number: '1',
      dialIn: ['+353 20 910 0642 (IE)'],
      text: 'Weir\nJoin at: https://redshank.example/j/1\n',
    }
    const part = mounted(JoinPart, { id: 'm-1', next: null })
    await flushPromises()
    const button = (words: string) => part.findAll('button').find((b) => b.text() === words)
    await button('Copy the link')?.trigger('click')
    await flushPromises()
    await button('Copy as text')?.trigger('click')
    await flushPromises()
    expect(written).toEqual([
      'https://redshank.example/j/1',
      'Weir\nJoin at: https://redshank.example/j/1\n',
    ])
    expect(button('Start now')).toBeUndefined()
  })

  it('says why there is no link', async () => {
    server.join = {
      link: null,
      instead: 'Curlew gives the address once it has made the meeting',
      number: null,
      dialIn: [],
      text: 'Weir',
    }
    const part = mounted(JoinPart, { id: 'm-1', next: new Date().toISOString() })
    await flushPromises()
    expect(part.text()).toContain('Curlew gives the address')
    expect(part.text()).not.toContain('Copy the link')
    expect(part.text()).toContain('Start now')
  })
})
