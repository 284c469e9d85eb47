// @vitest-environment happy-dom
import { flushPromises, type VueWrapper } from '@vue/test-utils'
import { afterEach, describe, expect, it, vi } from 'vitest'
import type { Coming, MeetingView, RegistrationList } from '@/api/schema'
import { catalogue, mounted } from '@/testing/mounting'
import DateDialog from './DateDialog.vue'
import RegistrationsPart from './RegistrationsPart.vue'

const server = vi.hoisted(() => ({
  calls: [] as { what: string; body: unknown }[],
  answers: {} as Record<string, unknown>,
}))
vi.mock('@/api/client', async (original) => {
  const call =
    (method: string) =>
    async (path: string, options: { body?: unknown } = {}) => {
      if (method !== 'GET') server.calls.push({ what: `${method} ${path}`, body: options.body })
      const data = await (server.answers[`${method} ${path}`] ?? server.answers[path] ?? {})
      if (data instanceof Error)
        return { error: { detail: data.message }, response: { ok: false, status: 422 } }
      return { data, response: { ok: true } }
    }
  const api = { GET: call('GET'), POST: call('POST'), PATCH: call('PATCH') }
  return { ...(await original<object>()), api }
})
afterEach(() => {
  server.calls.length = 0
  server.answers = {}
  document.body.innerHTML = ''
})

const person = (address: string, state: string, deciding: string | null = null) => ({
  address,
  name: `Name of ${address}`,
  askedAt: null,
  state,
  deciding,
  decidedBy: null,
  decidedAt: null,
  why: null,
})
const list = (more: Partial<RegistrationList> = {}): RegistrationList =>
  ({
    how: 'approved',
    service: 'Redshank',
    mayDecide: true,
    people: [person('a@x.example', 'asked'), person('b@x.example', 'approved')],
    ...more,
  }) as RegistrationList
const path = '/api/meetings/{id}/registrations'
const button = (page: VueWrapper, begins: string) => {
  const found = page.findAll('button').find((b) => b.text().startsWith(begins))
  if (!found) throw new Error(`there is no button “${begins}”: ${page.text()}`)
  return found
}

describe('who asked to take part', () => {
  it('is answered one by one, and the choice is forgotten once it was sent', async () => {
    server.answers = { [path]: list() }
    const page = mounted(RegistrationsPart, { id: 'm-1', mayChange: true })
    await flushPromises()
    expect(page.text()).toContain('1 of 2 wait for an answer')
    expect(button(page, 'Decline').attributes('disabled')).toBeDefined()
    await page.findAll('input[type=checkbox]')[0]?.setValue(true)
    server.answers[`POST ${path}`] = list({ people: [person('a@x.example', 'asked', 'declined')] })
    await button(page, 'Decline').trigger('click')
    await flushPromises()
    expect(server.calls).toEqual([
      { what: `POST ${path}`, body: { decision: 'decline', addresses: ['a@x.example'] } },
    ])
    expect(page.text()).toContain('being declined')
    expect(button(page, 'Decline').attributes('disabled')).toBeDefined()
  })

  it('is approved all at once where several wait', async () => {
    server.answers = { [path]: list() }
    const page = mounted(RegistrationsPart, { id: 'm-1', mayChange: true })
    await flushPromises()
    await button(page, 'Approve all 1').trigger('click')
    await flushPromises()
    expect(server.calls[0]?.body).toEqual({ decision: 'approve' })
  })

  it('is of its own meeting, however late the answer comes', async () => {
    server.answers = { [path]: list() }
    const page = mounted(RegistrationsPart, { id: 'm-1', mayChange: true })
    await flushPromises()
    await page.findAll('input[type=checkbox]')[0]?.setValue(true)
    let answer: (of: RegistrationList) => void = () => {}
    server.answers[`POST ${path}`] = new Promise((resolve) => (answer = resolve))
    await button(page, 'Decline').trigger('click')
    server.answers[path] = list({ people: [person('c@x.example', 'asked')] })
    await page.setProps({ id: 'm-2' })
    await flushPromises()
    answer(list({ people: [person('a@x.example', 'asked', 'declined')] }))
    await flushPromises()
    expect(page.text()).toContain('Name of c@x.example')
    expect(page.text()).not.toContain('Name of a@x.example')
    // who was chosen there is not chosen here
    expect(button(page, 'Decline').attributes('disabled')).toBeDefined()
  })

  it('is only read where nothing may be written', async () => {
    server.answers = { [path]: list({ mayDecide: false }) }
    const page = mounted(RegistrationsPart, { id: 'm-1', mayChange: true })
    await flushPromises()
    expect(page.findAll('button').length).toBe(0)
    expect(page.text()).toContain('Answers are given in Redshank')
  })

  it('is not spoken of where nobody registers', async () => {
    server.answers = { [path]: list({ how: 'none', people: [] }) }
    const page = mounted(RegistrationsPart, { id: 'm-1', mayChange: true })
    await flushPromises()
    expect(page.find('section').exists()).toBe(false)
  })

  it('says why a service has not taken an answer', async () => {
    const refused = { ...person('a@x.example', 'asked'), why: 'it lets nobody in' }
    server.answers = { [path]: list({ people: [refused] as never }) }
    const page = mounted(RegistrationsPart, { id: 'm-1', mayChange: true })
    await flushPromises()
    expect(page.text()).toContain('not taken: it lets nobody in')
  })
})

