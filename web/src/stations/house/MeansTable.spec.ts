// @vitest-environment happy-dom
import { flushPromises } from '@vue/test-utils'
import { expect, it, vi } from 'vitest'
import { catalogue, mounted } from '@/testing/mounting'
import MeansTable from './MeansTable.vue'

vi.mock('@/api/client', async (original) => {
  const api = { GET: async () => ({ data: catalogue, response: { ok: true } }) }
  return { ...(await original<object>()), api }
})

const held = (write: string[], instead: Record<string, unknown> = {}) => ({
  values: ['hosts'],
  instead,
  read: ['meeting'],
  write,
})

it('says together what becomes the same, and once what is alike everywhere', async () => {
  const means = {
    'lobby-bypass': held(['default', 'meeting'], {
      named: 'hosts',
      members: 'hosts',
      anyone: 'members',
    }),
    'early-entry': held(['default', 'meeting'], { 5: 0, 10: 0 }),
  }
  const table = mounted(MeansTable, { means })
  await flushPromises()
  const cells = table.findAll('tbody tr').map((row) => row.findAll('td').map((td) => td.text()))
  expect(cells).toEqual([
    ['Lobby bypass', 'hosts', 'by name, members → hosts; anyone → members'],
    ['Early entry', 'hosts', '5 minutes, 10 minutes → after a host'],
  ])
  expect(table.text()).toContain('Taken from us for: account default, meeting.')
  expect(table.text()).toContain('Not at all: Chat, Polls.')
  await table.setProps({ means: { ...means, chat: held(['session']) } })
  expect(table.findAll('th').map((th) => th.text())).toContain('Taken from us')
  expect(table.findAll('tbody tr td:last-child').map((td) => td.text())).toEqual([
    'account default, meeting',
    'account default, meeting',
    'running session',
  ])
})
