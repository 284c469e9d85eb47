// @vitest-environment happy-dom
import { flushPromises } from '@vue/test-utils'
import { afterEach, describe, expect, it, vi } from 'vitest'
import type { ComparisonView, DraftLine, ImpactView, Overview } from '@/api/schema'
import { Problem } from '@/api/client'
import { useSession } from '@/api/session'
import { catalogue, control, mounted } from '@/testing/mounting'
import type { Guarantee, Rule } from './book'
import ComparisonTable from './ComparisonTable.vue'
import DraftNotes from './DraftNotes.vue'
import FamilyNav from './FamilyNav.vue'
import GuaranteeList from './GuaranteeList.vue'
import ImpactPanel from './ImpactPanel.vue'
import LayerBar from './LayerBar.vue'
import RuleEditor from './RuleEditor.vue'
import { rungsOf } from './rungs'

const answers = vi.hoisted(() => ({ calls: [] as string[] }))
vi.mock('@/api/client', async (original) => {
  const { catalogue } = await import('@/testing/mounting')
  const call = (method: string) => async (path: string) => {
    answers.calls.push(`${method} ${path}`)
    const data = path === '/api/catalogue' ? catalogue : { edition: 5, letters: 0 }
    return { data, response: { ok: true } }
  }
  const api = { GET: call('GET'), POST: call('POST') }
  return { ...(await original<object>()), api }
})
afterEach(() => {
  answers.calls.length = 0
  document.body.innerHTML = ''
})
const layerTitle = (key: string) => key.toUpperCase()

describe('the layers', () => {
  const organisation = {
    units: [
      { id: 'root', name: 'Root', parent: null },
      { id: 'leaf', name: 'Leaf', parent: 'root' },
    ],
    kinds: [{ id: 'drill', name: 'Drill', confidential: false }],
  } as unknown as Overview
  const book = {
    layers: [
      { scope: { level: 'organisation' as const }, rules: [] },
      {
        scope: { level: 'kind' as const, id: 'drill' },
        rules: [{ control: 'chat', mode: 'fix' as const, value: 'off' }],
      },
    ],
  }

  it('with rules stand beside each other, the one shown always', async () => {
    const bar = mounted(LayerBar, { book, organisation, layer: 'unit:leaf' })
    const tabs = bar.findAll('button[aria-pressed]').map((b) => b.text())
    expect(tabs).toEqual(['Organisation', 'Drill', 'Leaf'])
    await bar.findAll('button[aria-pressed]')[1]?.trigger('click')
    expect(bar.emitted('choose')).toEqual([['kind:drill']])
  })

  it('are all in the list, units as a tree', async () => {
    const bar = mounted(LayerBar, { book, organisation, layer: 'organisation' })
    await bar.find('[aria-label$="all layers"]').trigger('click')
    const options = bar.findAll('[role=option]')
    expect(options.map((o) => o.text().replace(/\s+\d*$/, ''))).toEqual([
      'Organisation',
      'Root',
      'Leaf',
      'Drill',
    ])
    expect(options[2]?.attributes('style')).toContain('28px')
  })
})

describe('the families', () => {
  it('count the layer’s rules and say what is shown', async () => {
    const nav = mounted(FamilyNav, {
      catalogue,
      layer: { scope: { level: 'organisation' }, rules: [{ control: 'chat', mode: 'fix' }] },
      family: 'chat',
      show: '',
      text: '',
    })
    expect(nav.findAll('button').map((b) => b.text())).toEqual([
      'Waiting room 0',
      'Chat 1',
      'Guarantees 0',
    ])
    expect(nav.find('[aria-current=true]').text()).toBe('Chat 1')
    await nav.find('select').setValue('sealed')
    expect(nav.emitted('show')).toEqual([['sealed']])
  })
})

