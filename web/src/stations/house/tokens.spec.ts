// @vitest-environment happy-dom
import { flushPromises } from '@vue/test-utils'
import { expect, it, vi } from 'vitest'
import type { Session } from '@/api/schema'
import { useSession } from '@/api/session'
import { mounted } from '@/testing/mounting'
import TokensPart from './TokensPart.vue'

const issuing: ((answer: unknown) => void)[] = []
vi.mock('@/api/client', async (original) => {
  const api = {
    GET: async () => ({ data: [], response: { ok: true } }),
    POST: () => new Promise((resolve) => issuing.push(resolve)),
  }
  return { ...(await original<object>()), api }
})

it('issues one token, however often its button is pressed meanwhile', async () => {
  const part = mounted(TokensPart, {})
  useSession().who = { email: 'm.sachs@saltmarsh.example', role: 'warden' } as Session
  await flushPromises()
  await part.get('input').setValue('the nightly report')
  await part.get('form').trigger('submit')
  await part.get('form').trigger('submit')
  expect(issuing.length).toBe(1)
  expect(part.get('form button').attributes('disabled')).toBeDefined()
  const token = { token: 'told-once', expiresAt: '2027-01-11T09:00:00Z' }
  issuing[0]?.({ data: token, response: { ok: true } })
  await flushPromises()
  expect(part.get('[role=status]').text()).toContain('told-once')
  expect(part.get('form button').attributes('disabled')).toBeUndefined()
})
