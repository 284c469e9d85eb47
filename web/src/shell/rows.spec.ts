// @vitest-environment happy-dom
import { mount } from '@vue/test-utils'
import { afterEach, expect, test } from 'vitest'
import { defineComponent, h, nextTick, ref } from 'vue'
import { keysShown } from './keys'
import RowMenu from './RowMenu.vue'
import { daysBetween, holds, isWithin, useRows } from './rows'

const opened: string[] = []
const turned: number[] = []
const page = ref(0)
const rows = ref(['one', 'two', 'three'])
const acted: string[] = []

const List = defineComponent({
  setup() {
    const { look } = useRows({
      name: 'row',
      rows: () => rows.value,
      open: (row) => opened.push(row),
      pages: { at: () => page.value, count: () => 2, turn: (to) => turned.push(to) },
      keys: [
        { key: 'v', does: 'look again', act: () => acted.push('v') },
        { key: 'ArrowDown', does: 'next row' },
      ],
    })
    return () =>
      h('div', [
        h('input', { 'data-filter': '', id: 'filter' }),
        rows.value.map((row, i) =>
          h('div', { id: `row-${i}`, class: look(i) }, [
            h('a', { href: '#', id: `a-${row}` }, row),
            h(RowMenu, { of: row, acts: [{ name: 'Do it', act: () => acted.push(row) }] }),
          ]),
        ),
      ])
  },
})
let list: ReturnType<typeof mount> | undefined
afterEach(() => {
  list?.unmount()
  ;[opened, turned, acted].forEach((each) => each.splice(0))
  page.value = 0
  rows.value = ['one', 'two', 'three']
})
async function press(key: string) {
  window.dispatchEvent(new Event('pointerdown')) // nobody is typing
  const at = document.activeElement ?? document.body
  at.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }))
  await nextTick()
  await nextTick()
}
const show = () =>
  (list = mount(List, { attachTo: document.body, global: { stubs: { RouterLink: true } } }))

test('j and k move, not beyond the ends, and the row has the focus', async () => {
  show()
  await press('k')
  expect(document.activeElement?.id).toBe('a-one')
  await press('j')
  await press('j')
  await press('j')
  expect(document.activeElement?.id).toBe('a-three')
  expect(document.getElementById('row-2')?.className).toContain('outline-ink')
  expect(document.getElementById('row-1')?.className).not.toContain('outline-ink')
})

test('where fewer rows are left one is at the last of them', async () => {
  show()
  await press('j')
  await press('j')
  rows.value = ['one', 'two']
  await nextTick()
  expect(document.getElementById('row-1')?.className).toContain('outline-ink')
})

test('Enter opens the row that one is at', async () => {
  show()
  await press('j')
  ;(document.activeElement as HTMLElement).blur()
  await press('Enter')
  expect(opened).toEqual(['two'])
})

test('brackets turn pages, where there is one', async () => {
  show()
  await press('[')
  expect(turned).toEqual([])
  await press(']')
  expect(turned).toEqual([1])
  page.value = 1
  await press(']')
  expect(turned).toEqual([1])
  await press('[')
  expect(turned).toEqual([1, 0])
})

test('a dot opens what the row offers, and f goes to the filter', async () => {
  show()
  await press('j')
  await press('.')
  const items = [...document.querySelectorAll('[role="menuitem"]')]
  expect(items.map((item) => item.textContent)).toEqual(['Do it'])
  ;(items[0] as HTMLElement).click()
  expect(acted).toEqual(['two'])
  await press('f')
  expect(document.activeElement?.id).toBe('filter')
})

test('an open menu keeps its letters to itself', async () => {
  show()
  await press('j')
  await press('.')
  const menu = document.querySelector<HTMLElement>('[role="menu"]')
  menu?.focus()
  menu?.dispatchEvent(new KeyboardEvent('keydown', { key: 'j', bubbles: true }))
  await nextTick()
  expect(document.getElementById('row-1')?.className).toContain('outline-ink')
})

test('every key of what is shown is listed, and none of what is not', async () => {
  show()
  expect(keysShown.value).toContainEqual({ keys: 'v', does: 'look again' })
  expect(keysShown.value).toContainEqual({ keys: '↵', does: 'open the row' })
  list?.unmount()
  list = undefined
  expect(keysShown.value).toEqual([])
})

test('two keys that do the same stand together', () => {
  show()
  expect(keysShown.value).toContainEqual({ keys: 'j ↓', does: 'next row' })
})

test('days are whole days of the reader, with the last in them', () => {
  const { from, to } = daysBetween('2026-03-29', '2026-03-29')
  expect(new Date(from ?? '').getHours()).toBe(0)
  expect(new Date(to ?? '').getDate()).toBe(30)
  expect(isWithin(new Date('2026-03-29T23:59:59').toISOString(), { from, to })).toBe(true)
  expect(isWithin(new Date('2026-03-30T00:00:00').toISOString(), { from, to })).toBe(false)
  expect(daysBetween('', '')).toEqual({})
  expect(daysBetween('soon', '2026-13-45')).toEqual({})
})

test('words are found whatever their case, and in any of the fields', () => {
  expect(holds(' HARB ', 'Tide table', 'the harbour office')).toBe(true)
  expect(holds('quay', 'Tide table', null)).toBe(false)
  expect(holds('  ', null)).toBe(true)
})