describe('one date of a series', () => {
  const meeting = {
    id: 'm-1',
    version: 7,
    controls: { chat: 'always', 'lobby-bypass': 'hosts' },
    assessment: { resolved: { chat: { limit: 'in-session' } } },
  } as unknown as MeetingView
  const date = (controls: Record<string, unknown>): Coming =>
    ({
      at: '2027-01-11T09:00',
      start: '2027-01-11T09:00:00Z',
      end: '2027-01-11T10:00:00Z',
      changed: false,
      controls,
    }) as Coming
  const inDialog = (words: string) => {
    const found = [...document.querySelectorAll('button')].find(
      (b) => b.textContent?.trim() === words,
    )
    if (!found) throw new Error(`there is no button “${words}”: ${document.body.textContent}`)
    return found
  }
  async function open(controls: Record<string, unknown>) {
    server.answers = { '/api/catalogue': catalogue, 'PATCH /api/meetings/{id}/controls': meeting }
    const page = mounted(DateDialog, { meeting, date: date(controls) })
    await flushPromises()
    return page
  }

  it('has what the series has until it is said otherwise', async () => {
    const page = await open({})
    expect(document.body.textContent).toContain('It has nothing of its own.')
    expect(inDialog('Save this date').disabled).toBe(true)
    const choose = document.querySelector<HTMLSelectElement>('label select')
    if (!choose) throw new Error('there is nothing to choose from')
    choose.value = 'chat'
    choose.dispatchEvent(new Event('change'))
    await flushPromises()
    const value = document.querySelector<HTMLSelectElement>('table select')
    if (!value) throw new Error('the control is not there')
    expect(value.value).toBe('always')
    expect(value.textContent).toContain('always (too loose)')
    value.value = 'off'
    value.dispatchEvent(new Event('change'))
    await flushPromises()
    inDialog('Save this date').click()
    await flushPromises()
    expect(server.calls).toEqual([
      {
        what: 'PATCH /api/meetings/{id}/controls',
        body: { version: 7, occurrence: '2027-01-11T09:00', controls: { chat: 'off' } },
      },
    ])
    expect(page.emitted('changed')?.length).toBe(1)
    expect(page.emitted('close')?.length).toBe(1)
  })

  it('is as the series again where its own value is taken away', async () => {
    await open({ chat: 'off' })
    inDialog('As the series').click()
    await flushPromises()
    inDialog('Save this date').click()
    await flushPromises()
    expect((server.calls[0]?.body as { controls: unknown }).controls).toEqual({ chat: null })
  })

  it('stays open with the reason where it was refused', async () => {
    const page = await open({ chat: 'off' })
    server.answers['PATCH /api/meetings/{id}/controls'] = new Error('Nothing was changed.')
    inDialog('As the series').click()
    await flushPromises()
    inDialog('Save this date').click()
    await flushPromises()
    expect(document.body.textContent).toContain('Nothing was changed.')
    expect(page.emitted('close')).toBeUndefined()
  })
})
