// @vitest-environment happy-dom
import { flushPromises } from '@vue/test-utils'
import { expect, it, vi } from 'vitest'
import { catalogue, mounted } from '@/testing/mounting'
import CommandField from './CommandField.vue'

const asked = vi.hoisted(() => [] as string[])
vi.mock('@/api/client', async (original) => {
  const api = {
    GET: async (path: string) => {
      asked.push(path)
      return {
        data: path === '/api/catalogue' ? catalogue : { items: [] },
        response: { ok: true },
      }
    },
  }
  return { ...(await original<object>()), api }
})

it('asks for the catalogue once something is looked for, and finds controls in it', async () => {
  const field = mounted(CommandField, {})
  await flushPromises()
  expect(asked).toEqual([])
  await field.get('input').setValue('lobby')
  await flushPromises()
  expect(asked.filter((path) => path === '/api/catalogue')).toHaveLength(1)
  expect(field.text()).toContain('Lobby bypass')
})
