// @vitest-environment happy-dom
import { flushPromises } from '@vue/test-utils'
import { afterEach, expect, it, vi } from 'vitest'
import { mounted } from '@/testing/mounting'
import SelectionBar from './SelectionBar.vue'

const fails = vi.hoisted(() => ({ preview: false }))
const sent = vi.hoisted(() => [] as { path: string; body: Record<string, unknown> }[])
vi.mock('@/api/client', async (original) => {
  const answers: Record<string, unknown> = {
    '/api/remedies/preview': { meetings: 2, controls: {}, asked: 1 },
    '/api/remedies': { id: 7 },
    '/api/host-requests': { hosts: 2, findings: 3, known: 0 },
  }
  const api = {
    GET: async () => ({ data: [], response: { ok: true } }),
    POST: async (path: string, { body }: { body: Record<string, unknown> }) => {
      if (path in answers) sent.push({ path, body })
      if (fails.preview)
        return { error: { detail: 'Not now.' }, response: { ok: false, status: 503 } }
      return { data: answers[path] ?? [], response: { ok: true } }
    },
  }
  return { ...(await original<object>()), api }
})
afterEach(() => {
  sent.length = 0
  document.body.innerHTML = ''
})
const bar = () =>
  mounted(SelectionBar, { selected: new Set(['m-1', 'm-2']), check: '', subject: '' })
const press = async (name: string) => {
  const button = [...document.querySelectorAll('button')].find(
    (b) => b.textContent?.trim() === name,
  )
  if (!button) throw new Error(`there is no ${name} in ${document.body.textContent}`)
  button.click()
  await flushPromises()
}
const even = () => sent.map((each) => each.body.evenIfAsked)

it('leaves out whom hosts were asked about until that is said, each time anew', async () => {
  const page = bar()
  document.body.append(page.element)
  await press('Mend them…')
  await press('With those who were asked')
  await press('Change 2 meetings')
  expect(even()).toEqual([false, true, true])
  await press('Mend them…')
  expect(even()).toEqual([false, true, true, false])
})

it('applies what was counted, where counting anew fails', async () => {
  const page = bar()
  document.body.append(page.element)
  await press('Mend them…')
  fails.preview = true
  await press('With those who were asked')
  fails.preview = false
  await press('Change 2 meetings')
  expect(even().at(-1)).toBe(false)
})

it('writes to no host before it was asked whether it is to', async () => {
  const page = bar()
  ;(page.vm as unknown as { ask: () => void }).ask()
  await flushPromises()
  expect(sent).toEqual([])
  document.querySelector('form')?.dispatchEvent(new Event('submit'))
  await flushPromises()
  expect(sent.map((each) => each.path)).toEqual(['/api/host-requests'])
  expect(page.text()).toContain('2 hosts asked about 3 findings.')
})
