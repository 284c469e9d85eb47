// @vitest-environment happy-dom
import { afterEach, beforeAll, beforeEach, expect, test, vi } from 'vitest'
import { sessionEnded } from './client'
import { belongsTo, watchKept } from './keptPages'

const root = document.documentElement
const loadAnew = vi.fn()

function happens(name: string, more: object) {
  window.dispatchEvent(Object.assign(new Event(name), more))
}
const onAnotherPage = (person: string) => localStorage.setItem('warden-person', person)

beforeAll(() => watchKept(window, loadAnew))
beforeEach(() => belongsTo('w@saltmarsh.example'))
afterEach(() => {
  root.hidden = false
  loadAnew.mockClear()
})

test('a page that is kept is out of sight, and comes back as it was', () => {
  happens('pagehide', { persisted: true })
  expect(root.hidden).toBe(true)
  happens('pageshow', { persisted: true })
  expect(root.hidden).toBe(false)
  expect(loadAnew).not.toHaveBeenCalled()
})

test.each(['', 'h@saltmarsh.example'])(
  'where its person has signed out, or “%s” has come, it is loaded anew and not seen meanwhile',
  (person) => {
    happens('pagehide', { persisted: true })
    onAnotherPage(person)
    happens('pageshow', { persisted: true })
    expect(loadAnew).toHaveBeenCalledOnce()
    expect(root.hidden).toBe(true)
  },
)

test('a page that is not kept is left alone', () => {
  happens('pagehide', { persisted: false })
  onAnotherPage('')
  happens('pageshow', { persisted: false })
  expect(root.hidden).toBe(false)
  expect(loadAnew).not.toHaveBeenCalled()
})

test('a page that is open beside it is covered until its person is back', () => {
  const heard: string[] = []
  const hear = (event: Event) => heard.push(event.type)
  sessionEnded.addEventListener('ended', hear)
  sessionEnded.addEventListener('back', hear)
  happens('storage', { key: 'warden-theme' })
  expect(heard).toEqual([])
  onAnotherPage('')
  happens('storage', { key: 'warden-person' })
  onAnotherPage('w@saltmarsh.example')
  happens('storage', { key: 'warden-person' })
  expect(heard).toEqual(['ended', 'back'])
  sessionEnded.removeEventListener('ended', hear)
  sessionEnded.removeEventListener('back', hear)
})
