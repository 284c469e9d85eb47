// @vitest-environment happy-dom
import { PiniaColada } from '@pinia/colada'
import { flushPromises, mount } from '@vue/test-utils'
import { createPinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { defineComponent, h, ref, type Ref } from 'vue'
import { useSession } from '@/api/session'
import { at, put, same, type Edit, type Rule, type Rulebook } from './book'
import { useDraft } from './draft'

const polls = (start: string): Rule => ({ control: 'polls', mode: 'suggest', start })
const place = { layer: 'organisation', control: 'polls' }

/** A server with one draft, which another person may change behind our back. */
class DraftServer {
  document: Rulebook = { layers: [{ scope: { level: 'organisation' }, rules: [] }] }
  version = 0
  away = false
  /** Answers to edits wait for this, where it is set. */
  hold: Promise<void> | null = null
  /** The answer to a draft that is begun waits for this. */
  holdBegin: Promise<void> | null = null
  edits: Edit[][] = []
  begun = 0

  view() {
    return {
      line: { id: 7, name: 'd', differences: 0, present: [] },
      version: this.version,
      document: this.document,
    }
  }

  async answer(method: string, path: string, body: unknown): Promise<unknown> {
    if (this.away) throw new TypeError('no answer')
    if (path === '/api/rulebook') return { number: 1, document: { layers: [] } }
    if (path.endsWith('/presence'))
      return { gone: false, present: [{ email: 'b@x.example', name: 'B' }], changed: this.view() }
    if (path.endsWith('/edits')) {
      const { edits } = body as { edits: Edit[] }
      this.edits.push(edits)
      const collisions = []
      for (const edit of edits) {
        const stands = at(this.document, edit)
        if (same(stands, edit.before ?? null)) this.document = put(this.document, edit, edit.after)
        else collisions.push({ ...place, mine: edit.after, theirs: stands })
      }
      this.version++
      const answer = { draft: this.view(), collisions }
      await this.hold
      return answer
    }
    if (method === 'POST' && path === '/api/rulebook/drafts') {
      this.begun++
      const answer = this.view()
      await this.holdBegin
      return answer
    }
    return this.view()
  }
}

let server: DraftServer

vi.mock('@/api/client', async (original) => {
  const call = (method: string) => async (path: string, init?: { body?: unknown }) => ({
    data: await server.answer(method, path, init?.body),
    response: { ok: true },
  })
  const api = { GET: call('GET'), POST: call('POST'), PUT: call('PUT') }
  return { ...(await original<object>()), api }
})

/** Runs the composable in a component, as somebody who may draft. */
function drafting(
  id: Ref<number | null>,
  begun: (made: number) => void = (made) => (id.value = made),
) {
  let draft!: ReturnType<typeof useDraft>
  mount(
    defineComponent({
      setup() {
        useSession().who = { email: 'a@x.example', name: 'A', role: 'warden' } as never
        draft = useDraft(id, begun)
        return () => h('div')
      },
    }),
    { global: { plugins: [createPinia(), [PiniaColada, {}]] } },
  )
  return draft
}
const start = (draft: ReturnType<typeof useDraft>) =>
  (at(draft.book.value as Rulebook, place) as Rule | null)?.start

beforeEach(() => {
  vi.useFakeTimers({ toFake: ['setInterval', 'Date'] })
  server = new DraftServer()
})
afterEach(() => {
  vi.useRealTimers()
})

describe('useDraft', () => {
  it('sends a change as an edit of one item, and takes it back and puts it back', async () => {
    const draft = drafting(ref(7))
    await flushPromises()
    await draft.change(place, polls('on'))
    expect(server.edits).toEqual([[{ ...place, before: null, after: polls('on') }]])
    expect(start(draft)).toBe('on')
    expect(draft.saving.value).toBe('saved')
    await draft.undo()
    expect(at(server.document, place)).toBeNull()
    await draft.redo()
    expect(at(server.document, place)).toEqual(polls('on'))
    expect(draft.canRedo.value).toBe(false)
  })

  it('loses nothing of what is done while a draft is being begun, however slowly', async () => {
    for (const slow of ['before the answer', 'after the answer', 'after the address']) {
      server = new DraftServer()
      let release!: () => void
      server.holdBegin = new Promise((resolve) => (release = resolve))
      const id = ref<number | null>(null)
      let choose!: () => void
      // an address takes its time to change
      const draft = drafting(id, (begun) => (choose = () => (id.value = begun)))
      await flushPromises()
      void draft.change(place, polls('on'))
      const second = { layer: 'organisation', control: 'chat' }
      const chat = { control: 'chat', mode: 'suggest', start: 'off' } as Rule
      await flushPromises()
      if (slow === 'before the answer') void draft.change(second, chat)
      release()
      await vi.waitFor(() => expect(choose).toBeDefined())
      if (slow === 'after the answer') void draft.change(second, chat)
      choose()
      if (slow === 'after the address') void draft.change(second, chat)
      await flushPromises()
      await vi.waitFor(() => expect(draft.saving.value).toBe('saved'))
      expect(at(server.document, place), slow).toEqual(polls('on'))
      expect(at(server.document, second), slow).toEqual(chat)
      expect(at(draft.book.value as Rulebook, second), slow).toEqual(chat)
      expect(draft.clashes.value, slow).toEqual([])
      expect(server.begun, slow).toBe(1)
      await draft.undo()
      expect(at(server.document, second), slow).toBeNull()
      expect(at(server.document, place), slow).toEqual(polls('on'))
    }
  })

  it('keeps what was done where no draft can be begun, and tries again', async () => {
    const draft = drafting(ref(null))
    await flushPromises()
    server.away = true
    await draft.change(place, polls('on'))
    expect(draft.saving.value).toBe('failed')
    server.away = false
    await draft.retry()
    await vi.waitFor(() => expect(draft.saving.value).toBe('saved'))
    expect(at(server.document, place)).toEqual(polls('on'))
  })

  it('shows a change at once and joins what is changed while an answer is on its way', async () => {
    const draft = drafting(ref(7))
    await flushPromises()
    let release!: () => void
    server.hold = new Promise((resolve) => (release = resolve))
    draft.change(place, polls('on'))
    expect(draft.saving.value).toBe('saving')
    await vi.waitFor(() => expect(server.edits).toHaveLength(1))
    draft.change(place, polls('off'))
    draft.change(place, polls('on'))
    draft.change(place, polls('off'))
    expect(start(draft)).toBe('off')
    release()
    await flushPromises()
    await draft.settled()
    expect(server.edits).toHaveLength(2)
    expect(server.edits[1]).toEqual([{ ...place, before: polls('on'), after: polls('off') }])
    expect(start(draft)).toBe('off')
  })

  it('says where somebody else changed the same item, and puts mine where I say so', async () => {
    const draft = drafting(ref(7))
    await flushPromises()
    server.document = put(server.document, place, polls('off'))
    await draft.change(place, polls('on'))
    expect(draft.clashes.value).toHaveLength(1)
    expect(start(draft)).toBe('off')
    const clash = draft.clashes.value[0]
    if (clash) await draft.settle(clash, true)
    expect(draft.clashes.value).toHaveLength(0)
    expect(server.edits[1]).toEqual([{ ...place, before: polls('off'), after: polls('on') }])
    expect(at(server.document, place)).toEqual(polls('on'))
  })

  it('loses nothing while the server is away', async () => {
    const draft = drafting(ref(7))
    await flushPromises()
    server.away = true
    await draft.change(place, polls('on'))
    expect(draft.saving.value).toBe('failed')
    expect(start(draft)).toBe('on')
    server.away = false
    await draft.retry()
    expect(draft.saving.value).toBe('saved')
    expect(at(server.document, place)).toEqual(polls('on'))
  })

  it('takes in what others changed, and who is there', async () => {
    const draft = drafting(ref(7))
    await flushPromises()
    server.document = put(server.document, place, polls('on'))
    server.version = 5
    await vi.advanceTimersByTimeAsync(3500)
    await flushPromises()
    expect(start(draft)).toBe('on')
    expect(draft.present.value.map((p) => p.name)).toEqual(['B'])
  })

  it('begins a draft with the first change to the edition in force', async () => {
    const id = ref<number | null>(null)
    const draft = drafting(id)
    await flushPromises()
    await draft.change(place, polls('on'))
    await flushPromises()
    expect(server.begun).toBe(1)
    expect(id.value).toBe(7)
    expect(at(server.document, place)).toEqual(polls('on'))
    expect(start(draft)).toBe('on')
    expect(draft.canUndo.value).toBe(true)
  })
})
