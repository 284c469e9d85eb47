// @vitest-environment happy-dom
import { flushPromises, type VueWrapper } from '@vue/test-utils'
import { afterEach, describe, expect, it, vi } from 'vitest'
import type { DefaultsView, LinkedService } from '@/api/schema'
import { useSession } from '@/api/session'
import { catalogue, mounted } from '@/testing/mounting'
import ConferencePart from './ConferencePart.vue'
import { backlogWords, carriedWords, defaultsWords, stateWords } from './conference'

const server = vi.hoisted(() => ({
  calls: [] as { what: string; body: unknown }[],
  answers: {} as Record<string, unknown>,
}))
vi.mock('@/api/client', async (original) => {
  const call = (method: string) => async (path: string, options?: { body?: unknown }) => {
    if (method !== 'GET') server.calls.push({ what: `${method} ${path}`, body: options?.body })
    const data = server.answers[`${method} ${path}`] ?? server.answers[path] ?? {}
    if (data instanceof Error)
      return { error: { detail: data.message }, response: { ok: false, status: 422 } }
    return { data, response: { ok: true } }
  }
  const api = { GET: call('GET'), POST: call('POST'), PUT: call('PUT'), DELETE: call('DELETE') }
  return { ...(await original<object>()), api }
})
afterEach(() => {
  server.calls.length = 0
  server.answers = {}
  document.body.innerHTML = ''
})

const service = (other: Partial<LinkedService> = {}): LinkedService => ({
  id: 2,
  name: 'Curlew',
  address: 'https://curlew.example',
  make: 'Curlew',
  level: 'write',
  state: 'in-touch',
  since: '2027-01-04T09:12:00Z',
  reading: false,
  perSecond: 10,
  meetings: 60,
  backlog: {},
  units: [],
  means: {
    'lobby-bypass': {
      values: ['anyone', 'hosts'],
      instead: { named: 'hosts' },
      read: ['meeting'],
      write: ['meeting'],
    },
    polls: { instead: {}, read: ['meeting'], write: ['meeting'] },
  },
  ...other,
})
const view = (other: Partial<DefaultsView> = {}): DefaultsView => ({
  edition: 3,
  state: 'confirmed',
  lines: [
    {
      control: 'lobby-bypass',
      start: 'named',
      limit: 'named',
      carried: 'stricter',
      limitCarried: 'cannot',
      held: 'anyone',
      lock: null,
      looser: true,
    },
  ],
  ...other,
})
async function page(services: LinkedService[], role = 'warden') {
  server.answers['/api/services'] = services
  server.answers['/api/services/{id}/defaults'] = view()
  server.answers['/api/catalogue'] = catalogue
  const mountedPage = mounted(ConferencePart, {})
  useSession().who = { email: 'w@x.example', name: 'W', role } as never
  await flushPromises()
  return mountedPage
}
const button = (of: VueWrapper, words: string) => {
  const found = of.findAll('button').find((b) => b.text() === words)
  if (!found) throw new Error(`there is no button “${words}”: ${of.text()}`)
  return found
}

describe('in words', () => {
  it('says how it stands', () => {
    expect(stateWords(service())).toEqual({ text: 'in touch', wrong: false })
    expect(stateWords(service({ reading: true })).text).toBe('in touch, reading everything')
    expect(stateWords(service({ state: 'away', trouble: 'answers 503' }))).toEqual({
      text: 'away: it answers 503',
      wrong: true,
    })
    expect(stateWords(service({ state: 'key-refused' })).wrong).toBe(true)
    expect(stateWords(service({ state: 'paused' })).text).toBe('paused')
  })
  it('says what waits, and all confirmed only where nothing does', () => {
    expect(backlogWords(service())).toBe('all confirmed')
    expect(backlogWords(service({ backlog: { waiting: 3, other: 1 } }))).toBe(
      '3 waiting, 1 hold something else',
    )
  })
  it('says what its defaults are', () => {
    expect(carriedWords('carried')).toBe('')
    expect(carriedWords('cannot')).toContain('cannot')
    expect(defaultsWords(view(), 'Curlew')).toBe(
      '1 of its defaults are looser than edition 3 says. Curlew cannot hold 1 of its rules.',
    )
    expect(defaultsWords(view({ lines: [] }), 'Curlew')).toBe(
      'Its defaults and locks are those of edition 3.',
    )
    expect(defaultsWords(view({ state: 'waiting', lines: [] }), 'Curlew')).toContain('wait')
  })
})

