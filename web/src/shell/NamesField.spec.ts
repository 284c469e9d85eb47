// @vitest-environment happy-dom
import { mount } from '@vue/test-utils'
import { expect, test } from 'vitest'
import { memberMeant, nameOf, readNames } from '@/api/names'
import type { ControlView } from '@/api/schema'
import NamesField from './NamesField.vue'

const codes = [
  ...new Set('IE GB FR NO DE SE CI CD CG TR US'.split(' ').concat(fill(110))),
] as string[]
function fill(count: number): string[] {
  return Array.from({ length: count }, (_, i) =>
    String.fromCharCode(65 + Math.floor(i / 26) + 9, 65 + (i % 26)),
  )
}
const control = {
  id: 'dial-in-countries',
  title: 'Dial-in countries',
  scale: 'sets',
  emptyIsAll: true,
  universe: codes,
  rungs: [],
} as unknown as ControlView

test('a country is known by its name, its code and the beginning of its name', () => {
  expect(memberMeant(control, 'Ireland')).toBe('IE')
  expect(memberMeant(control, 'ie')).toBe('IE')
  expect(memberMeant(control, 'United K')).toBe('GB')
  expect(memberMeant(control, 'Cote d’Ivoire')).toBe('CI')
  expect(memberMeant(control, 'Congo')).toBe(null) // there are two
  expect(memberMeant(control, 'Atlantis')).toBe(null)
  expect(nameOf(control, 'IE')).toBe('Ireland')
})

test('several are read at once, by commas, semicolons and, as codes, by spaces', () => {
  expect(readNames(control, 'Ireland, gb; France').codes).toEqual(['IE', 'GB', 'FR'])
  expect(readNames(control, 'IE GB').codes).toEqual(['IE', 'GB'])
  expect(readNames(control, 'Ireland, Atlantis').unknown).toEqual(['Atlantis'])
})

test('a name that is none is refused at its field and changes nothing', async () => {
  const field = mount(NamesField, { props: { control, value: ['GB'], label: 'Dial-in' } })
  const input = field.get('input')
  await input.setValue('Atlantis')
  await input.trigger('blur')
  expect(field.emitted('change')).toBeUndefined()
  expect(field.get('[role=alert]').text()).toContain('Atlantis')
  await input.setValue('Ireland')
  await input.trigger('blur')
  expect(field.emitted('change')).toEqual([[['GB', 'IE']]])
  expect(field.find('[role=alert]').exists()).toBe(false)
})

test('what is chosen is shown by name and taken out again', async () => {
  const field = mount(NamesField, { props: { control, value: ['GB', 'IE'], label: 'Dial-in' } })
  expect(field.text()).toContain('United Kingdom')
  await field.get("button[aria-label='Take out United Kingdom']").trigger('click')
  expect(field.emitted('change')).toEqual([[['IE']]])
})
