import { describe, expect, it } from 'vitest'
import { nextTick, ref } from 'vue'
import { latest } from './impact'

/** An asker whose answers are given by hand. */
function byHand() {
  const open: { about: number; answer: (text: string) => void; fail: (e: Error) => void }[] = []
  const ask = (about: number) =>
    new Promise<string>((resolve, reject) => open.push({ about, answer: resolve, fail: reject }))
  return { open, ask }
}
const tick = async () => {
  for (let i = 0; i < 5; i++) await nextTick()
}

describe('latest', () => {
  it('asks one question at a time and, of what changed meanwhile, only the last', async () => {
    const { open, ask } = byHand()
    const about = ref<number | null>(1)
    const { answer, asking } = latest(() => about.value, ask)
    await tick()
    about.value = 2
    await tick()
    about.value = 3
    await tick()
    expect(open.map((o) => o.about)).toEqual([1])
    expect(asking.value).toBe(true)
    open[0]?.answer('one')
    await tick()
    expect(open.map((o) => o.about)).toEqual([1, 3])
    open[1]?.answer('three')
    await tick()
    expect(answer.value).toBe('three')
    expect(asking.value).toBe(false)
  })

  it('keeps the answer it has where a question fails, and says so', async () => {
    const { open, ask } = byHand()
    const about = ref<number | null>(1)
    const { answer, problem } = latest(() => about.value, ask)
    await tick()
    open[0]?.answer('one')
    await tick()
    about.value = 2
    await tick()
    open[1]?.fail(new Error('away'))
    await tick()
    expect(answer.value).toBe('one')
    expect(problem.value?.message).toBe('away')
  })

  it('does not ask again what was answered last', async () => {
    const { open, ask } = byHand()
    const about = ref({ book: 1 })
    latest(
      () => about.value,
      ({ book }) => ask(book),
    )
    await tick()
    open[0]?.answer('one')
    await tick()
    about.value = { book: 1 }
    await tick()
    expect(open).toHaveLength(1)
    about.value = { book: 2 }
    await tick()
    expect(open).toHaveLength(2)
  })

  it('asks nothing where there is nothing to ask', async () => {
    const { open, ask } = byHand()
    const about = ref<number | null>(null)
    const { answer } = latest(() => about.value, ask)
    await tick()
    expect(open).toHaveLength(0)
    expect(answer.value).toBeNull()
  })
})