describe('the impact', () => {
  const count = { before: 10, after: 12, appeared: 3, gone: 1, regraded: 0, same: 9 }
  const impact = {
    edition: 3,
    meetings: 120,
    touched: 1,
    total: count,
    severities: [1, 2, 3, 4, 5].map((severity) => ({ severity, before: 2, after: severity })),
    checks: [],
    subjects: [{ id: 'chat', count, meetings: 1 }],
    units: [{ id: 'root', name: 'Root', meetings: 1, appeared: 3, gone: 1 }],
    hosts: [{ id: 'h', name: 'Host', meetings: 1, appeared: 3, gone: 1 }],
    touchedHosts: 1,
    worst: [
      { id: 'm', title: 'Meeting', host: 'h', hostName: 'Host', appeared: 3, gone: 1, worst: 4 },
    ],
  } as unknown as ImpactView
  const panel = (changed: boolean) =>
    mounted(ImpactPanel, {
      impact,
      problem: null,
      asking: false,
      changed,
      subject: 'chat',
      subjectTitle: 'Chat',
      more: false,
    })

  it('counts by severity, the worst first, with what would change', () => {
    const rows = panel(true).findAll('tr.severity')
    expect(rows.map((r) => r.findAll('td')[1]?.text())).toEqual(['5', '4', '3', '2', '1'])
    expect(rows.map((r) => r.findAll('td')[2]?.text())).toEqual(['+3', '+2', '+1', '±0', '−1'])
  })

  it('says in words what is new and whose meetings', async () => {
    const wrapper = panel(true)
    expect(wrapper.text()).toContain('3 new, 1 gone, 9 the same; 1 meeting of 1 host.')
    expect(wrapper.text()).toContain('Chat: 3 new, 1 gone in 1 meeting.')
    expect(wrapper.text()).toContain('Root')
    await wrapper.findAll('button')[2]?.trigger('click')
    expect(wrapper.find('a').attributes('href')).toBe('/register/m')
  })

  it('shows how things stand where nothing has been changed', () => {
    const text = panel(false).text()
    expect(text).toContain('As it stands')
    expect(text).toContain('in 120 meetings')
    expect(text).not.toContain('new')
  })
})

describe('a guarantee', () => {
  const given: Guarantee = {
    id: 'g',
    who: ['link-finder'],
    rights: ['listen'],
    ceiling: 'host-lets-in',
    importance: 3,
  }
  const list = (editable: boolean) =>
    mounted(GuaranteeList, {
      guarantees: [given],
      catalogue,
      editable,
      chosen: 'g',
      remarks: [{ kind: 'unkeepable', weight: 'wrong', guarantee: 'g', text: 'No setting can.' }],
      breaking: () => 2,
      differs: () => false,
    })

  it('reads as a sentence, with what is wrong with it', () => {
    const text = list(false).text().replace(/\s+/g, ' ')
    expect(text).toContain(
      'Nobody who finds the link may listen in, except once a host lets them in.',
    )
    expect(text).toContain('No setting can.')
    expect(text).toContain('2 breaches')
  })

  it('is written by picking words, several of who and what', async () => {
    const wrapper = list(true)
    await wrapper.find('[aria-label="Who: finds the link"]').trigger('click')
    await wrapper.findAll('[role=option]')[1]?.trigger('click')
    expect(wrapper.emitted('change')?.[0]).toEqual([
      'g',
      { ...given, who: ['link-finder', 'removed'] },
    ])
  })

  it('never loses its last word', async () => {
    const wrapper = list(true)
    await wrapper.find('[aria-label="What: listen in"]').trigger('click')
    await wrapper.findAll('[role=option]')[0]?.trigger('click')
    expect(wrapper.emitted('change')).toBeUndefined()
  })
})

describe('the editor of a rule', () => {
  const chat = control('chat')
  const resolved = {
    mode: 'bound',
    start: 'off',
    limit: 'in-session',
    importance: 3,
    sealed: false,
    layer: 'organisation',
    reason: 'from above',
    trace: [{ layer: 'organisation', mode: 'bound', action: 'taken', words: 'It is so.' }],
  }
  const editor = (rule: Rule | undefined, id = 'chat') =>
    mounted(RuleEditor, {
      control: control(id),
      rule,
      before: undefined,
      rungs: rungsOf(chat, rule, { always: 4 }),
      unknown: 1,
      editable: true,
      remarks: [],
      resolved,
    })

  it('begins a rule of its own with what applies from above, without its reason', async () => {
    const wrapper = editor(undefined)
    expect(wrapper.text()).toContain('It is so.')
    await wrapper.findAll('input[type=radio]')[2]?.trigger('change')
    expect(wrapper.emitted('change')).toEqual([
      [{ control: 'chat', mode: 'bound', importance: 3, start: 'off', limit: 'in-session' }],
    ])
  })

  it('counts the meetings that stand looser, and those that do not say', () => {
    const rule: Rule = { control: 'chat', mode: 'fix', value: 'off' }
    expect(editor(rule).text()).toContain(
      '4 upcoming series stand looser than this, and 1 does not',
    )
  })

  it('offers no bound for a control without a strict side', () => {
    const names = editor(undefined, 'polls')
      .findAll('label')
      .map((l) => l.text())
    expect(names).not.toContain('bound')
    expect(names).toContain('fixed')
  })
})

