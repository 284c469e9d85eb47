// @vitest-environment happy-dom
import { flushPromises } from '@vue/test-utils'
import { expect, it, vi } from 'vitest'
import { catalogue, mounted } from '@/testing/mounting'
import HostCorner from './HostCorner.vue'

const line = (id: string) => ({
  id,
  title: `Meeting ${id}`,
  next: '2027-01-11T09:00:00Z',
  findings: 1,
  worst: 3,
  exposure: 10,
  band: 'low',
  invited: 2,
})
const asked = new Map<string, (answer: unknown) => void>()
vi.mock('@/api/client', async (original) => {
  const ok = (data: unknown) => ({ data, response: { ok: true } })
  const api = {
    GET: (path: string, of?: { params: { path?: { id: string } } }) => {
      const id = of?.params.path?.id
      if (id) return new Promise((answer) => asked.set(id, (data) => answer(ok(data))))
      return Promise.resolve(
        ok(path === '/api/meetings' ? { items: [line('a'), line('b')] } : catalogue),
      )
    },
  }
  return { ...(await original<object>()), api }
})
const meeting = (id: string) => ({
  id,
  assessment: { findings: [{ text: `Found in ${id}` }], remedy: { changes: [] } },
})

it('opens the meeting that was pressed last, whichever answer comes first', async () => {
  const corner = mounted(HostCorner, {})
  await flushPromises()
  const [first, second] = corner.findAll('button[aria-expanded]')
  await first?.trigger('click')
  await second?.trigger('click')
  asked.get('b')?.(meeting('b'))
  asked.get('a')?.(meeting('a'))
  await flushPromises()
  expect(corner.text()).toContain('Found in b')
  expect(corner.text()).not.toContain('Found in a')
  await second?.trigger('click')
  expect(corner.text()).not.toContain('Found in b')
  // pressed and pressed again before the answer: it stays closed
  await first?.trigger('click')
  await first?.trigger('click')
  asked.get('a')?.(meeting('a'))
  await flushPromises()
  expect(corner.text()).not.toContain('Found in a')
})
