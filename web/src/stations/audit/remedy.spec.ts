// @vitest-environment happy-dom
import { useQueryCache } from '@pinia/colada'
import { flushPromises } from '@vue/test-utils'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { useSession } from '@/api/session'
import { mounted } from '@/testing/mounting'
import { useLastApplied } from './lastApplied'
import RemedyPart from './RemedyPart.vue'

const server = vi.hoisted(() => ({
  calls: [] as string[],
  changes: {} as Record<string, { from: string; to: string }>,
  /** Until then nothing is applied. */
  until: Promise.resolve(),
}))
vi.mock('@/api/client', async (original) => {
  const { catalogue } = await import('@/testing/mounting')
  const call = (method: string) => async (path: string) => {
    server.calls.push(`${method} ${path}`)
    if (path === '/api/remedies') await server.until
    const data =
      path === '/api/catalogue'
        ? catalogue
        : path === '/api/remedies/sketch'
          ? {
              plan: { changes: server.changes, newPasscode: false, newNumber: false },
              friction: 2,
              before: { exposure: { score: 50 }, findings: [] },
              after: { exposure: { score: 10 }, findings: [] },
              door: [],
            }
          : { id: 7, job: { id: 7, state: 'done', counts: {} }, items: [] }
    return { data, response: { ok: true } }
  }
  const api = { GET: call('GET'), POST: call('POST'), PUT: call('PUT'), DELETE: call('DELETE') }
  return { ...(await original<object>()), api }
})
// what they show is tested by itself
const nothing = vi.hoisted(() => () => ({ default: { render: () => null } }))
vi.mock('@/stations/scheduling/DoorChange.vue', nothing)
vi.mock('@/stations/floor/InSessionNote.vue', nothing)
vi.mock('./JobLine.vue', nothing)
afterEach(() => {
  server.calls.length = 0
  document.body.innerHTML = ''
})

const applied = () => server.calls.filter((c) => c === 'POST /api/remedies').length
async function part(changes: typeof server.changes) {
  server.changes = changes
  const wrapper = mounted(RemedyPart, { meeting: 'm-1', finding: null, askedUntil: null })
  useSession().who = { email: 'w@x', role: 'warden' } as never
  await flushPromises()
  return wrapper
}
const press = async (wrapper: Awaited<ReturnType<typeof part>>) => {
  ;(wrapper.vm as unknown as { apply: () => void }).apply()
  await flushPromises()
}

describe('the least change, by its key', () => {
  it('is applied at once where it is one control', async () => {
    const wrapper = await part({ chat: { from: 'always', to: 'off' } })
    await press(wrapper)
    expect(applied()).toBe(1)
  })

  it('waits where it is not known yet, and says so', async () => {
    server.changes = { chat: { from: 'always', to: 'off' } }
    const wrapper = mounted(RemedyPart, { meeting: 'm-1', finding: null, askedUntil: null })
    useSession().who = { email: 'w@x', role: 'warden' } as never
    ;(wrapper.vm as unknown as { apply: () => void }).apply()
    await wrapper.vm.$nextTick()
    expect(wrapper.text()).toContain('still being worked out')
    await flushPromises()
    expect(wrapper.text()).not.toContain('still being worked out')
    expect(applied()).toBe(0)
    await press(wrapper)
    expect(applied()).toBe(1)
  })

  it('still asks while the same is read again, and anew where it is another', async () => {
    const both = { chat: { from: 'always', to: 'off' }, polls: { from: 'on', to: 'off' } }
    const wrapper = await part(both)
    const readAgain = async (changes: typeof server.changes) => {
      server.changes = changes
      await useQueryCache().invalidateQueries({ key: ['standing', 'sketch'] })
      await flushPromises()
    }
    await press(wrapper)
    await readAgain({ ...both })
    expect(wrapper.text()).toContain('That changes 2 controls.')
    await readAgain({ ...both, polls: { from: 'off', to: 'on' } })
    expect(wrapper.text()).not.toContain('That changes')
    await press(wrapper)
    await readAgain({ ...both, polls: { from: 'off', to: 'on' } })
    await press(wrapper)
    expect(applied()).toBe(1)
  })

  it('is undone at its own meeting, wherever one has gone meanwhile', async () => {
    const wrapper = await part({ chat: { from: 'always', to: 'off' } })
    let done = () => {}
    server.until = new Promise((resolve) => (done = resolve))
    await press(wrapper)
    await wrapper.setProps({ meeting: 'm-2' })
    done()
    await flushPromises()
    expect(useLastApplied().last.value).toMatchObject({ meeting: 'm-1', job: 7 })
    server.until = Promise.resolve()
  })

  it('is asked for twice where it is several', async () => {
    const wrapper = await part({
      chat: { from: 'always', to: 'off' },
      'lobby-bypass': { from: 'anyone', to: 'named' },
    })
    await press(wrapper)
    expect(applied()).toBe(0)
    expect(wrapper.text()).toContain('That changes 2 controls.')
    await wrapper.setProps({ meeting: 'm-2' })
    await flushPromises()
    expect(wrapper.text()).not.toContain('That changes')
    await press(wrapper)
    await press(wrapper)
    expect(applied()).toBe(1)
  })
})
