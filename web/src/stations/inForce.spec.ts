// @vitest-environment happy-dom
import { enableAutoUnmount, flushPromises } from '@vue/test-utils'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { useSession } from '@/api/session'
import { mounted } from '@/testing/mounting'
import WaiversPage from './audit/WaiversPage.vue'
import SetBackPart from './house/SetBackPart.vue'

const server = vi.hoisted(() => ({ refuses: false, sent: [] as unknown[] }))
vi.mock('@/api/client', async (original) => {
  const stored: Record<string, unknown> = {
    '/api/floor/set-back': { rules: 'sealed' },
    '/api/waivers/settings': { byTwo: true, unitWaiverSeverity: 3 },
  }
  const api = {
    GET: async (path: string) => ({ data: stored[path] ?? [], response: { ok: true } }),
    PUT: async (path: string, { body }: { body: unknown }) => {
      server.sent.push(body)
      return server.refuses
        ? { error: { detail: 'Not now.' }, response: { ok: false, status: 422 } }
        : { data: stored[path], response: { ok: true } }
    },
  }
  return { ...(await original<object>()), api }
})
enableAutoUnmount(afterEach)
beforeEach(() => {
  server.sent.length = 0
  server.refuses = false
})
const asWarden = () => {
  useSession().who = { email: 'm.sachs@saltmarsh.example', role: 'warden' } as never
  return flushPromises()
}

it('shows what is set back in sessions as it is, where it could not be changed', async () => {
  const part = mounted(SetBackPart, {})
  await asWarden()
  const choices = () => part.findAll('input').map((i) => (i.element as HTMLInputElement).checked)
  server.refuses = true
  await part.findAll('input')[2]?.setValue()
  await flushPromises()
  expect(server.sent).toEqual([{ rules: 'none' }])
  expect(part.text()).toContain('Not now.')
  expect(choices()).toEqual([true, false, false])
})

it('shows that waivers need two until the second has agreed to one', async () => {
  const page = mounted(WaiversPage, {})
  await asWarden()
  const byTwo = page.get('label input[type=checkbox]:not([class])')
  expect((byTwo.element as HTMLInputElement).checked).toBe(true)
  // it is taken, and waits for another warden's word: two are needed as before
  await byTwo.setValue(false)
  await flushPromises()
  expect(server.sent).toEqual([{ byTwo: false }])
  expect((byTwo.element as HTMLInputElement).checked).toBe(true)
})