describe('the page', () => {
  it('sends of its settings what is to be otherwise, and shows what is in force', async () => {
    const p = await page([service()])
    server.answers['PUT /api/services/{id}'] = new Error('Not now.')
    const level = p.get('td select')
    await level.setValue('read')
    await flushPromises()
    expect(server.calls).toEqual([{ what: 'PUT /api/services/{id}', body: { level: 'read' } }])
    expect((level.element as HTMLSelectElement).value).toBe('write')
    expect(p.text()).toContain('Not now.')
  })
  it('tries a service before it can be linked, and links it for reading', async () => {
    const p = await page([])
    expect(p.text()).toContain('No conference service is linked')
    const [address, key] = p.findAll('form input')
    await address?.setValue('https://curlew.example')
    await key?.setValue('secret')
    server.answers['POST /api/services/attempt'] = new Error('It refuses the key.')
    await p.find('form').trigger('submit')
    await flushPromises()
    expect(p.text()).toContain('It refuses the key.')
    server.answers['POST /api/services/attempt'] = { make: 'Curlew', perSecond: 10, means: {} }
    server.answers['POST /api/services'] = [service()]
    await p.find('form').trigger('submit')
    await flushPromises()
    expect(p.text()).toContain('It answers: Curlew')
    await p.find('form').trigger('submit')
    await flushPromises()
    expect(server.calls.at(-1)).toEqual({
      what: 'POST /api/services',
      body: { name: 'Curlew', address: 'https://curlew.example', key: 'secret' },
    })
    expect(p.text()).toContain('all confirmed')
  })
  it('says of no address that it answers but of the one that was tried', async () => {
    const p = await page([])
    const [address, key] = p.findAll('form input')
    await address?.setValue('https://curlew.example')
    await key?.setValue('secret')
    let answer: (tried: object) => void = () => {}
    server.answers['POST /api/services/attempt'] = new Promise((resolve) => (answer = resolve))
    await p.find('form').trigger('submit')
    await address?.setValue('https://dunlin.example')
    answer({ make: 'Curlew', perSecond: 10, means: {} })
    await flushPromises()
    expect(p.text()).not.toContain('It answers')
    expect(button(p, 'Try it').exists()).toBe(true)
  })
  it('waits for a second warden where two are needed', async () => {
    server.answers['/api/rulebook/drafts/consent'] = { needsConsent: true }
    const theirs = {
      id: 7,
      name: 'Dunlin',
      address: 'https://dunlin.example',
      by: 'other@x.example',
      at: '2027-01-04T09:12:00Z',
    }
    server.answers['/api/services/proposals'] = [theirs]
    const p = await page([])
    expect(p.text()).toContain('Nothing is asked there until a second warden agrees.')
    server.answers['POST /api/services/proposals/{id}'] = new Error('It does not answer.')
    await button(p, 'Agree: try it and link it').trigger('click')
    await flushPromises()
    expect(p.text()).toContain('It does not answer.')
    server.answers['POST /api/services/proposals/{id}'] = [service()]
    await button(p, 'Agree: try it and link it').trigger('click')
    await flushPromises()
    expect(p.text()).toContain('all confirmed')
    const [address, key, name] = p.findAll('form:not(:has([data-filter])) input')
    await address?.setValue('https://curlew.example')
    await key?.setValue('secret')
    await name?.setValue('Curlew')
    server.answers['POST /api/services/proposals'] = [
      { ...theirs, id: 8, name: 'Curlew', by: 'w@x.example' },
    ]
    await p.findAll('form').at(-1)?.trigger('submit')
    await flushPromises()
    expect(server.calls.at(-1)).toEqual({
      what: 'POST /api/services/proposals',
      body: { name: 'Curlew', address: 'https://curlew.example', key: 'secret' },
    })
    expect(button(p, 'Take it back').exists()).toBe(true)
  })
  it('shows what it can hold, and sets its defaults back', async () => {
    const p = await page([service()])
    await button(p, 'What it can hold').trigger('click')
    await flushPromises()
    expect(p.text()).toContain('Not at all: Early entry, Chat.')
    expect(p.text()).toContain('by name → hosts')
    await button(p, 'Set them back').trigger('click')
    await flushPromises()
    expect(server.calls.at(-1)?.what).toBe('POST /api/services/{id}/defaults')
  })
  it('says whose new meetings are made in it, and lets that be changed', async () => {
    server.answers['/api/organisation'] = { units: [{ id: 'community', name: 'Community' }] }
    const p = await page([
      service({ units: ['community'] }),
      service({ id: 1, name: 'Redshank', units: [''] }),
    ])
    expect(p.text()).toContain('new meetings of')
    server.answers['PUT /api/services/{id}'] = [service({ units: ['', 'community'] })]
    await p.find('[data-row-menu]').trigger('click')
    await button(p, 'Units…').trigger('click')
    await flushPromises()
    const boxes = [...document.querySelectorAll<HTMLInputElement>('input[type=checkbox]')]
    expect(boxes.map((b) => b.checked)).toContain(true)
    expect(document.body.textContent).toContain('now Redshank')
    document
      .querySelector<HTMLFormElement>('[role=dialog] form')
      ?.dispatchEvent(new Event('submit', { cancelable: true }))
    await flushPromises()
    expect(server.calls.at(-1)).toMatchObject({
      what: 'PUT /api/services/{id}',
      body: { units: ['community'], unitsSeen: ['community'] },
    })
  })
  it('asks for a key of its own for each service', async () => {
    const p = await page([service(), service({ id: 1, name: 'Redshank' })])
    const [curlew, redshank] = p.findAll('[data-row-menu]')
    await curlew?.trigger('click')
    await button(p, 'New key…').trigger('click')
    await flushPromises()
    const field = () => document.querySelector<HTMLInputElement>('[role=dialog] input')
    Object.assign(field() ?? {}, { value: 'for curlew' })
    field()?.dispatchEvent(new Event('input'))
    document.body.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape', bubbles: true }))
    await flushPromises()
    expect(field()).toBeNull()
    await redshank?.trigger('click')
    await button(p, 'New key…').trigger('click')
    await flushPromises()
    expect(field()?.value).toBe('')
  })
  it('pauses two services beside each other', async () => {
    const p = await page([service(), service({ id: 1, name: 'Redshank' })])
    const answers: (() => void)[] = []
    const list = new Promise((resolve) => answers.push(() => resolve([])))
    server.answers['PUT /api/services/{id}'] = list
    for (const row of p.findAll('[data-row-menu]')) {
      await row.trigger('click')
      await button(p, 'Pause').trigger('click')
    }
    expect(server.calls.map((call) => call.body)).toEqual([{ paused: true }, { paused: true }])
    answers[0]?.()
  })
  it('lets an auditor look and change nothing', async () => {
    const p = await page([service()], 'auditor')
    await p.find('[data-row-menu]').trigger('click')
    expect(p.findAll('table button, table [role=menuitem]').map((b) => b.text())).toEqual([
      'What it can hold',
      '⋯',
      'Its meetings',
    ])
    expect(p.findAll('table select, table input')).toHaveLength(0)
    expect(p.findAll('form')).toHaveLength(1) // the filter
  })
})
