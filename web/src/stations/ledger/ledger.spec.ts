// @vitest-environment happy-dom
import { flushPromises } from '@vue/test-utils'
import { readFileSync } from 'node:fs'
import { describe, expect, it, vi } from 'vitest'
import type { LedgerEntry } from '@/api/schema'
import { catalogue, mounted } from '@/testing/mounting'
import EntryDrawer from './EntryDrawer.vue'
import type { Meaning } from './fields'
import { actWords, askedIn, changedBy, hasWords, linesOf, titleWords } from './ledger'

vi.mock('@/api/client', async (original) => {
  const api = { GET: async () => ({ data: undefined, response: { ok: true } }) }
  return { ...(await original<object>()), api }
})

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
      { name: 'chat', before: 'always', after: 'off' },
      { name: 'regions', before: 'GB', after: 'GB, IE' },
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
    expect(askedIn(one).map((l) => l.name)).toEqual(['chat'])
    expect(changedBy(entry({}))).toEqual([])
    expect(askedIn(entry({}))).toEqual([])
  })
})

describe('what stands in an entry', () => {
  const of: Meaning = {
    control: (id) => catalogue.controls.find((c) => c.id === id),
    check: (id) => (id === 'off-fix' ? 'Other than fixed' : id),
    unit: (id) => (id === 'pilotage' ? 'Pilotage' : ''),
    kind: (id) => (id === 'hearing' ? 'Public hearing' : ''),
  }
  it('is called what people call it', () => {
    const rule = (value: string, mode = 'bound') => ({ mode, start: value, limit: value })
    expect(
      linesOf(
        { 'kind:hearing': { 'lobby-bypass': rule('named') } },
        { 'kind:hearing': { 'lobby-bypass': rule('hosts', 'fix') } },
        of,
      ),
    ).toEqual([
      { name: 'Public hearing · Lobby bypass · rule', before: 'limit', after: 'fixed' },
      { name: 'Public hearing · Lobby bypass · by default', before: 'by name', after: 'hosts' },
      { name: 'Public hearing · Lobby bypass · limit', before: 'by name', after: 'hosts' },
    ])
    expect(
      linesOf({ unit: null, controls: {} }, { unit: 'pilotage', controls: { chat: 'off' } }, of),
    ).toEqual([
      { name: 'unit', before: '', after: 'Pilotage' },
      { name: 'Chat', before: '', after: 'off' },
    ])
    const targets = [
      { meeting: 'm-1', check: 'off-fix' },
      { meeting: 'm-2', check: null },
    ]
    expect(
      askedIn(entry({ asked: { targets, isWhole: false, start: '2027-03-01T10:00' } }), of),
    ).toEqual([
      {
        name: 'of what',
        before: '',
        after: 'meeting m-1, check Other than fixed; meeting m-2',
      },
      { name: 'is whole', before: '', after: 'no' },
      { name: 'start', before: '', after: '2027-03-01 10:00' },
    ])
  })
  it('is told once: edits by what came of them, and what programs tell each other not at all', () => {
    const edits = [{ layer: 'organisation', control: 'chat' }]
    const asked = { version: 3, key: 'f0', edits }
    expect(askedIn(entry({ asked }), of).map((l) => l.after)).toEqual([
      'layer Organisation, control Chat',
    ])
    const changed = [{ object: 'draft', id: '2', title: 'Winter', before: {}, after: {} }]
    expect(askedIn(entry({ asked, changed }), of)).toEqual([])
  })
})

describe('what an entry is about', () => {
  const title = (object: string, objectId: string, words: string) =>
    titleWords({ object, objectId, title: words })
  it('is said by its title, or as so many, or by its number', () => {
    expect(title('meeting', 'm-1', 'Hearing')).toBe('Hearing')
    expect(title('meeting', '', '22 changed')).toBe('22 meetings')
    expect(title('person', '', '1 changed')).toBe('1 person')
    expect(title('house', '', '68 changed')).toBe('68 at once')
    expect(title('audit', '10', 'audit 10')).toBe('audit 10')
    expect(title('draft', '2', '')).toBe('draft 2')
    expect(title('account', 'a@x.example', '')).toBe('a@x.example')
  })
  it('is not said by an id that nobody would say', () => {
    expect(title('session', 's-d646ed10-5cdd-4633-9b1e-b7fb249dc9ec', '')).toBe('session')
    expect(title('feed', 'Zk3vJ8aQpLw0Yt7rNe5bXm2cUh9sGd4f', '')).toBe('feed')
    expect(title('draft', '', '')).toBe('draft')
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
