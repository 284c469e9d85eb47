// @vitest-environment happy-dom
import { mount } from '@vue/test-utils'
import { expect, test } from 'vitest'
import { zoneMeant } from '@/stations/scheduling/zones'
import ZoneField from './ZoneField.vue'

test('a zone is meant by its name, its city or an older name of it', () => {
  expect(zoneMeant('europe/dublin')).toBe('Europe/Dublin')
  expect(zoneMeant('Dublin')).toBe('Europe/Dublin')
  expect(zoneMeant('new york')).toBe('America/New_York')
  expect(zoneMeant('Atlantis')).toBe(null)
  expect(zoneMeant('Europe/Atlantis')).toBe(null)
  expect(zoneMeant('')).toBe(null)
})

test('what is no zone is refused at its field and changes nothing', async () => {
  const field = mount(ZoneField, { props: { id: 'z', value: 'Europe/Paris' } })
  await field.get('input').setValue('Atlantis')
  expect(field.emitted('change')).toBeUndefined()
  expect(field.get('[role=alert]').text()).toContain('still Europe/Paris')
  await field.get('input').setValue('Dublin')
  expect(field.emitted('change')).toEqual([['Europe/Dublin']])
})
