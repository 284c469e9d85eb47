// @vitest-environment happy-dom
import { afterEach, beforeEach, expect, test, vi } from 'vitest'
import { sessionEnded } from './client'
import { noteSignOut, watchKept } from './keptPages'

const root = document.documentElement
const loadAnew = vi.fn()

function happens(name: string, persisted: boolean) {
  window.dispatchEvent(Object.assign(new Event(name), { persisted }))
}

beforeEach(() => watchKept(window, loadAnew))
afterEach(() => {
  root.hidden = false
  loadAnew.mockClear()
})

test('a page that is kept is out of sight, and comes back as it was', () => {
  happens('pagehide', true)
  expect(root.hidden).toBe(true)
  happens('pageshow', true)
  expect(root.hidden).toBe(false)
  expect(loadAnew).not.toHaveBeenCalled()
})

test('after somebody has signed out on another page it is loaded anew, and not seen meanwhile', () => {
  happens('pagehide', true)
  localStorage.setItem('warden-signed-out', 'on another page')
  happens('pageshow', true)
  expect(loadAnew).toHaveBeenCalled()
  expect(root.hidden).toBe(true)
})

test('whoever signed out and in on this page comes back to it', () => {
  noteSignOut()
  happens('pagehide', true)
  happens('pageshow', true)
  expect(root.hidden).toBe(false)
  expect(loadAnew).not.toHaveBeenCalled()
})

test('a page that is not kept is left alone', () => {
  happens('pagehide', false)
  noteSignOut()
  happens('pageshow', false)
  expect(root.hidden).toBe(false)
  expect(loadAnew).not.toHaveBeenCalled()
})

test('a page that is open beside it is covered', () => {
  const covered = vi.fn()
  sessionEnded.addEventListener('ended', covered)
  const heard = (key: string) => window.dispatchEvent(Object.assign(new Event('storage'), { key }))
  heard('warden-theme')
  expect(covered).not.toHaveBeenCalled()
  heard('warden-signed-out')
  expect(covered).toHaveBeenCalled()
  sessionEnded.removeEventListener('ended', covered)
})
