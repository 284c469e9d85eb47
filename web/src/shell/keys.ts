import { computed, onBeforeUnmount, onMounted, shallowRef } from 'vue'
import { t } from '@/wording'

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
  // an open menu has its own keys: a letter goes to what begins with it
  return (
    !!at?.closest?.(`${FIELDS}, [data-unsaved], [role="menu"]`) ||
    event.timeStamp - typedAt < A_MOMENT
  )
}

/** The keys of what is shown, each part's own. */
const shown = shallowRef<Key[][]>([])

/** Every key of the page that is shown, each once; two keys that do the same stand together. */
export const keysShown = computed(() => {
  const does = new Map<string, string[]>()
  for (const key of shown.value.flat()) {
    const keys = does.get(key.does) ?? []
    if (!keys.includes(key.key)) does.set(key.does, [...keys, key.key])
  }
  return [...does].map(([what, keys]) => ({ keys: keys.map(keyName).join(' '), does: what }))
})

const NAMES: Record<string, string> = {
  Enter: '↵',
  ArrowUp: '↑',
  ArrowDown: '↓',
  ArrowLeft: '←',
  ArrowRight: '→',
  PageUp: '⇞',
  PageDown: '⇟',
}

/** A key as it stands on a keyboard. */
function keyName(key: string): string {
  if (key === 'Escape') return t('shell.esc')
  if (key === ' ') return t('shell.space')
  return NAMES[key] ?? key
}

/**
 * Keys of a page while it is shown; letters do nothing while somebody types. A key without an act
 * is a part's own, and stands in the list of keys alone.
 */
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
  onMounted(() => {
    window.addEventListener('keydown', onKey)
    shown.value = [...shown.value, keys]
  })
  onBeforeUnmount(() => {
    window.removeEventListener('keydown', onKey)
    shown.value = shown.value.filter((each) => each !== keys)
  })
}
