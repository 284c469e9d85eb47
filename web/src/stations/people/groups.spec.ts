// @vitest-environment happy-dom
import { enableAutoUnmount, flushPromises } from '@vue/test-utils'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import type { Session } from '@/api/schema'
import { useSession } from '@/api/session'
import { mounted } from '@/testing/mounting'
import GroupsPage from './GroupsPage.vue'

const server = vi.hoisted(() => ({
  members: { crew: ['a@x.example', 'b@x.example'], night: ['c@x.example'] } as Record<
    string,
    string[]
  >,
  sent: [] as { id: string; body: object; answer: () => void }[],
  put: [] as { id: string; header?: object; body?: object }[],
  gone: [] as string[],
}))
vi.mock('@/api/client', async (original) => {
  interface Of {
    params?: { path?: { id?: string }; header?: object }
    body?: object
  }
  const ok = (data: unknown) => ({ data, response: { ok: true } })
  const id = (of?: Of) => of?.params?.path?.id ?? ''
  const chart = { id: 'chart', name: 'Chart room', email: 'chart@x.example', seats: 8 }
  const lists = () =>
    Object.keys(server.members).map((id) => ({ id, name: id, members: server.members[id]?.length }))
  const api = {
    GET: async (path: string, of?: Of) =>
      ok(
        path === '/api/organisation'
          ? { lists: lists(), spaces: [], rooms: [chart], units: [], kinds: [] }
          : { members: server.members[id(of)] ?? [] },
      ),
    DELETE: async (_path: string, of: Of) => {
      server.gone.push(id(of))
      return ok({})
    },
    PUT: async (_path: string, of: Of) => {
      server.put.push({ id: id(of), header: of.params?.header, body: of.body })
      return ok({})
    },
    PATCH: (_path: string, of: Of) =>
      new Promise((resolve) =>
        server.sent.push({ id: id(of), body: of.body ?? {}, answer: () => resolve(ok({})) }),
      ),
  }
  return { ...(await original<object>()), api }
})
vi.mock('@/stations/scheduling/PeoplePicker.vue', () => ({ default: { render: () => null } }))
// what was typed on one page would be asked after on the next
enableAutoUnmount(afterEach)
beforeEach(() => {
  server.sent.length = server.put.length = server.gone.length = 0
  document.body.innerHTML = ''
})

async function page(sort = 'lists') {
  const page = mounted(GroupsPage, { sort })
  useSession().who = { email: 'm.sachs@saltmarsh.example', role: 'warden' } as Session
  await flushPromises()
  const save = () => page.get('form:has(#g-name)').trigger('submit')
  const takeOut = (who: string) =>
    page
      .findAll('li')
      .find((li) => li.text().startsWith(who))
      ?.get('button')
      .trigger('click')
  return { page, save, takeOut }
}

it('saves what was sent; what is typed after that is saved with the next', async () => {
  const { page: groups, save, takeOut } = await page()
  await takeOut('a@x.example')
  await save()
  await takeOut('b@x.example')
  await groups.get('#g-name').setValue('The crew')
  server.sent[0]?.answer()
  await flushPromises()
  await save()
  expect(server.sent.map((each) => each.body)).toEqual([
    { add: [], remove: ['a@x.example'] },
    { name: 'The crew', add: [], remove: ['b@x.example'] },
  ])
})

it('leaves another that somebody has gone on to as it is', async () => {
  const { page: groups, save, takeOut } = await page()
  await save()
  await groups
    .findAll('button')
    .find((b) => b.text().startsWith('night'))
    ?.trigger('click')
  await flushPromises()
  server.sent[0]?.answer()
  await flushPromises()
  await takeOut('c@x.example')
  await save()
  expect(server.sent[1]).toMatchObject({
    id: 'night',
    body: { add: [], remove: ['c@x.example'] },
  })
})

const press = (words: string) => {
  const found = [...document.querySelectorAll('button')].find((b) => b.textContent.trim() === words)
  if (!found) throw new Error(`there is no button “${words}”`)
  found.click()
  return flushPromises()
}

it('asks before a list goes, saying how many are in it', async () => {
  await page()
  await press('Remove the list')
  expect(document.querySelector('[role=dialog]')?.textContent).toContain('2 members')
  await press('Keep it')
  expect(server.gone).toEqual([])
  await press('Remove the list')
  await press('Remove it')
  expect(server.gone).toEqual(['crew'])
})

it('adds a list only where there is none with its id', async () => {
  const { page: groups, save } = await page()
  await press('Add a list')
  await groups.get('#g-id').setValue('night')
  await groups.get('#g-name').setValue('Another night')
  await save()
  await flushPromises()
  expect(server.put).toMatchObject([{ id: 'night', header: { 'If-None-Match': '*' } }])
})

it('says of a room what it was when it was opened', async () => {
  const { page: rooms, save } = await page('rooms')
  await rooms.get('#g-seats').setValue('20')
  await save()
  await flushPromises()
  const seen = { name: 'Chart room', email: 'chart@x.example', seats: 8 }
  expect(server.put).toMatchObject([{ id: 'chart', body: { ...seen, seats: 20, seen } }])
})
