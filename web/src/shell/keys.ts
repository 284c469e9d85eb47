import { onBeforeUnmount, onMounted } from 'vue'

/** A key and what it does on a page. */
export interface Key {
  key: string
  does: string
  act?: (event: KeyboardEvent) => void
}

const FIELDS = 'input, textarea, select, [contenteditable], [role="dialog"]'

/** For so long what is typed is meant for the field that had the focus, in milliseconds. */
const A_MOMENT = 1500

/** When something was last typed in a field that was not left on purpose since. */
let typedAt = Number.NEGATIVE_INFINITY

/**
 * Watches for fields that go away under somebody's hands, as when a row moves or an answer redraws
 * it: what they type next is meant for the field, and is no shortcut.
 */
export function watchTyping(page: Window) {
  page.addEventListener(
    'keydown',
    (event) => {
      const inField = !!(event.target as HTMLElement | null)?.closest?.(FIELDS)
      const leaves = ['Tab', 'Escape', 'Enter'].includes(event.key)
      if (leaves) typedAt = Number.NEGATIVE_INFINITY
      else if (inField || event.timeStamp - typedAt < A_MOMENT) typedAt = event.timeStamp
    },
    true,
  )
  page.addEventListener('pointerdown', () => (typedAt = Number.NEGATIVE_INFINITY), true)
}

/**
 * Whether somebody is typing, so that letters are letters: in a field, in one that was there a
 * moment ago, or where something is not saved.
 */
export function isTyping(event: Event): boolean {
  const at = event.target as HTMLElement | null
  return !!at?.closest?.(`${FIELDS}, [data-unsaved]`) || event.timeStamp - typedAt < A_MOMENT
}

/** Keys of a page while it is shown; letters do nothing while somebody types. */
export function useKeys(keys: Key[]) {
  function onKey(event: KeyboardEvent) {
    if (event.ctrlKey || event.metaKey || event.altKey || isTyping(event)) return
    // Enter on a button or a link is that button's or link's own
    if (event.key === 'Enter' && (event.target as HTMLElement | null)?.closest('a, button')) return
    const found = keys.find((k) => k.act && k.key === event.key)
    if (found?.act) {
      event.preventDefault()
      found.act(event)
    }
  }
  onMounted(() => window.addEventListener('keydown', onKey))
  onBeforeUnmount(() => window.removeEventListener('keydown', onKey))
}
