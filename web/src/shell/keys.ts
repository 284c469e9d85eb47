import { onBeforeUnmount, onMounted } from 'vue'

/** A key and what it does on a page. */
export interface Key {
  key: string
  does: string
  act?: (event: KeyboardEvent) => void
}

/** Whether somebody is typing, so that letters are letters. */
export function isTyping(event: Event): boolean {
  const at = event.target as HTMLElement | null
  return !!at?.closest('input, textarea, select, [contenteditable], [role="dialog"]')
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