describe('a comparison', () => {
  it('goes layer by layer and says how each rule differs', async () => {
    const comparison = {
      from: 'edition:1',
      fromTitle: 'Edition 1',
      to: 'edition:2',
      toTitle: 'Edition 2',
      rules: [
        {
          layer: 'organisation',
          control: 'chat',
          before: { control: 'chat', mode: 'fix', value: 'always' },
          after: { control: 'chat', mode: 'fix', value: 'off', sealed: true, reason: 'storm' },
          words: ['tighter', 'sealed now', 'another reason'],
        },
      ],
      guarantees: [
        {
          layer: 'unit:x',
          id: 'g',
          before: null,
          after: { id: 'g', who: ['removed'], rights: ['listen'], ceiling: 'never' },
          words: ['new'],
        },
      ],
    } as unknown as ComparisonView
    const table = mounted(ComparisonTable, { comparison, layerTitle })
    await flushPromises()
    const rows = table.findAll('tbody tr').map((r) => r.text().replace(/\s+/g, ' '))
    expect(rows[0]).toBe('ORGANISATION')
    expect(rows[1]).toContain('tighter, sealed now')
    expect(rows[1]).toContain('fixed: alwaysno reason given')
    expect(rows[1]).toContain('fixed: off, sealedstorm')
    expect(rows[3]).toContain('Nobody who has been removed before may listen in.')
  })
})

describe('the notes over a draft', () => {
  const draft = (part: object) =>
    ({ id: 2, name: 'd', present: [], ...part }) as unknown as DraftLine
  const notes = (line: DraftLine) =>
    mounted(DraftNotes, { draft: line, clashes: [], problem: null, layerTitle })
  const proposal = { by: 'a@x.example', at: '2027-01-01T00:00:00Z', reason: 'why' }

  it('let a second warden consent, and the first withdraw', async () => {
    const wrapper = notes(draft({ proposal }))
    useSession().who = { email: 'b@x.example', name: 'B', role: 'warden' } as never
    await flushPromises()
    expect(wrapper.text()).toContain('a@x.example proposes to publish this: “why”')
    await wrapper.findAll('button')[0]?.trigger('click')
    await flushPromises()
    expect(answers.calls).toContain('POST /api/rulebook/drafts/{id}/consent')
    expect(wrapper.emitted('published')).toEqual([[5]])
    useSession().who = { email: 'a@x.example', name: 'A', role: 'warden' } as never
    await flushPromises()
    expect(wrapper.findAll('button').map((b) => b.text())).toEqual(['Withdraw'])
  })

  it('offer to keep what is here where the draft is gone', async () => {
    const problem = new Problem(404, 'not-found', 'There is no draft 2.', [])
    const props = { draft: draft({}), clashes: [], problem, layerTitle }
    const wrapper = mounted(DraftNotes, props)
    await wrapper.find('button').trigger('click')
    expect(wrapper.emitted('keep')).toHaveLength(1)
    await wrapper.setProps({ problem: new Problem(500, 'fault', 'No.', []) })
    expect(wrapper.find('button').text()).toBe('Try again')
  })

  it('say that a newer edition was published, and why one was refused', () => {
    const text = notes(
      draft({ behind: true, refusal: { by: 'b@x.example', words: 'too soon' } }),
    ).text()
    expect(text).toContain('Bring it up to that edition')
    expect(text).toContain('b@x.example declined: “too soon”')
  })
})
