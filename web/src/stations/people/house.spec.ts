// @vitest-environment happy-dom
import { enableAutoUnmount, flushPromises } from '@vue/test-utils'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import type { Session } from '@/api/schema'
import { useSession } from '@/api/session'
import { mounted } from '@/testing/mounting'
import HousePart from './HousePart.vue'

interface House {
  name: string
  facts: string
  units: { id: string; name: string }[]
}
const server = vi.hoisted(() => ({
  name: 'Saltmarsh',
  state: 1,
  sent: [] as { body: House; answer: () => void }[],
}))
vi.mock('@/api/client', async (original) => {
  const ok = (data: unknown) => ({ data, response: { ok: true } })
  const now = () => ({
    name: server.name,
    domains: ['saltmarsh.example'],
    partners: [],
    plan: { maxParticipants: 300, maxMinutes: 1440 },
    units: [{ id: 'sea', name: 'Sea', parent: null }],
    kinds: [],
    facts: `state-${server.state}`,
  })
  const api = {
    GET: async () => ok(now()),
    PUT: (_path: string, { body }: { body: House }) =>
      new Promise((resolve) =>
        server.sent.push({
          body,
          answer: () => {
            server.name = body.name
            server.state++
            resolve(ok({}))
          },
        }),
      ),
  }
  return { ...(await original<object>()), api }
})
enableAutoUnmount(afterEach)
beforeEach(() => {
  server.name = 'Saltmarsh'
  server.state = 1
  server.sent.length = 0
})

async function begun() {
  const part = mounted(HousePart, {})
  useSession().who = { email: 'm.sachs@saltmarsh.example', role: 'warden' } as Session
  await flushPromises()
  const type = (name: string) => part.get('#h-name').setValue(name)
  const save = () => part.get('form').trigger('submit')
  const shown = () => (part.get('#h-name').element as HTMLInputElement).value
  return { part, type, save, shown }
}

it('keeps what is typed while it is saved, to be saved with the next', async () => {
  const { type, save, shown } = await begun()
  await type('Saltmarsh Port')
  await save()
  await type('Saltmarsh Port Authority')
  server.sent[0]?.answer()
  await flushPromises()
  expect(shown()).toBe('Saltmarsh Port Authority')
  await save()
  expect(server.sent.map(({ body }) => [body.name, body.facts])).toEqual([
    ['Saltmarsh Port', 'state-1'],
    ['Saltmarsh Port Authority', 'state-2'],
  ])
})

it('rests on the state it was read in where somebody else has been there too', async () => {
  const { type, save } = await begun()
  await type('Saltmarsh Port')
  await save()
  await type('Saltmarsh Port Authority')
  server.sent[0]?.answer()
  server.name = 'By somebody else'
  server.state++
  await flushPromises()
  await save()
  // which the server refuses: it is changed meanwhile
  expect(server.sent[1]?.body.facts).toBe('state-1')
})

it('lets an id be typed that begins like one that is there, and a row that was added go again', async () => {
  const { part, save } = await begun()
  const add = () =>
    part
      .findAll('button')
      .find((b) => b.text() === 'add a unit')
      ?.trigger('click')
  const id = (i: number) => part.get(`input[aria-label="Id of unit ${i}"]`)
  await add()
  await add()
  for (const text of ['s', 'sea', 'seaside']) await id(2).setValue(text)
  expect(id(2).attributes('readonly')).toBeUndefined()
  expect(id(1).attributes('readonly')).toBeDefined()
  await part.get('input[aria-label="Unit 2"]').setValue('Seaside')
  // what is stored stays, the row that was added in vain goes
  const gone = part.findAll('button').filter((b) => b.text() === 'remove')
  expect(gone).toHaveLength(2)
  await gone[1]?.trigger('click')
  await save()
  expect(server.sent[0]?.body.units.map((u) => u.id)).toEqual(['sea', 'seaside'])
})
