import { useEventListener } from '@vueuse/core'
import { onBeforeUnmount, ref, shallowReactive, shallowRef } from 'vue'
import type { Router } from 'vue-router'

interface Form {
  isUnsaved: () => boolean
  /** It is kept in the browser and offered again, so that only a key asks before it is left. */
  isKept: boolean
}
const forms = shallowReactive(new Set<Form>())

/** Takes the answer of somebody who is asked whether to leave; null while nobody is. */
export const leaving = shallowRef<((leave: boolean) => void) | null>(null)
/** Whether what they leave is kept for them. */
export const isKept = ref(false)

/** Has a page ask before it is left with something that is not saved. */
export function useUnsaved(isUnsaved: () => boolean, keeps = false) {
  const form = { isUnsaved, isKept: keeps }
  forms.add(form)
  onBeforeUnmount(() => forms.delete(form))
  if (!keeps) {
    useEventListener(window, 'beforeunload', (event) => {
      if (isUnsaved()) event.preventDefault()
    })
  }
}

/**
 * Asks whether to leave where something is not saved.
 *
 * @param byKey a key may be struck by mistake: then it asks for what is kept, too
 */
export function mayLeave(byKey = false): Promise<boolean> {
  leaving.value?.(false)
  const unsaved = [...forms].filter((form) => (byKey || !form.isKept) && form.isUnsaved())
  if (!unsaved.length) return Promise.resolve(true)
  isKept.value = unsaved.every((form) => form.isKept)
  return new Promise((resolve) => {
    leaving.value = (leave) => {
      leaving.value = null
      resolve(leave)
    }
  })
}

/** A key to another page asks here, so that the guard need not ask again. */
let agreed = false

/** Goes to another page by a key. */
export async function leaveByKey(router: Router, path: string) {
  if (!(await mayLeave(true))) return
  agreed = true
  try {
    await router.push(path)
  } finally {
    agreed = false
  }
}

/** Asks before each page is left; what stays on the page asks nothing. */
export function guardUnsaved(router: Router) {
  router.beforeEach((to, from) => agreed || to.path === from.path || mayLeave())
}
