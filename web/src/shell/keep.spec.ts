// @vitest-environment happy-dom
import { useQuery } from '@pinia/colada'
import { flushPromises } from '@vue/test-utils'
import { expect, it } from 'vitest'
import { defineComponent, h } from 'vue'
import { mounted } from '@/testing/mounting'
import { useKeep } from './keep'

it('shows what an act answered, and not a reading that began before it and ends later', async () => {
  const readings: ((value: string) => void)[] = []
  let keep: ReturnType<typeof useKeep> = () => {}
  const page = mounted(
    defineComponent(() => {
      const { data } = useQuery({
        key: ['lamp'],
        query: () => new Promise<string>((resolve) => readings.push(resolve)),
      })
      keep = useKeep()
      return () => h('p', data.value)
    }),
    {},
  )
  await flushPromises()
  expect(readings).toHaveLength(1)
  keep(['lamp'], 'lit')
  await flushPromises()
  expect(page.text()).toBe('lit')
  readings[0]?.('dark')
  await flushPromises()
  expect(page.text()).toBe('lit')
})
