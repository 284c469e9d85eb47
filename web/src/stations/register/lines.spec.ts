import { flushPromises } from '@vue/test-utils'
import { afterEach, beforeEach, expect, test, vi } from 'vitest'
import { computed, effectScope, ref } from 'vue'
import { useLines, type LineFilter } from './lines'

/** Answers that are given when the test says so, in whatever order. */
const asked: { page: number; text: string; answer: (title: string) => void }[] = []
vi.mock('@/api/client', () => ({
  api: {
    GET: (_: string, { params }: { params: { query: { page: number; text: string } } }) =>
      new Promise((resolve) =>
        asked.push({
          page: params.query.page,
          text: params.query.text,
          answer: (title) => resolve({ items: [{ id: title, title }], total: 1 }),
        }),
      ),
  },
  take: <T>(answer: Promise<T>) => answer,
}))

const scope = { now: effectScope() }
beforeEach(() => {
  asked.length = 0
  scope.now = effectScope()
})
afterEach(() => scope.now.stop())

function lines() {
  const address = ref({ text: '', row: 0 })
  const filter = computed<LineFilter>(() => ({
    text: address.value.text,
    unit: '',
    kind: '',
    band: '',
    host: '',
    service: '',
    open: false,
    sort: 'next',
  }))
  const made = scope.now.run(() => useLines(filter))
  if (!made) throw new Error('no lines')
  return { address, ...made }
}

test('another row in the address asks for nothing and leaves what is in sight', async () => {
  const { address, at } = lines()
  asked[0]?.answer('Storm call')
  await flushPromises()
  address.value = { text: '', row: 3 }
  await flushPromises()
  expect(at(0)?.title).toBe('Storm call')
  expect(asked.length).toBe(1)
})

test('what is read again stays in sight until the answer comes', async () => {
  const { at, reload } = lines()
  asked[0]?.answer('before')
  await flushPromises()
  reload()
  await flushPromises()
  expect(at(0)?.title).toBe('before')
  asked[1]?.answer('after')
  await flushPromises()
  expect(at(0)?.title).toBe('after')
})

test('an answer to an older question never overwrites a newer one', async () => {
  const { address, at } = lines()
  address.value = { text: 'tide', row: 0 }
  await flushPromises()
  expect(asked.map((a) => a.text)).toEqual(['', 'tide'])
  asked[1]?.answer('Tide tables')
  asked[0]?.answer('Storm call')
  await flushPromises()
  expect(at(0)?.title).toBe('Tide tables')
})
