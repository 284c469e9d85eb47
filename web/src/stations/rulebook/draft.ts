import { locale, t } from '@/wording'
import { useQuery, useQueryCache } from '@pinia/colada'
import { until, useEventListener, useIntervalFn } from '@vueuse/core'
import { computed, nextTick, ref, watch, type Ref } from 'vue'
import { api, Problem, take } from '@/api/client'
import { useSession } from '@/api/session'
import type { DraftLine, DraftView, Present } from '@/api/schema'
import { at, copy, put, samePlace, type Edit, type Place, type Rulebook } from './book'

/** An edit that did not go in, since somebody else changed the same item meanwhile. */
export interface Clash extends Place {
  mine: Edit['after']
  theirs: Edit['after']
}

const PULSE = 3000
const SOON = 250
const plain = (item: Edit['after']) => item as unknown as Record<string, unknown> | null

/**
 * A draft that several may work on: each change goes to the server as an edit of one item, what
 * others change comes in by itself, and where both changed the same item, that is said. Without a
 * draft it shows the edition in force; the first change begins a draft.
 *
 * @param id the draft chosen, or null for the edition in force
 * @param begun is told the id of a draft that a change began
 */
export function useDraft(id: Ref<number | null>, begun: (id: number) => void) {
  const session = useSession()
  const cache = useQueryCache()
  const inForce = useQuery({
    key: ['rulebook', 'in-force'],
    query: () => take(api.GET('/api/rulebook')),
  })
  const published = computed(
    () => (inForce.data.value?.document ?? { layers: [] }) as unknown as Rulebook,
  )

  const book = ref<Rulebook | null>(null)
  const line = ref<DraftLine | null>(null)
  const present = ref<Present[]>([])
  const version = ref(-1)
  const saving = ref<'saved' | 'saving' | 'failed'>('saved')
  const problem = ref<Error | null>(null)
  const clashes = ref<Clash[]>([])
  const done = ref<Edit[]>([])
  const undone = ref<Edit[]>([])
  let waiting: Edit[] = []
  let sending: Promise<void> | null = null

  function show(view: DraftView) {
    // an answer that was overtaken by a newer one says nothing new
    if (view.line.id !== id.value || view.version < version.value) return
    line.value = view.line
    version.value = view.version
    // what has not been sent yet stays on top of what came
    book.value = waiting.reduce(
      (whole, edit) => put(whole, edit, edit.after),
      view.document as unknown as Rulebook,
    )
  }

  /** A draft that was just begun, until it is the one chosen. */
  let fresh: DraftView | null = null

  async function load() {
    const begunHere = fresh
    if (begunHere && id.value === begunHere.line.id) {
      // what was done while it was being begun stands, and what can be taken back
      fresh = null
      version.value = -1
      show(begunHere)
      if (waiting.length) void flush()
      return
    }
    done.value = []
    undone.value = []
    clashes.value = []
    problem.value = null
    line.value = null
    version.value = -1
    present.value = []
    if (id.value === null || !session.mayDraft) {
      book.value = inForce.data.value ? copy(published.value) : null
      return
    }
    try {
      show(await take(api.GET('/api/rulebook/drafts/{id}', { params: { path: { id: id.value } } })))
    } catch (e) {
      problem.value = e as Error
      book.value = copy(published.value)
    }
  }
  watch(id, load, { immediate: true })
  watch(inForce.data, () => {
    if (id.value === null) book.value = copy(published.value)
  })

  useIntervalFn(async () => {
    if (id.value === null || !line.value || document.hidden || sending) return
    const asked = id.value
    const answer = await take(
      api.PUT('/api/rulebook/drafts/{id}/presence', {
        params: { path: { id: asked }, query: { version: version.value } },
      }),
    ).catch(() => null)
    if (!answer || id.value !== asked) return
    if (answer.gone) {
      problem.value = new Problem(
        404,
        'not-found',
        t('rulebook.thisDraftWasPublishedOrDiscardedMeanwhile'),
        [],
      )
      return
    }
    present.value = answer.present.filter((p) => p.email !== session.who?.email)
    if (answer.changed && !waiting.length && !sending) show(answer.changed)
  }, PULSE)
  useEventListener(window, 'beforeunload', (event) => {
    if (waiting.length) event.preventDefault()
  })

  /** Sends what waits; edits made meanwhile go with the next call. */
  async function send() {
    while (waiting.length && id.value !== null) {
      const edits = waiting
      waiting = []
      saving.value = 'saving'
      try {
        const answer = await take(
          api.POST('/api/rulebook/drafts/{id}/edits', {
            params: { path: { id: id.value } },
            body: {
              edits: edits.map((e) => ({ ...e, before: plain(e.before), after: plain(e.after) })),
            },
          }),
        )
        clashes.value = [
          ...clashes.value,
          ...answer.collisions.map((c) => ({
            layer: c.layer,
            ...(c.control ? { control: c.control } : {}),
            ...(c.guarantee ? { guarantee: c.guarantee } : {}),
            mine: (c.mine ?? null) as unknown as Edit['after'],
            theirs: (c.theirs ?? null) as unknown as Edit['after'],
          })),
        ]
        show(answer.draft)
        saving.value = 'saved'
        problem.value = null
      } catch (e) {
        waiting = join([...edits, ...waiting])
        saving.value = 'failed'
        problem.value = e as Error
        return
      }
    }
  }

  /** Sends soon: a handle on its way over several rungs is one edit, and the counts come first. */
  function flush(): Promise<void> {
    sending ??= new Promise((resolve) => setTimeout(resolve, SOON))
      .then(send)
      .finally(() => (sending = null))
    return sending
  }

  /** Edits of one item after another are one edit. */
  function join(edits: Edit[]): Edit[] {
    const joined: Edit[] = []
    for (const edit of edits) {
      const earlier = joined.find((e) => samePlace(e, edit))
      if (earlier) earlier.after = edit.after
      else joined.push({ ...edit })
    }
    return joined
  }

  async function apply(edit: Edit) {
    if (!book.value) return
    book.value = put(book.value, edit, edit.after)
    waiting = join([...waiting, edit])
    saving.value = 'saving'
    if (id.value === null) await begin('in-force', t('rulebook.draftOfToday', { today: today() }))
    await flush()
  }

  const today = () => new Date().toLocaleDateString(locale, { day: 'numeric', month: 'short' })

  let beginning: Promise<void> | null = null
  /** Begins a draft from another rulebook. */
  function begin(from: string, name: string): Promise<void> {
    beginning ??= (async () => {
      fresh = await take(api.POST('/api/rulebook/drafts', { body: { name, from } }))
      const made = fresh.line.id
      begun(made)
      void cache.invalidateQueries({ key: ['drafts'] })
      await until(id).toBe(made) // an address changes when it does
      await nextTick()
    })()
      .catch((e: unknown) => {
        saving.value = 'failed'
        problem.value = e as Error
      })
      .finally(() => (beginning = null))
    return beginning
  }

  /** Puts a rule or guarantee in place; null takes it away. */
  function change(place: Place, after: Edit['after']) {
    if (!book.value || !session.mayDraft) return
    const before = copy(at(book.value, place))
    const last = done.value[done.value.length - 1]
    // a handle dragged over several rungs is one change to take back
    if (last && samePlace(last, place) && Date.now() - lastChange < 600) last.after = after
    else done.value.push({ ...place, before, after })
    lastChange = Date.now()
    undone.value = []
    return apply({ ...place, before, after })
  }
  let lastChange = 0

  function undo() {
    const edit = done.value.pop()
    if (!edit) return
    undone.value.push(edit)
    return apply({ ...edit, before: edit.after, after: edit.before })
  }

  function redo() {
    const edit = undone.value.pop()
    if (!edit) return
    done.value.push(edit)
    return apply(edit)
  }

  /** Tries again what could not be sent, the beginning of a draft too. */
  async function retry() {
    if (id.value === null && waiting.length)
      await begin('in-force', t('rulebook.draftOfToday', { today: today() }))
    await flush()
  }

  /** Ends a clash: theirs stays, or mine is put in its place. */
  function settle(clash: Clash, mine: boolean) {
    clashes.value = clashes.value.filter((c) => c !== clash)
    const { mine: after, theirs: before, ...place } = clash
    if (mine) return apply({ ...place, before, after })
  }

  /** Brings the draft up to the newest edition. */
  async function bringUp() {
    if (id.value === null) return
    const answer = await take(
      api.POST('/api/rulebook/drafts/{id}/bring-up', { params: { path: { id: id.value } } }),
    )
    show(answer.draft)
    problem.value = null
    return answer.collisions
  }

  return {
    inForce,
    published,
    book,
    line,
    present,
    version,
    saving,
    problem,
    clashes,
    canUndo: computed(() => done.value.length > 0),
    canRedo: computed(() => undone.value.length > 0),
    begin,
    change,
    undo,
    redo,
    settle,
    bringUp,
    retry,
    reload: load,
    settled: flush,
  }
}
