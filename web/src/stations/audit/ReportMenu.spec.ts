// @vitest-environment happy-dom
import { flushPromises } from '@vue/test-utils'
import { expect, it, vi } from 'vitest'
import { mounted } from '@/testing/mounting'
import ReportMenu from './ReportMenu.vue'

vi.mock('@/api/client', async (original) => {
  const formats = [
    { id: 'pdf', title: 'Report for management', ending: 'pdf', papers: ['a4', 'letter'] },
    { id: 'runes', title: 'Findings in runes', ending: 'txt', papers: [] },
  ]
  const api = { GET: async () => ({ data: formats, response: { ok: true } }) }
  return { ...(await original<object>()), api }
})

it('offers what there is, also what it has never heard of, the usual paper first', async () => {
  vi.stubGlobal('navigator', { ...navigator, language: 'en-US' })
  const menu = mounted(ReportMenu, { audit: 7 })
  await flushPromises()
  await menu.get('button').trigger('click')
  await flushPromises()
  const offered = menu.findAll('a').map((a) => [a.text(), a.attributes('href')])
  expect(offered).toEqual([
    ['Report for management, Letter PDF', '/api/audits/7/report?as=pdf&paper=letter'],
    ['Report for management, A4 PDF', '/api/audits/7/report?as=pdf&paper=a4'],
    ['Findings in runes TXT', '/api/audits/7/report?as=runes'],
  ])
})
