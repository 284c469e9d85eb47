import { expect, test } from 'vitest'
import { useAct } from './act'

test('it is busy while it is under way, and does nothing a second time meanwhile', async () => {
  const { busy, problem, attempt } = useAct()
  let done: (what: string) => void = () => {}
  const first = attempt(() => new Promise<string>((resolve) => (done = resolve)))
  expect(busy.value).toBe(true)
  expect(await attempt(() => Promise.resolve('second'))).toBeUndefined()
  done('first')
  expect(await first).toBe('first')
  expect(busy.value).toBe(false)
  expect(problem.value).toBeNull()
})

test('what goes wrong is told until the next try', async () => {
  const { busy, problem, attempt } = useAct()
  const wrong = new Error('no')
  expect(await attempt(() => Promise.reject(wrong))).toBeUndefined()
  expect(problem.value).toBe(wrong)
  expect(busy.value).toBe(false)
  expect(await attempt(() => Promise.resolve(7))).toBe(7)
  expect(problem.value).toBeNull()
})
