// @vitest-environment happy-dom
import { mount } from '@vue/test-utils'
import { afterEach, beforeEach, expect, test, vi } from 'vitest'
import { nextTick, reactive } from 'vue'
import FilterBar from './FilterBar.vue'

const route = reactive<{ query: Record<string, string | undefined> }>({ query: {} })
const replaced: Record<string, string | undefined>[] = []
vi.mock('vue-router', () => ({
  useRoute: () => route,
  useRouter: () => ({
    replace: (to: { query: Record<string, string | undefined> }) => {
      replaced.push(to.query)
      return Promise.resolve()
    },
  }),
}))
beforeEach(() => vi.useFakeTimers())
afterEach(() => {
  vi.useRealTimers()
  replaced.splice(0)
  route.query = {}
})
const bar = () => mount(FilterBar, { props: { words: 'Title', days: 'Begun' } })
const typed = async (view: ReturnType<typeof bar>, text: string) => {
  await view.get('input[type=search]').setValue(text)
}

test('what is typed goes into the address once one pauses, and back to the first page', async () => {
  route.query = { page: '3', unit: 'pilotage' }
  const view = bar()
  await typed(view, 'h')
  await typed(view, ' harbour ')
  vi.advanceTimersByTime(300)
  expect(replaced).toEqual([{ page: undefined, unit: 'pilotage', text: 'harbour' }])
})

test('an answer of the address takes no letter away that was typed since', async () => {
  const view = bar()
  await typed(view, 'har')
  vi.advanceTimersByTime(300)
  await typed(view, 'harb')
  route.query = { text: 'har' } // comes late
  await nextTick()
  expect((view.get('input[type=search]').element as HTMLInputElement).value).toBe('harb')
})

test('showing all again empties the field', async () => {
  route.query = { text: 'har' }
  const view = bar()
  route.query = {}
  await nextTick()
  expect((view.get('input[type=search]').element as HTMLInputElement).value).toBe('')
  vi.advanceTimersByTime(300)
  expect(replaced).toEqual([])
})

test('days are in the address', async () => {
  route.query = { from: '2026-05-01' }
  const view = bar()
  expect(view.get('button').text()).toBe('Begun: 1 May – …')
  await view.get('button').trigger('click')
  await view.findAll('input[type=date]')[1]?.setValue('2026-05-01')
  expect(replaced).toEqual([{ page: undefined, from: '2026-05-01', to: '2026-05-01' }])
})
