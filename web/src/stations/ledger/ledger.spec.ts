// @vitest-environment happy-dom
import { flushPromises } from '@vue/test-utils'
import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import type { LedgerEntry } from '@/api/schema'
import { mounted } from '@/testing/mounting'
import EntryDrawer from './EntryDrawer.vue'
import { actWords, hasWords, askedIn, changedBy, linesOf } from './ledger'

const entry = (details: unknown): LedgerEntry =>
  ({
    seq: 7,
    at: '2027-01-11T09:20:00Z',
    who: 'a@x.example',
    via: 'token',
    address: '127.0.0.1',
    act: 'meeting.controls-changed',
    object: 'meeting',
    objectId: 'm-1',
    title: 'Hearing',
    details,
    previous: '00',
    hash: 'ff',
  }) as LedgerEntry

describe('an act', () => {
  it('has words, and without any is read from its name', () => {
    expect(actWords('meeting.controls-changed')).toBe('changed controls')
    expect(actWords('thing.looked-after')).toBe('looked after thing')
  })
  it('has words wherever the server knows it', () => {
    const java = ['LedgerActions', 'LedgerBeginning', 'LedgerChain']
      .map((name) => `../server/src/main/java/app/uprightwarden/server/ledger/${name}.java`)
      .map((file) => readFileSync(file, 'utf8'))
      .join('')
    const acts = [...java.matchAll(/"([a-z-]+\.[a-z-]+)"/g)].map((m) => String(m[1]))
    expect(acts.length).toBeGreaterThan(80)
    expect(acts.filter((act) => !hasWords(act))).toEqual([])
    const objects = [...java.matchAll(/act\(\s*"[^"]+",\s*"[^"]+",\s*"([a-z-]+)"/g)]
    expect(objects.length).toBeGreaterThan(80)
    expect(objects.map((m) => String(m[1])).filter((o) => !hasWords(o))).toEqual([])
  })
})

describe('before and after', () => {
  it('are a line a value, named by the path', () => {
    expect(
      linesOf(
        { title: 'A', controls: { chat: 'always', regions: ['GB'] } },
        { title: 'A', controls: { chat: 'off', regions: ['GB', 'IE'] }, room: 'loft' },
      ),
    ).toEqual([
      { name: 'controls chat', before: 'always', after: 'off' },
      { name: 'controls regions', before: '["GB"]', after: '["GB","IE"]' },
      { name: 'room', before: '', after: 'loft' },
    ])
    expect(linesOf(undefined, null)).toEqual([])
    expect(linesOf(undefined, 'x')).toEqual([{ name: 'all', before: '', after: 'x' }])
  })
  it('come from what an entry changed, and from what was asked', () => {
    const one = entry({
      asked: { version: 3, note: null, controls: { chat: 'off' } },
      changed: [
        { object: 'meeting', id: 'm-1', title: 'Hearing', before: { a: 1 }, after: { a: 2 } },
        { object: 'meeting', id: 'm-2', title: 'Other' },
      ],
    })
    expect(changedBy(one).map((c) => [c.id, c.lines.length])).toEqual([
      ['m-1', 1],
      ['m-2', 0],
    ])
    expect(askedIn(one).map((l) => l.name)).toEqual(['version', 'controls chat'])
    expect(changedBy(entry({}))).toEqual([])
    expect(askedIn(entry({}))).toEqual([])
  })
})

describe('an entry', () => {
  it('shows what changed and leads to one thing’s history', async () => {
    const wrapper = mounted(EntryDrawer, {
      entry: entry({
        changed: [
          {
            object: 'meeting',
            id: 'm-1',
            title: 'Hearing <script>',
            before: { chat: 'always' },
            after: { chat: 'off' },
          },
          { object: 'meeting', id: 'm-2', title: 'Other' },
        ],
      }),
    })
    await flushPromises()
    expect(wrapper.text()).toContain('Entry 7: changed controls')
    expect(wrapper.text()).toContain('by an access token, from 127.0.0.1')
    expect(wrapper.text()).toContain('Hearing <script>')
    expect(wrapper.find('script').exists()).toBe(false)
    expect(wrapper.findAll('td').map((td) => td.text())).toEqual(['chat', 'always', 'off'])
    expect(wrapper.text()).toContain('Changed; not kept in full.')
    const buttons = wrapper.findAll('button')
    await buttons[1]?.trigger('click')
    expect(wrapper.emitted('history')).toEqual([['meeting', 'm-1']])
  })
})
