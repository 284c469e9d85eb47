// @vitest-environment happy-dom
import { flushPromises } from '@vue/test-utils'
import { afterEach, beforeEach, expect, it } from 'vitest'
import { mounted } from '@/testing/mounting'
import CopyButton from './CopyButton.vue'

const offered = (clipboard: unknown) =>
  Object.defineProperty(navigator, 'clipboard', { configurable: true, value: clipboard })
/** What the older way put into the clipboard, where the browser lets it. */
let selected: string[] = []
let lets = true
beforeEach(() => {
  selected = []
  lets = true
  Object.defineProperty(document, 'execCommand', {
    configurable: true,
    value: () => {
      selected.push(document.querySelector('textarea')?.value ?? '')
      return lets
    },
  })
})
afterEach(() => offered(undefined))
async function pressed() {
  const button = mounted(CopyButton, { text: 'wren-4471' })
  await button.get('button').trigger('click')
  await flushPromises()
  return button
}

it('copies, and says so', async () => {
  const written: string[] = []
  offered({ writeText: async (text: string) => void written.push(text) })
  const button = await pressed()
  expect(written).toEqual(['wren-4471'])
  expect(button.text()).toBe('Copied')
  // what is there by then was not copied
  await button.setProps({ text: 'another' })
  expect(button.text()).not.toContain('Copied')
})

it('copies the older way where a page over HTTP has no clipboard, or it is forbidden', async () => {
  for (const clipboard of [undefined, { writeText: () => Promise.reject(new Error('denied')) }]) {
    offered(clipboard)
    expect((await pressed()).text()).toBe('Copied')
  }
  expect(selected).toEqual(['wren-4471', 'wren-4471'])
  expect(document.querySelector('textarea')).toBeNull()
})

it('says where nothing was copied', async () => {
  lets = false
  const button = await pressed()
  expect(button.get('[role=alert]').text()).toContain('could not be copied')
  expect(button.get('button').text()).not.toContain('Copied')
})
