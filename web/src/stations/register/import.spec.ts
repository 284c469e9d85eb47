// @vitest-environment happy-dom
import { flushPromises } from '@vue/test-utils'
import { expect, it, vi } from 'vitest'
import type { Session } from '@/api/schema'
import { useSession } from '@/api/session'
import { mounted } from '@/testing/mounting'
import ImportDialog from './ImportDialog.vue'

const sent: { body: File; answer: (report: unknown) => void }[] = []
vi.mock('@/api/client', async (original) => {
  const api = {
    GET: async () => ({ data: [], response: { ok: true } }),
    POST: (_path: string, asked: { body: File }) =>
      new Promise((answer) => sent.push({ body: asked.body, answer })),
  }
  return { ...(await original<object>()), api }
})

const label = () => document.querySelector('label:has(input[type=file])') as HTMLElement
function drop(name: string) {
  const event = new Event('drop', { bubbles: true, cancelable: true })
  Object.assign(event, { dataTransfer: { files: [new File(['title,start'], name)] } })
  label().dispatchEvent(event)
}

it('tries one file at a time, so that what is said is of the one that is named', async () => {
  const dialog = mounted(ImportDialog, { open: false, chosen: '' })
  useSession().who = { email: 'm.sachs@saltmarsh.example', role: 'warden' } as Session
  await dialog.setProps({ open: true })
  await flushPromises()
  drop('first.csv')
  await flushPromises()
  drop('second.csv')
  await flushPromises()
  expect(sent.map((each) => each.body.name)).toEqual(['first.csv'])
  expect(label().textContent).toContain('first.csv')
  // what is under way is still there where the dialog is opened again
  await dialog.setProps({ open: false })
  await dialog.setProps({ open: true })
  await flushPromises()
  expect(label().textContent).toContain('first.csv')
  const answer = { error: { detail: 'It is no table.', faults: [] }, response: { status: 422 } }
  sent[0]?.answer(answer)
  await flushPromises()
  expect(document.body.textContent).toContain('It is no table.')
  drop('second.csv')
  await flushPromises()
  expect(sent.map((each) => each.body.name)).toEqual(['first.csv', 'second.csv'])
})
