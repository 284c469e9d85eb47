// @vitest-environment happy-dom
import { mount } from '@vue/test-utils'
import { defineComponent } from 'vue'
import { createMemoryHistory, createRouter } from 'vue-router'
import { afterEach, describe, expect, it } from 'vitest'
import { guardUnsaved, leaveByKey, leaving, mayLeave, useUnsaved } from './unsaved'

const some = { template: '<i />' }
function pages() {
  const router = createRouter({
    history: createMemoryHistory(),
    routes: [
      { path: '/a', component: some },
      { path: '/b', component: some },
    ],
  })
  guardUnsaved(router)
  return router
}
const form = (isUnsaved: () => boolean, isKept = false) =>
  mount(
    defineComponent({
      setup: () => useUnsaved(isUnsaved, isKept),
      template: '<i />',
    }),
  )
const soon = () => new Promise((resolve) => setTimeout(resolve))

describe('a page with something unsaved', () => {
  afterEach(() => leaving.value?.(false))

  it('is left only by who says so', async () => {
    const router = pages()
    await router.push('/a')
    const page = form(() => true)
    const first = router.push('/b')
    await soon()
    leaving.value?.(false)
    await first
    expect(router.currentRoute.value.path).toBe('/a')
    const second = router.push('/b')
    await soon()
    leaving.value?.(true)
    await second
    expect(router.currentRoute.value.path).toBe('/b')
    page.unmount()
    await router.push('/a')
    expect(router.currentRoute.value.path).toBe('/a')
  })

  it('asks nothing while it stays, and once it is saved', async () => {
    const router = pages()
    let isUnsaved = true
    await router.push('/a')
    const page = form(() => isUnsaved)
    await router.push('/a?tab=2')
    expect(router.currentRoute.value.fullPath).toBe('/a?tab=2')
    isUnsaved = false
    await router.push('/b')
    expect(router.currentRoute.value.path).toBe('/b')
    page.unmount()
  })

  it('that is kept asks where a key leaves it, and nowhere else', async () => {
    const router = pages()
    await router.push('/a')
    const page = form(() => true, true)
    const byKey = leaveByKey(router, '/b')
    await soon()
    expect(leaving.value).not.toBeNull()
    leaving.value?.(true)
    await byKey
    expect(router.currentRoute.value.path).toBe('/b')
    await router.push('/a')
    expect(router.currentRoute.value.path).toBe('/a')
    page.unmount()
  })

  it('asked twice answers the first with no', async () => {
    const page = form(() => true)
    const first = mayLeave()
    const second = mayLeave()
    expect(await first).toBe(false)
    leaving.value?.(true)
    expect(await second).toBe(true)
    page.unmount()
  })
})
