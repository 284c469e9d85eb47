import { t } from '@/wording'
import { Problem } from '@/api/client'

/**
 * Puts a text into the clipboard. Browsers offer that over HTTPS alone, and people may forbid it;
 * then it is tried the older way.
 *
 * @throws Problem where it cannot be copied
 */
export async function copyText(text: string) {
  try {
    await navigator.clipboard.writeText(text)
  } catch {
    if (!copiedBySelection(text)) throw new Problem(0, 'not-copied', t('shell.notCopied'), [])
  }
}

function copiedBySelection(text: string): boolean {
  const focused = document.activeElement
  // a dialog keeps the focus within itself
  const inside = focused?.closest('[role=dialog]') ?? document.body
  const field = document.createElement('textarea')
  field.value = text
  field.readOnly = true
  field.className = 'fixed opacity-0'
  inside.append(field)
  field.select()
  try {
    return document.execCommand('copy')
  } finally {
    field.remove()
    if (focused instanceof HTMLElement) focused.focus()
  }
}
