// @vitest-environment happy-dom
import { flushPromises } from '@vue/test-utils'
import { afterEach, describe, expect, it, vi } from 'vitest'
import type { HeldView } from '@/api/schema'
import { useSession } from '@/api/session'
import { mounted } from '@/testing/mounting'
import HeldPart from './HeldPart.vue'
import { writingWords } from './held'

const server = vi.hoisted(() => ({
  calls: [] as string[],
  refuses: '',
  services: [] as unknown[],
}))
vi.mock('@/api/client', async (original) => {
  const call = (method: string) => async (path: string, options?: { body?: unknown }) => {
    if (method !== 'GET') {
      server.calls.push(`${method} ${path} ${JSON.stringify(options?.body ?? '')}`)
      if (server.refuses)
        return { error: { detail: server.refuses }, response: { ok: false, status: 409 } }
    }
    const data = path === '/api/services' ? server.services : { controls: [], personas: [] }
    return { data, response: { ok: true } }
  }
  const api = { GET: call('GET'), POST: call('POST'), PUT: call('PUT') }
  return { ...(await original<object>()), api }
})
afterEach(() => {
  server.calls.length = 0
  server.refuses = ''
  server.services = []
})

const held = (other: Partial<HeldView>): HeldView => ({
  service: 1,
  name: 'Curlew',
  level: 'write',
  readAt: '2027-01-04T09:12:00Z',
  writing: 'none',
  late: false,
  dialIn: [],
  toWrite: [],
  differences: [],
  ...other,
})
const difference = {
  control: 'waiting-room',
  decided: 'on',
  held: 'off',
  cause: 'changed-there',
  by: 'k.rosen@x.example',
  at: '2027-01-04T09:12:00Z',
  why: '',
  looser: true,
}
const as = (role: string) => {
  useSession().who = { email: 'w@x.example', name: 'W', role } as never
}

describe('how far what was decided has come', () => {
  it('is never called done before it was confirmed', () => {
    for (const writing of ['waiting', 'sent', 'refused', 'other', 'kept'])
      expect(writingWords(held({ writing }))?.text).not.toMatch(/confirmed|As decided/)
    const at = '2027-01-04T09:12:00Z'
    expect(writingWords(held({ writing: 'confirmed', confirmedAt: at }))).toMatchObject({
      wrong: false,
    })
    // what was confirmed once and was changed there since is not as decided
    const since = held({ writing: 'confirmed', confirmedAt: at, differences: [difference] })
    expect(writingWords(since)).toEqual({ text: 'It is not as it was decided.', wrong: true })
    expect(writingWords(held({ writing: 'none' }))).toBeNull()
  })
  it('says why it was refused', () => {
    expect(writingWords(held({ writing: 'refused', why: 'it is locked there' }))).toEqual({
      text: 'Curlew refused it: it is locked there.',
      wrong: true,
    })
  })
})

describe('the part of the page', () => {
  it('shows both, and sets back or leaves it', async () => {
    const page = mounted(HeldPart, {
      id: 'm-1',
      mayAct: true,
      held: held({ writing: 'confirmed', differences: [difference] }),
    })
    as('warden')
    await flushPromises()
    expect(page.text()).toContain('k.rosen@x.example changed it there')
    const buttons = page.findAll('button')
    expect(buttons.map((b) => b.text())).toEqual(['Set it back', 'Leave it as it is there'])
    await buttons[0]?.trigger('click')
    await flushPromises()
    expect(server.calls).toEqual(['POST /api/meetings/{id}/service/decided ""'])
    expect(page.emitted('changed')).toHaveLength(1)
    server.refuses = 'Look again.'
    await buttons[1]?.trigger('click')
    await flushPromises()
    expect(page.text()).toContain('Look again.')
    expect(page.emitted('changed')).toHaveLength(1)
  })
  it('offers nothing to set back where nothing may be written', async () => {
    const page = mounted(HeldPart, {
      id: 'm-1',
      mayAct: true,
      held: held({ level: 'read', writing: 'kept', differences: [difference] }),
    })
    as('host')
    await flushPromises()
    expect(page.text()).toContain('linked for reading only')
    expect(page.findAll('button')).toHaveLength(0)
  })
  it('has a meeting made in a service that is written to', async () => {
    server.services = [
      { id: 7, name: 'Redshank', level: 'write' },
      { id: 8, name: 'Curlew', level: 'read' },
    ]
    const page = mounted(HeldPart, { id: 'm-1', mayAct: true, held: null })
    as('warden')
    await flushPromises()
    expect(page.findAll('option').map((o) => o.text())).toEqual(['Choose one', 'Redshank'])
    await page.findAll('option')[1]?.setValue()
    await page.find('form').trigger('submit')
    await flushPromises()
    expect(server.calls).toEqual(['PUT /api/meetings/{id}/service {"service":7}'])
  })
})
