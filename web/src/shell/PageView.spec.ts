// @vitest-environment happy-dom
import { flushPromises, mount } from '@vue/test-utils'
import { expect, it } from 'vitest'
import { defineComponent, h, ref } from 'vue'
import { createMemoryHistory, createRouter } from 'vue-router'
import { router as ours } from '@/router'
import PageView from './PageView.vue'

/** Says a moment after a press what it was about, as a page does that asks a server. */
const late: (() => void)[] = []
const Page = defineComponent({
  props: { id: { type: String, default: '' } },
  setup(props) {
    const said = ref('')
    const press = () => {
      const id = props.id
      late.push(() => (said.value = `done with ${id}`))
    }
    return () => h('button', { onClick: press }, `${props.id}: ${said.value}`)
  },
})

it('shows nothing on a page of what was begun on the page of another', async () => {
  const router = createRouter({
    history: createMemoryHistory(),
    routes: [
      { path: '/of/:id', component: Page, props: true, meta: { title: 'One', one: true } },
      { path: '/list/:id', component: Page, props: true, meta: { title: 'List' } },
    ],
  })
  await router.push('/of/a')
  const view = mount(PageView, { global: { plugins: [router] } })
  await flushPromises()
  await view.get('button').trigger('click')
  await router.push('/of/b')
  late.pop()?.()
  await flushPromises()
  expect(view.text()).toBe('b:')
  // what is asked for in the address alone is the same page
  await view.get('button').trigger('click')
  await router.push('/of/b?text=x')
  late.pop()?.()
  await flushPromises()
  expect(view.text()).toBe('b: done with b')
  // and a list stays where it is, whatever it shows
  await router.push('/list/a')
  await view.get('button').trigger('click')
  await router.push('/list/b')
  late.pop()?.()
  await flushPromises()
  expect(view.text()).toBe('b: done with a')
})

it('is one for each meeting, person and session', () => {
  const paths = ours.getRoutes().flatMap((route) => (route.meta.one ? [route.path] : []))
  expect(paths.sort()).toEqual([
    '/floor/:id',
    '/floor/:id/after',
    '/people/:email',
    '/register/:id',
    '/register/:id/edit',
  ])
})
