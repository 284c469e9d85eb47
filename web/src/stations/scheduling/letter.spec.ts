// @vitest-environment happy-dom
import { flushPromises } from '@vue/test-utils'
import { afterEach, expect, it, vi } from 'vitest'
import { mounted } from '@/testing/mounting'
import { emptyForm } from './form'
import LetterDialog from './LetterDialog.vue'

const asked = vi.hoisted(() => [] as { word: string; answer: (text: string) => void }[])
vi.mock('@/api/client', async (original) => ({
  ...(await original<object>()),
  api: {
    POST: (_: string, { body }: { body: { word: string } }) =>
      new Promise((resolve) =>
        asked.push({
          word: body.word,
          answer: (text) =>
            resolve({
              data: { to: 'a@x', all: ['a@x'], subject: 's', text, html: '', calendar: '' },
              response: { ok: true },
            }),
        }),
      ),
  },
}))
afterEach(() => (document.body.innerHTML = ''))

it('shows the letter that was asked for last, in whatever order the answers come', async () => {
  const dialog = mounted(LetterDialog, {
    open: false,
    form: emptyForm('a@x'),
    base: null,
    service: null,
    word: '',
    busy: false,
    problem: null,
  })
  await dialog.setProps({ open: true })
  await dialog.setProps({ word: 'Bring your boots.' })
  expect(asked.map((a) => a.word)).toEqual(['', 'Bring your boots.'])
  asked[1]?.answer('the letter with a word')
  asked[0]?.answer('the letter without')
  await flushPromises()
  expect(document.body.textContent).toContain('the letter with a word')
  expect(document.body.textContent).not.toContain('the letter without')
})
