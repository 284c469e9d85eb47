// @vitest-environment happy-dom
import { flushPromises } from '@vue/test-utils'
import { expect, it, vi } from 'vitest'
import type { Session } from '@/api/schema'
import { useSession } from '@/api/session'
import { mounted } from '@/testing/mounting'
import IncidentPart from './IncidentPart.vue'

const writing: { body: unknown; answer: (answer: unknown) => void }[] = []
vi.mock('@/api/client', async (original) => {
  const api = {
    POST: (_path: string, options: { body: unknown }) =>
      new Promise((answer) => writing.push({ body: options.body, answer })),
  }
  return { ...(await original<object>()), api }
})

it('takes no words that would not be sent, and keeps those that were not taken', async () => {
  const part = mounted(IncidentPart, { session: 's-1', meeting: 'Storm call', incidents: [] })
  useSession().who = { email: 'm.sachs@saltmarsh.example', role: 'warden' } as Session
  await part.get('button').trigger('click')
  const note = part.get('textarea')
  await note.setValue('Somebody shared their screen.')
  await part.get('form').trigger('submit')
  expect(note.attributes('readonly')).toBeDefined()
  expect(part.get('input').attributes('readonly')).toBeDefined()

  const refusal = { title: 'Not now', detail: 'The session is gone.', status: 409 }
  writing[0]?.answer({ error: refusal, response: { ok: false, status: 409 } })
  await flushPromises()
  expect(note.attributes('readonly')).toBeUndefined()
  expect(note.element.value).toBe('Somebody shared their screen.')

  await note.setValue('Somebody shared their screen and was removed.')
  await part.get('form').trigger('submit')
  writing[1]?.answer({ data: {}, response: { ok: true } })
  await flushPromises()
  expect(writing.map((w) => (w.body as { note: string }).note)).toEqual([
    'Somebody shared their screen.',
    'Somebody shared their screen and was removed.',
  ])
  expect(part.find('form').exists()).toBe(false)
  expect(part.emitted('written')).toHaveLength(1)
})
