// @vitest-environment happy-dom
import { beforeAll, beforeEach, expect, test } from 'vitest'
import { isTyping, watchTyping } from './keys'

beforeAll(() => watchTyping(window))
beforeEach(() => {
  document.body.innerHTML = '<input id="field"><button id="other"></button>'
  window.dispatchEvent(new Event('pointerdown'))
})

/** Presses a key where the focus is and tells whether it would be taken as typing. */
function press(key: string): boolean {
  let typing = false
  const look = (event: Event) => (typing = isTyping(event))
  window.addEventListener('keydown', look)
  const at = document.activeElement ?? document.body
  at.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }))
  window.removeEventListener('keydown', look)
  return typing
}
const field = () => document.getElementById('field') as HTMLInputElement

test('a digit typed as its field goes away is no shortcut, nor is the next', () => {
  field().focus()
  expect(press('2')).toBe(true)
  field().remove()
  expect(document.activeElement).toBe(document.body)
  expect(press('7')).toBe(true)
  expect(press('1')).toBe(true)
})

test('who leaves a field on purpose has the shortcuts at once', () => {
  field().focus()
  press('a')
  press('Escape')
  field().blur()
  expect(press('n')).toBe(false)
})

test('a click elsewhere leaves it, too', () => {
  field().focus()
  press('a')
  window.dispatchEvent(new Event('pointerdown'))
  field().blur()
  expect(press('n')).toBe(false)
})

test('where something is not saved there are no shortcuts of one key', () => {
  document.body.innerHTML = '<form data-unsaved><button id="b"></button></form>'
  document.getElementById('b')?.focus()
  expect(press('n')).toBe(true)
})
