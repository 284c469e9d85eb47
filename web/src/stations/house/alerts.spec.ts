// @vitest-environment happy-dom
import { flushPromises } from '@vue/test-utils'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { useSession } from '@/api/session'
import { mounted } from '@/testing/mounting'
import AlertsPart from './AlertsPart.vue'

const server = vi.hoisted(() => ({
  calls: [] as { what: string; body?: unknown }[],
  view: {} as Record<string, unknown>,
}))
vi.mock('@/api/client', async (original) => {
  const call = (method: string) => async (path: string, options?: { body?: unknown }) => {
    if (method !== 'GET') server.calls.push({ what: `${method} ${path}`, body: options?.body })
    const data = method === 'POST' ? { ways: ['mail to a@x.example', 'the webhook'] } : server.view
    return { data, response: { ok: true } }
  }
  return {
    ...(await original<object>()),
    api: { GET: call('GET'), PUT: call('PUT'), POST: call('POST') },
  }
})
afterEach(() => {
  server.calls.length = 0
})
const view = (more: object = {}) => ({
  settings: {
    onCall: ['a@x.example', 'b@x.example'],
    nextMinutes: 5,
    leastSeverity: 3,
    quietFrom: null,
    quietTo: null,
    quietZone: 'Europe/Dublin',
    webhook: null,
  },
  secret: null,
  deliveries: [],
  ...more,
})
async function page(role = 'warden') {
  const part = mounted(AlertsPart, {})
  useSession().who = { email: 'w@x.example', name: 'W', role } as never
  await flushPromises()
  return part
}

describe('whom alerts reach', () => {
  it('is saved in order, and what signs the webhook is shown once', async () => {
    server.view = view()
    const part = await page()
    expect((part.get('#on-call').element as HTMLTextAreaElement).value).toBe(
      'a@x.example\nb@x.example',
    )
    await part.get('#on-call').setValue('c@x.example, a@x.example')
    await part.get('#webhook').setValue('https://alerts.example.org/in')
    server.view = view({ secret: 'shown once' })
    await part.get('form').trigger('submit')
    await flushPromises()
    expect(server.calls[0]).toMatchObject({
      what: 'PUT /api/alerting',
      body: {
        onCall: ['c@x.example', 'a@x.example'],
        quietFrom: null,
        webhook: 'https://alerts.example.org/in',
      },
    })
    expect(part.text()).toContain('shown once')
  })

  it('is tried by every way, and what was given up says why', async () => {
    server.view = view({
      deliveries: [
        {
          id: 1,
          subject: 'Weir',
          state: 'failed',
          tries: 12,
          why: 'answered 503',
          madeAt: '2027-01-04T09:12:00Z',
        },
      ],
    })
    const part = await page()
    expect(part.text()).toContain('given up: it answered 503, 12 tries')
    await part
      .findAll('button')
      .find((b) => b.text() === 'Send a test')
      ?.trigger('click')
    await flushPromises()
    expect(part.text()).toContain('A test goes by mail to a@x.example and the webhook.')
  })

  it('is looked at by auditors and not changed', async () => {
    server.view = view()
    const part = await page('auditor')
    expect(part.find('button').exists()).toBe(false)
  })
})
