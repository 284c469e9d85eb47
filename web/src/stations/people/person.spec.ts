// @vitest-environment happy-dom
import { enableAutoUnmount, flushPromises } from '@vue/test-utils'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { mounted } from '@/testing/mounting'
import PersonDialog from './PersonDialog.vue'

interface Sent {
  body: { name: string; seen?: object }
  params: { header: object }
}
const server = vi.hoisted(() => ({ sent: [] as Sent[], isOutdated: false }))
vi.mock('@/api/client', async (original) => {
  const api = {
    GET: async () => ({ data: { units: [] }, response: { ok: true } }),
    PUT: async (_path: string, of: Sent) => {
      server.sent.push(of)
      if (server.isOutdated)
        return {
          error: { code: 'changed-meanwhile', detail: 'It changed.' },
          response: { ok: false, status: 409 },
        }
      return { data: { email: 'n@x.example' }, response: { ok: true } }
    },
  }
  return { ...(await original<object>()), api }
})
enableAutoUnmount(afterEach)
beforeEach(() => {
  server.sent.length = 0
  server.isOutdated = false
  document.body.innerHTML = ''
})

const field = (id: string) => document.getElementById(id) as HTMLInputElement
async function type(id: string, text: string) {
  field(id).value = text
  field(id).dispatchEvent(new Event('input'))
  await flushPromises()
}
async function save() {
  document.querySelector('[role=dialog] form')?.dispatchEvent(new Event('submit'))
  await flushPromises()
}
const entry = {
  email: 'n@x.example',
  name: 'Nora',
  standing: 'member',
  unit: null,
  active: true,
  zone: null,
}

it('adds somebody only where nobody has the address', async () => {
  mounted(PersonDialog, { open: true, person: null })
  await flushPromises()
  await type('p-email', 'n@x.example')
  await type('p-name', 'Nora')
  await save()
  expect(server.sent[0]?.params.header).toEqual({ 'If-None-Match': '*' })
  expect(server.sent[0]?.body.seen).toBeUndefined()
})

it('says what an entry was when it was opened, and offers what it is now', async () => {
  const dialog = mounted(PersonDialog, { open: true, person: entry })
  await flushPromises()
  server.isOutdated = true
  await type('p-name', 'Nora New')
  await save()
  expect(server.sent[0]?.body).toMatchObject({
    name: 'Nora New',
    seen: { name: 'Nora', standing: 'member', unit: null, active: true, zone: null },
  })
  expect(server.sent[0]?.params.header).toEqual({})
  expect(document.body.textContent).toContain('It changed.')
  await dialog.setProps({ person: { ...entry, active: false } })
  // what was typed stays until its writer says otherwise
  expect(field('p-name').value).toBe('Nora New')
  const look = [...document.querySelectorAll('button')].find(
    (b) => b.textContent.trim() === 'Show what it is now',
  )
  look?.click()
  await flushPromises()
  expect(field('p-name').value).toBe('Nora')
  expect(document.querySelector<HTMLInputElement>('form input[type=checkbox]')?.checked).toBe(false)
})
