import { flushPromises } from '@vue/test-utils'
import { expect, test } from 'vitest'
import { PAGE, usePages } from './pages'

/** A list whose answers are given when the test says so, in whatever order. */
function list() {
  const asked: { page: number; answer: (row: string, total?: number) => void; fail: () => void }[] =
    []
  const pages = usePages<string>(
    (page) =>
      new Promise((resolve, reject) =>
        asked.push({
          page,
          answer: (row, total = 1) => resolve({ items: [row], total }),
          fail: () => reject(new Error('away')),
        }),
      ),
  )
  return { asked, ...pages }
}

test('what changed while it was read is read once more', async () => {
  const { asked, at, refresh, restart } = list()
  restart()
  refresh()
  refresh()
  expect(asked.length).toBe(1)
  asked[0]?.answer('before')
  await flushPromises()
  // old as it may be, it is better than nothing while there is no other
  expect(at(0)).toBe('before')
  expect(asked.length).toBe(2)
  asked[1]?.answer('after')
  await flushPromises()
  expect(at(0)).toBe('after')
  expect(asked.length).toBe(2)
})

test('an answer that was asked for before something was changed here does not count', async () => {
  const { asked, at, reload, restart } = list()
  restart()
  asked[0]?.answer('before')
  await flushPromises()
  reload()
  reload()
  asked[2]?.answer('after')
  asked[1]?.answer('between')
  await flushPromises()
  expect(at(0)).toBe('after')
})

test('a page is asked for once, and again after it went wrong', async () => {
  const { asked, at, want, problem, total, restart } = list()
  restart()
  asked[0]?.answer('first', 3 * PAGE)
  await flushPromises()
  want(PAGE - 5, PAGE + 5)
  want(PAGE, PAGE + 10)
  expect(asked.map((a) => a.page)).toEqual([0, 1])
  asked[1]?.fail()
  await flushPromises()
  expect(problem.value?.message).toBe('away')
  expect(total.value).toBe(3 * PAGE)
  want(PAGE, PAGE + 10)
  asked[2]?.answer('second', 3 * PAGE)
  await flushPromises()
  expect(at(PAGE)).toBe('second')
  expect(problem.value).toBeNull()
})

test('another list shows nothing of the one before', async () => {
  const { asked, at, restart } = list()
  restart()
  asked[0]?.answer('one')
  await flushPromises()
  restart()
  expect(at(0)).toBeUndefined()
})
