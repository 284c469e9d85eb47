import type { ObjectDirective } from 'vue'

type Field = HTMLInputElement | HTMLTextAreaElement
/** What each field is to show, as text. */
const wanted = new WeakMap<Field, string>()
/** Fields in which somebody is typing something that does not count yet. */
const typing = new WeakSet<Field>()

function show(field: Field) {
  const text = wanted.get(field) ?? ''
  if (!typing.has(field) && field.value !== text) field.value = text
}
const want = (field: Field, value: string | number | null | undefined) =>
  wanted.set(field, String(value ?? ''))

/**
 * Shows a value in a field whose text counts once it is left: `v-shows="value" @change="…"`. A bound
 * `value` would put the old text back over what is being typed, whenever anything else on the page
 * changes.
 */
export const vShows: ObjectDirective<Field, string | number | null | undefined> = {
  mounted(field, { value }) {
    want(field, value)
    show(field)
    field.addEventListener('input', () => typing.add(field))
    field.addEventListener('change', () => typing.delete(field))
    field.addEventListener('blur', () => {
      // as typed and taken back: what has come meanwhile is shown
      if (typing.delete(field)) show(field)
    })
  },
  updated(field, { value }) {
    want(field, value)
    show(field)
  },
}

/**
 * Has what is being typed count, as where its field is left: for keys that save from within a field.
 */
export function settle() {
  const field = document.activeElement
  if (!(field instanceof HTMLElement)) return
  if (typing.has(field as Field)) field.dispatchEvent(new Event('change', { bubbles: true }))
  field.blur()
  field.focus()
}
