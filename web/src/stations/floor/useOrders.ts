import { t } from '@/wording'
import { computed, ref, type Ref } from 'vue'
import { api, take } from '@/api/client'
import type { SessionPage } from '@/api/schema'
import { freshKey, troubleOf, withOrder, type Asked, type Pending } from './floor'

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
      if (tries > 1 && !(e as { status?: number }).status) return send(session, asked, tries - 1)
      drop(asked.key)
      const faults = (e as { faults?: { pointer: string }[] }).faults ?? []
      if (faults.some((f) => f.pointer === '/reason'))
        beyond.value = { asked, said: (e as Error).message }
      else trouble.value = t('floor.messageNothingWasDone', { message: (e as Error).message })
    }
  }
  function order(
    act: string,
    people: string[] = [],
    control?: string,
    value?: string,
    reason?: string,
  ) {
    const isSame = (p: Pending) =>
      p.asked.act === act &&
      p.asked.people.join() === people.join() &&
      p.asked.control === control &&
      p.asked.value === value
    // a second click on what is under way is the first one
    if (pending.value.some(isSame)) return
    trouble.value = ''
    const asked: Asked = {
      key: freshKey(),
      act,
      people,
      ...(control ? { control } : {}),
      ...(value ? { value } : {}),
      ...(reason ? { reason } : {}),
    }
    pending.value = [...pending.value, { asked, waits: false }]
    return send(id(), asked)
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
