// @vitest-environment happy-dom
import { enableAutoUnmount, flushPromises } from '@vue/test-utils'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { catalogue, mounted } from '@/testing/mounting'
import MeetingPage from './MeetingPage.vue'

const meeting = (id: string) => ({
  id,
  version: 1,
  title: `Meeting ${id}`,
  description: '',
  host: 'm.okafor@saltmarsh.example',
  coHosts: [],
  presenters: [],
  invitees: [],
  lists: [],
  zone: 'Europe/Dublin',
  minutes: 60,
  controls: {},
  occurrences: [],
  coming: [],
  groups: [],
  changedAt: '2026-11-30T09:00:00Z',
  changedBy: 'm.sachs@saltmarsh.example',
  maySeePasscode: true,
  mayChange: true,
  hasPasscode: true,
  assessment: {
    findings: [],
    exposure: { score: 10, intrusion: 5, disruption: 5, band: 'low' },
    remedy: { changes: [{ control: 'chat', from: 'always', to: 'off' }] },
    matrix: { rows: [] },
  },
})
const organisation = { units: [], kinds: [], rooms: [], lists: [], spaces: [] }
const told: { path: string; body?: unknown; answer: (data: unknown) => void }[] = []
vi.mock('@/api/client', async (original) => {
  const ok = (data: unknown) => ({ data, response: { ok: true } })
  const later = (path: string, of?: { body?: unknown }) =>
    new Promise((answer) => told.push({ path, body: of?.body, answer: (data) => answer(ok(data)) }))
  const GET = (path: string, of?: { params?: { path?: { id?: string } } }) => {
    if (path.endsWith('/passcode')) return later(path)
    if (path === '/api/meetings/{id}') return ok(meeting(of?.params?.path?.id ?? ''))
    if (path.startsWith('/api/catalogue')) return ok(catalogue)
    return ok(path === '/api/organisation' ? organisation : [])
  }
  const api = { GET: async (path: string, of?: never) => GET(path, of), PATCH: later }
  return { ...(await original<object>()), api }
})
const { nothing } = vi.hoisted(() => ({ nothing: () => ({ default: { template: '<i />' } }) }))
vi.mock('./ControlTable.vue', () => ({
  default: {
    name: 'ControlTable',
    props: ['meeting', 'only', 'chosen'],
    emits: ['change'],
    template: '<i />',
  },
}))
vi.mock('./MatrixTable.vue', nothing)
vi.mock('./HeldPart.vue', nothing)
vi.mock('./HistoryPart.vue', nothing)
vi.mock('./RegistrationsPart.vue', nothing)
vi.mock('./SourceNote.vue', nothing)
vi.mock('@/stations/floor/InSessionNote.vue', nothing)

// a page that stays hears the keys of the next
enableAutoUnmount(afterEach)
beforeEach(() => void (told.length = 0))

it('shows and undoes on a page what is its own, however late the answers come', async () => {
  const page = mounted(MeetingPage, { id: 'a' })
  const press = async (name: string) => {
    const button = page.findAll('button').find((b) => b.text() === name)
    if (!button) throw new Error(`there is no ${name} in ${page.text()}`)
    await button.trigger('click')
  }
  await flushPromises()
  await press('Show it')
  // by its key, twice
  for (let i = 0; i < 2; i++)
    document.body.dispatchEvent(new KeyboardEvent('keydown', { key: 'a', bubbles: true }))
  await flushPromises()
  expect(told.map((each) => each.path)).toEqual([
    '/api/meetings/{id}/passcode',
    '/api/meetings/{id}/controls',
  ])
  await page.setProps({ id: 'b' })
  await flushPromises()
  told[0]?.answer({ passcode: 'kelp-of-a', triesAMinute: 10, minutesToGuess: 100 })
  told[1]?.answer({ ...meeting('a'), version: 2 })
  await flushPromises()
  expect(page.text()).toContain('Meeting b')
  expect(page.text()).not.toContain('kelp-of-a')
  expect(page.text()).not.toContain('control changed')
  expect(page.findAll('button').map((b) => b.text())).not.toContain('Take it back')
})

it('makes changes one after the other, and shows what was chosen until it is answered', async () => {
  const page = mounted(MeetingPage, { id: 'a' })
  await flushPromises()
  const table = page.getComponent({ name: 'ControlTable' })
  const chosen = () => Object.fromEntries((table.props('chosen') as Map<string, object>).entries())
  table.vm.$emit('change', 'chat', 'off')
  table.vm.$emit('change', 'polls', 'on')
  await flushPromises()
  expect(chosen()).toEqual({ chat: { value: 'off' }, polls: { value: 'on' } })
  expect(told.map((each) => each.body)).toEqual([{ version: 1, controls: { chat: 'off' } }])
  told[0]?.answer({ ...meeting('a'), version: 2 })
  await flushPromises()
  expect(chosen()).toEqual({ polls: { value: 'on' } })
  // made to what the first has left
  expect(told[1]?.body).toEqual({ version: 2, controls: { polls: 'on' } })
  told[1]?.answer({ ...meeting('a'), version: 3 })
  await flushPromises()
  expect(chosen()).toEqual({})
})
