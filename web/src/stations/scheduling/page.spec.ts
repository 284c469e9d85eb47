// @vitest-environment happy-dom
import { enableAutoUnmount, flushPromises } from '@vue/test-utils'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import type { Session } from '@/api/schema'
import { useSession } from '@/api/session'
import { catalogue, mounted } from '@/testing/mounting'
import { kept } from './kept'
import SchedulePage from './SchedulePage.vue'

const who = 'm.sachs@saltmarsh.example'
type Post = { key: string; meeting: { title: string }; send: boolean }
const server = vi.hoisted(() => ({
  title: 'Harbour watch',
  isLost: false,
  posted: [] as Post[],
  sent: [] as { title: string; version: number; answer: () => void }[],
}))
vi.mock('@/api/client', async (original) => {
  const ok = (data: unknown) => ({ data, response: { ok: true } })
  const stored = () => ({
    version: server.sent.length + 1,
    hasPasscode: false,
    meeting: {
      title: server.title,
      host: 'm.sachs@saltmarsh.example',
      start: '2027-01-11T09:00',
      zone: 'Europe/Dublin',
      minutes: 60,
      controls: {},
    },
  })
  const api = {
    GET: async (path: string) =>
      ok(path === '/api/catalogue' ? catalogue : path.endsWith('/form') ? stored() : {}),
    PUT: (_path: string, { body }: { body: { meeting: { title: string }; version: number } }) =>
      new Promise((resolve) =>
        server.sent.push({
          title: body.meeting.title,
          version: body.version,
          answer: () => {
            server.title = body.meeting.title
            resolve(ok({ id: 'm-1', sent: 0 }))
          },
        }),
      ),
    POST: async (_path: string, { body }: { body: Post }) => {
      server.posted.push(body)
      if (server.isLost) throw new TypeError('Failed to fetch')
      return ok({ id: 'm-2', sent: 3, before: server.posted.length > 1 })
    },
  }
  return { ...(await original<object>()), api }
})
const { nothing } = vi.hoisted(() => ({ nothing: () => ({ default: { render: () => null } }) }))
vi.mock('./ControlsPart.vue', nothing)
vi.mock('./ExtrasPart.vue', nothing)
vi.mock('./LetterDialog.vue', nothing)
vi.mock('./PasscodePart.vue', nothing)
vi.mock('./WhatItDoes.vue', nothing)
vi.mock('./WhenPart.vue', nothing)
vi.mock('./WhoPart.vue', nothing)
vi.mock('./preview', async () => {
  const { ref } = await import('vue')
  return { useSchedulingPreview: () => ({ preview: ref(null), problem: ref(null) }) }
})
enableAutoUnmount(afterEach)
beforeEach(() => {
  server.title = 'Harbour watch'
  server.sent.length = 0
  server.posted.length = 0
  server.isLost = false
  localStorage.clear()
})

// whoever signs in does so after the page was made: what is kept is nobody's
async function page(id?: string) {
  const page = mounted(SchedulePage, id ? { id } : {})
  useSession().who = { email: who, role: 'warden' } as Session
  await flushPromises()
  return {
    page,
    type: (title: string) => page.get('#title').setValue(title),
    save: () => page.get('form').trigger('submit'),
    shown: () => (page.get('#title').element as HTMLInputElement).value,
  }
}

it('offers what was typed while it was saved, beside what was saved', async () => {
  const { page: schedule, type, save, shown } = await page('m-1')
  await type('Harbour watch, early')
  await save()
  await type('Harbour watch, early and late')
  server.sent[0]?.answer()
  await flushPromises()
  expect(shown()).toBe('Harbour watch, early')
  expect(schedule.get('footer [role=status]').text()).toBe('Saved. Nobody was written to.')
  const goOn = schedule.findAll('button').find((b) => b.text() === 'Go on with it')
  await goOn?.trigger('click')
  expect(shown()).toBe('Harbour watch, early and late')
  await save()
  expect(server.sent.map(({ title, version }) => [title, version])).toEqual([
    ['Harbour watch, early', 1],
    ['Harbour watch, early and late', 2],
  ])
})

it('says where the meeting was changed since what was typed here', async () => {
  const { page: first, type } = await page('m-1')
  await type('Harbour watch, early')
  first.unmount()
  // with a reload in between, and somebody else’s change
  for (const isChanged of [false, true]) {
    if (isChanged) server.sent.push({ title: '', version: 1, answer: () => {} })
    const { page: again } = await page('m-1')
    const offer = again.get('section, p[role=status]').text()
    expect(offer).toContain('Go on with it')
    expect(offer.includes('has been changed since')).toBe(isChanged)
    again.unmount()
  }
})

it('keeps nothing of what was saved', async () => {
  const { page: schedule, type, save } = await page('m-1')
  await type('Harbour watch, early')
  expect(kept('', 'm-1')).not.toBeNull()
  await save()
  server.sent[0]?.answer()
  await flushPromises()
  expect(kept('', 'm-1')).toBeNull()
  expect(schedule.vm.$router.currentRoute.value.path).toBe('/register/m-1')
})

it('saves a new meeting once, also where the answer to it was lost', async () => {
  const { page: schedule, type, save } = await page()
  await type('Harbour watch')
  server.isLost = true
  await save()
  await flushPromises()
  expect(schedule.get('footer').text()).toContain('The server does not answer')
  server.isLost = false
  await save()
  await flushPromises()
  const [first, second] = server.posted
  expect(first?.key).toMatch(/^[A-Za-z0-9-]{16,64}$/)
  expect(second?.key).toBe(first?.key)
  expect(schedule.vm.$router.currentRoute.value.path).toBe('/register/m-2')
  expect(kept('', 'm-2')).toBeNull()
})

it('offers what was typed after an answer was lost, beside what had been saved by then', async () => {
  const { page: schedule, type, save } = await page()
  await type('Harbour watch')
  server.isLost = true
  await save()
  await flushPromises()
  await type('Harbour watch, late')
  server.isLost = false
  await save()
  await flushPromises()
  const at = schedule.vm.$router.currentRoute.value
  expect(at.path).toBe('/register/m-2/edit')
  // nobody was written to by the first
  expect(at.query.saved).toBe('0')
  expect(kept('', 'm-2')?.form.title).toBe('Harbour watch, late')
})
