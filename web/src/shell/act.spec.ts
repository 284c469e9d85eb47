import { expect, test, vi } from 'vitest'
import { ref } from 'vue'
import { Problem, take } from '@/api/client'
import { useAct, useRowAct, useSetting, useTurns } from './act'

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

test('an act without an answer is not said to be undone', async () => {
  const lost = () => take(Promise.reject(new TypeError('Failed to fetch')))
  await expect(lost()).rejects.toThrow('Nothing was lost; try again.')
  const { problem, attempt } = useAct()
  await attempt(lost)
  expect(problem.value).toMatchObject({ code: 'away' })
  expect(problem.value?.message).toContain('Look whether it was done')
  const refused = new Problem(422, 'invalid', 'Not so.', [])
  await attempt(() => Promise.reject(refused))
  expect(problem.value).toBe(refused)
})

test('acts on different rows go on beside each other, and one on the same row is one', async () => {
  const { problem, attempt } = useRowAct()
  const ends: (() => void)[] = []
  const act = (row: number) =>
    attempt(row, () => new Promise<number>((resolve) => ends.push(() => resolve(row))))
  const first = act(1)
  const second = act(2)
  expect(await act(1)).toBeUndefined()
  expect(ends).toHaveLength(2)
  ends.forEach((end) => end())
  expect([await first, await second]).toEqual([1, 2])
  const wrong = new Error('no')
  expect(await attempt(1, () => Promise.reject(wrong))).toBeUndefined()
  expect(problem.value).toBe(wrong)
})

test('what is set twice in turn ends as it was set last, however slow the first is', async () => {
  const turn = useTurns()
  const { attempt } = useRowAct()
  let kept = 0
  let slow: () => void = () => {}
  void turn(() =>
    attempt('setting', () =>
      new Promise<void>((resolve) => (slow = resolve)).then(() => (kept = 1)),
    ),
  )
  const second = turn(() => attempt('setting', async () => (kept = 2)))
  await Promise.resolve()
  slow()
  await second
  expect(kept).toBe(2)
})

test('of a setting the last choice stands, and one that is refused shows what is in force', async () => {
  const inForce = ref('sealed')
  const sent: string[] = []
  const answers: { taken: () => void; refused: () => void }[] = []
  const { shown, problem, set } = useSetting(
    () => inForce.value,
    (wanted) => {
      sent.push(wanted)
      return new Promise<void>((resolve, reject) =>
        answers.push({
          taken: () => {
            inForce.value = wanted
            resolve()
          },
          refused: () => reject(new Error('no')),
        }),
      )
    },
  )
  const first = set('all')
  const second = set('none')
  expect(shown.value).toBe('none')
  await vi.waitFor(() => expect(sent).toEqual(['all']))
  answers[0]?.taken()
  expect(await first).toBe(true)
  // the first is in force by now, and the field goes on saying what was chosen last
  expect(shown.value).toBe('none')
  await vi.waitFor(() => expect(sent).toEqual(['all', 'none']))
  answers[1]?.refused()
  expect(await second).toBe(false)
  expect(shown.value).toBe('all')
  expect(problem.value?.message).toBe('no')
})
