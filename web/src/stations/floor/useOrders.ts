import { t } from '@/wording'
import { computed, ref, type Ref } from 'vue'
import { api, take } from '@/api/client'
import type { SessionPage } from '@/api/schema'
import { freshKey } from '@/shell/act'
import { isOfOneThing, troubleOf, withOrder, type Asked, type Pending } from './floor'

/** Acts that set something; nobody waits longer than this for the one before. */
const IN_TURN = new Set(['lock', 'unlock', 'set', 'role'])
const LONGEST_WAIT = 5000
const pause = (ms: number) => new Promise<void>((resolve) => setTimeout(resolve, ms))

/**
 * Orders of a session's page: each shows at once, is sent once, and stays until the page has been
 * read after it was done; refused, it is taken back and said.
 *
 * @param page as the server has it
 * @param reread reads the page again
 */
export function useOrders(
  id: () => string,
  page: Ref<SessionPage | undefined>,
  reread: () => Promise<unknown>,
) {
  const pending = ref<Pending[]>([])
  const trouble = ref('')
  /** An order beyond a rule that somebody may allow with a reason, and what was said of it. */
  const beyond = ref<{ asked: Asked; said: string } | null>(null)
  const shown = computed(() =>
    page.value ? pending.value.reduce((so, p) => withOrder(so, p.asked), page.value) : page.value,
  )
  /** Those that are being sent, by their key. */
  const under = new Map<string, Promise<void>>()
  const drop = (key: string) => {
    pending.value = pending.value.filter((p) => p.asked.key !== key)
  }
  /** Sends; where nobody answers, the same order again: the key makes it one. */
  async function send(session: string, asked: Asked, tries = 3): Promise<void> {
    try {
      const order = await take(
        api.POST('/api/floor/sessions/{id}/orders', {
          params: { path: { id: session } },
          body: asked,
        }),
      )
      trouble.value = troubleOf(order) || trouble.value
      if (order.state === 'waiting') {
        pending.value = pending.value.map((p) =>
          p.asked.key === asked.key ? { ...p, waits: true } : p,
        )
        return
      }
      await reread()
      drop(asked.key)
    } catch (e) {
      const isAnswered = !!(e as { status?: number }).status
      if (tries > 1 && !isAnswered) return send(session, asked, tries - 1)
      drop(asked.key)
      const faults = (e as { faults?: { pointer: string }[] }).faults ?? []
      if (faults.some((f) => f.pointer === '/reason'))
        beyond.value = { asked, said: (e as Error).message }
      else {
        const { message } = e as Error
        trouble.value = isAnswered
          ? t('floor.messageNothingWasDone', { message })
          : t('floor.messageItMayBeDone', { message })
      }
    }
  }
  function order(
    act: string,
    people: string[] = [],
    control?: string,
    value?: string,
    reason?: string,
    atDoor: Pick<Asked, 'whom' | 'uninvited'> = {},
  ) {
    const isSame = (p: Pending) =>
      p.asked.act === act &&
      p.asked.people.join() === people.join() &&
      p.asked.control === control &&
      p.asked.value === value &&
      p.asked.whom === atDoor.whom
    const asked: Asked = {
      key: freshKey(),
      act,
      people,
      ...(control ? { control } : {}),
      ...(value ? { value } : {}),
      ...(reason ? { reason } : {}),
      ...atDoor,
    }
    const last = pending.value.filter((p) => isOfOneThing(p.asked, asked)).at(-1)
    // a second click on what is under way is the first one
    if (last && isSame(last)) return
    trouble.value = ''
    pending.value = [...pending.value, { asked, waits: false }]
    const session = id()
    // of two that set one thing the last is to stand, whichever way is faster; who is put out is out
    // in either order, and waits for nothing
    const before = last && IN_TURN.has(act) && under.get(last.asked.key)
    const sent = before
      ? Promise.race([before, pause(LONGEST_WAIT)]).then(() => send(session, asked))
      : send(session, asked)
    under.set(asked.key, sent)
    return sent.finally(() => under.delete(asked.key))
  }
  /** What waited for the service and is settled now: shown as it came out. */
  function settle(unsettled: SessionPage['orders']) {
    for (const p of pending.value.filter((each) => each.waits)) {
      const known = unsettled.find((o) => o.id === p.asked.key)
      if (known?.state === 'waiting') continue
      if (known) trouble.value = troubleOf(known)
      drop(p.asked.key)
    }
  }
  return { shown, pending, trouble, beyond, order, settle }
}
