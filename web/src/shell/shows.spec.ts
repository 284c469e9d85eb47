// @vitest-environment happy-dom
import { enableAutoUnmount, mount } from '@vue/test-utils'
import { afterEach, expect, it } from 'vitest'
import { defineComponent, h, nextTick, ref, withDirectives } from 'vue'
import { settle, vShows } from './shows'

enableAutoUnmount(afterEach)
const stored = ref('one')
const page = ref(0)
const Page = defineComponent(() => () => [
  h('p', page.value),
  withDirectives(
    h('input', {
      onChange: (e: Event) => (stored.value = (e.target as HTMLInputElement).value.trim()),
    }),
    [[vShows, stored.value]],
  ),
])
function begun() {
  stored.value = 'one'
  const input = mount(Page, { attachTo: document.body }).get('input')
  const field = input.element
  const type = (text: string) => {
    field.value = text
    return input.trigger('input')
  }
  return { input, field, type }
}

it('leaves what is being typed alone while the page changes', async () => {
  const { input, field, type } = begun()
  expect(field.value).toBe('one')
  await type('two ')
  page.value++
  await nextTick()
  expect(field.value).toBe('two ')
  stored.value = 'by somebody else'
  await nextTick()
  expect(field.value).toBe('two ')
  // what a person did last stands, as it was taken
  await input.trigger('change')
  expect(stored.value).toBe('two')
  expect(field.value).toBe('two')
})

it('shows what came meanwhile once it is left as it was', async () => {
  const { input, field, type } = begun()
  await type('two')
  await type('one')
  stored.value = 'by somebody else'
  await nextTick()
  await input.trigger('blur')
  expect(field.value).toBe('by somebody else')
})

it('shows what is stored where nobody types', async () => {
  const { field } = begun()
  stored.value = 'three'
  await nextTick()
  expect(field.value).toBe('three')
})

it('counts what is being typed where a key saves from within the field', async () => {
  const { field, type } = begun()
  field.focus()
  await type('four ')
  settle()
  expect(stored.value).toBe('four')
  await nextTick()
  expect(field.value).toBe('four')
  expect(document.activeElement).toBe(field)
})
