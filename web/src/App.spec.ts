// @vitest-environment happy-dom
import { flushPromises } from '@vue/test-utils'
import { expect, it, vi } from 'vitest'
import { mounted } from '@/testing/mounting'
import App from './App.vue'
import { useSession } from './api/session'

const asked = vi.hoisted(() => [] as string[])
const house = vi.hoisted(() => ({ who: null as string | null }))
vi.mock('@/api/client', async (original) => {
  const who = () => ({ email: house.who, role: 'warden', provider: false })
  const answer = (path: string) => {
    asked.push(path)
    const data = { name: 'Saltmarsh Harbour', units: [], kinds: [], worst: [], count: 0 }
    return { data: path === '/api/session' ? who() : data, response: { ok: true, status: 200 } }
  }
  const api = {
    GET: async (path: string) => answer(path),
    POST: async (path: string, { body }: { body: { email: string } }) => {
      house.who = body.email
      return answer(path)
    },
    DELETE: async (path: string) => {
      house.who = null
      return answer(path)
    },
  }
  return { ...(await original<object>()), api }
})
// what is a page of its own asks for itself
vi.mock('@/stations/lookout/LookoutStation.vue', () => ({ default: { template: '<p />' } }))
Object.defineProperty(document, 'fonts', { value: { load: () => Promise.resolve([]) } })

it('draws the frame out of sight while a password is typed, and asks nothing for it', async () => {
  vi.useFakeTimers()
  const app = mounted(App, {})
  const session = useSession()
  await flushPromises()
  expect(app.find('nav').exists()).toBe(false)

  await vi.advanceTimersByTimeAsync(500)
  expect(app.find('input[type=password]').exists()).toBe(true)
  expect(app.get('nav').element.closest('[hidden]')).not.toBeNull()
  window.dispatchEvent(new KeyboardEvent('keydown', { key: '?' }))
  await vi.advanceTimersByTimeAsync(120_000)
  expect(app.find('[role=dialog]').exists()).toBe(false)
  expect([...new Set(asked)]).toEqual(['/api/session'])
  const before = asked.length

  await app.get('input[type=email]').setValue('w@saltmarsh.example')
  await app.get('input[type=password]').setValue('low-water-0642')
  await app.get('form').trigger('submit')
  await vi.advanceTimersByTimeAsync(100)
  await flushPromises()
  expect(app.find('input[type=password]').exists()).toBe(false)
  expect(app.get('nav').element.closest('[hidden]')).toBeNull()
  expect(app.text()).toContain('Saltmarsh Harbour')
  expect(asked.slice(before).filter((path) => path === '/api/organisation')).toHaveLength(1)
  expect(asked.slice(before).filter((path) => path === '/api/rulebook')).toHaveLength(1)

  await session.signOut()
  await flushPromises()
  expect(app.find('nav').exists()).toBe(false) // nothing stays of who was there
  await vi.advanceTimersByTimeAsync(500)
  expect(app.get('nav').element.closest('[hidden]')).not.toBeNull()
  expect(app.text()).not.toContain('Saltmarsh Harbour')
  app.unmount()
  vi.useRealTimers()
})
