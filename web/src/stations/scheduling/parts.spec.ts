// @vitest-environment happy-dom
import { flushPromises } from '@vue/test-utils'
import { afterEach, describe, expect, it, vi } from 'vitest'
import type { SchedulingPreview, ImportReport } from '@/api/schema'
import { useSession } from '@/api/session'
import ImportDialog from '@/stations/register/ImportDialog.vue'
import ManyBar from '@/stations/register/ManyBar.vue'
import { mounted } from '@/testing/mounting'
import ControlsPart from './ControlsPart.vue'
import DoorChange from './DoorChange.vue'
import ExtrasPart from './ExtrasPart.vue'
import { emptyForm, type MeetingForm } from './form'
import InHandPanel from './InHandPanel.vue'
import { forget, keep, kept } from './kept'
import PasscodePart from './PasscodePart.vue'
import WaiverAsk from './WaiverAsk.vue'
import WhenPart from './WhenPart.vue'
import WhoPart from './WhoPart.vue'

const server = vi.hoisted(() => ({
  calls: [] as { path: string; options: Record<string, unknown> }[],
  answers: {} as Record<string, unknown>,
}))
vi.mock('@/api/client', async (original) => {
  const { catalogue } = await import('@/testing/mounting')
  const organisation = {
    units: [],
    kinds: [],
    lists: [{ id: 'crew', name: 'Night crew', members: 2 }],
    spaces: [{ id: 'quay', name: 'Quay', members: 1 }],
    rooms: [{ id: 'loft', name: 'Sail loft', email: 'loft@x', seats: 12 }],
  }
  const call = () => async (path: string, options: Record<string, unknown>) => {
    server.calls.push({ path, options })
    const data =
      path === '/api/catalogue'
        ? catalogue
        : path === '/api/organisation'
          ? organisation
          : (server.answers[path] ?? {})
    return { data, response: { ok: true } }
  }
  const api = { GET: call(), POST: call(), PUT: call(), DELETE: call() }
  return { ...(await original<object>()), api }
})
afterEach(() => {
  server.calls.length = 0
  server.answers = {}
  document.body.innerHTML = ''
  localStorage.clear()
})

const form: MeetingForm = {
  ...emptyForm('h@x.example', new Date('2027-01-11T09:20:00Z'), 'UTC'),
  title: 'Hearing',
}
const scores = { score: 4.4, intrusion: 1, disruption: 2, band: 'shut' }
const preview: SchedulingPreview = {
  faults: [],
  unit: null,
  starts: { chat: 'always', 'lobby-bypass': 'named' } as never,
  resolved: {
    'lobby-bypass': {
      mode: 'bound',
      start: 'named',
      limit: 'named',
      importance: 3,
      sealed: false,
      layer: 'organisation',
      reason: 'Somebody looks.',
      trace: [
        { layer: 'organisation', mode: 'bound', action: 'taken', words: 'Organisation says so.' },
      ],
    },
  } as never,
  controls: { chat: 'always', 'lobby-bypass': 'named' } as never,
  exposure: scores,
  exposureBefore: scores,
  matrix: {},
  matrixBefore: {},
  findings: [],
  beyond: [],
  idle: [],
  turned: [],
  dates: { coming: [], total: 0, endless: false, more: false },
  invited: 0,
  people: [],
  numbers: [],
  choices: [],
  services: [],
  hints: [],
}
/** The last form a part asked for. */
const last = (part: { emitted: (name: string) => unknown[][] | undefined }) =>
  part.emitted('change')?.at(-1)?.[0] as MeetingForm

describe('when', () => {
  const weekly = { ...form, pattern: { ...form.pattern, every: 'week' as const } }
  const date = (at: string, state: string) => ({
    at,
    start: `${at}:00Z`,
    end: `${at}:30Z`,
    localStart: at,
    minutes: 60,
    state,
    clashes: state === 'plain' ? ['Tide talk'] : [],
  })
  const dates = {
    coming: [date('2027-01-11T10:00', 'plain'), date('2027-01-18T10:00', 'dropped')],
    total: 1,
    endless: false,
    more: false,
  }

  it('drops a date and puts one back', async () => {
    const part = mounted(WhenPart, { form: { ...weekly, exDates: ['2027-01-18T10:00'] }, dates })
    expect(part.text()).toContain('clashes with Tide talk')
    await part.get("button[aria-label^='Drop']").trigger('click')
    expect(last(part).exDates).toEqual(['2027-01-11T10:00', '2027-01-18T10:00'])
    await part.get("button[aria-label^='Put back']").trigger('click')
    expect(last(part).exDates).toEqual([])
  })

  it('moves and lengthens one date alone', async () => {
    const part = mounted(WhenPart, { form: weekly, dates })
    await part.get("button[aria-label^='Move']").trigger('click')
    const start = part.get("input[aria-label^='New start']")
    // a browser tells of each digit; the date moves, and the dates sort, when its field is left
    await start.setValue('2027-01-12T10:00')
    expect(part.emitted('change')).toBeUndefined()
    await start.setValue('2027-01-12T11:30')
    await start.trigger('blur')
    expect(last(part).occurrences).toEqual([{ at: '2027-01-11T10:00', start: '2027-01-12T11:30' }])
    await part.get("input[aria-label^='New length']").setValue(90)
    expect(last(part).occurrences[0]?.minutes).toBe(90)
  })

  it('keeps what is being typed where an answer comes in meanwhile', async () => {
    const part = mounted(WhenPart, { form: weekly, dates })
    await part.get("button[aria-label^='Move']").trigger('click')
    const length = part.get("input[aria-label^='New length']")
    const field = length.element as HTMLInputElement
    expect(field.value).toBe('60')
    field.value = '90'
    await length.trigger('input')
    await part.setProps({ dates: { ...dates, total: 2 } })
    expect(field.value).toBe('90')
    await length.trigger('change')
    expect(last(part).occurrences[0]?.minutes).toBe(90)
  })

  it('gives one date a control of its own and takes it away again', async () => {
    const dated = { ...preview, dates } as never
    const part = mounted(WhenPart, { form: weekly, dates, preview: dated })
    await flushPromises()
    await part.get("button[aria-label^='controls']").trigger('click')
    await flushPromises()
    const sheet = document.body
    expect(sheet.textContent).toContain('It has nothing of its own')
    const more = [...sheet.querySelectorAll('select')].find((s) =>
      [...s.options].some((o) => o.text === 'choose one'),
    )
    if (!more) throw new Error('no control to choose')
    more.value = 'chat'
    more.dispatchEvent(new Event('change'))
    await flushPromises()
    expect(last(part).occurrences).toEqual([
      { at: '2027-01-11T10:00', controls: { chat: 'always' } },
    ])
    await part.setProps({ form: last(part), dates, preview: dated })
    await flushPromises()
    expect(part.text() + sheet.textContent).toContain('1 of its own')
    const back = [...sheet.querySelectorAll('button')].find((b) =>
      b.textContent?.includes('As the series'),
    )
    back?.click()
    await flushPromises()
    expect(last(part).occurrences).toEqual([])
  })

  it('never leaves a weekly series without a day', async () => {
    const part = mounted(WhenPart, { form: weekly, dates })
    await part.get('button[aria-pressed=true]').trigger('click')
    expect(part.emitted('change')).toBeUndefined()
  })

  it('makes a whole day of days', async () => {
    const part = mounted(WhenPart, { form, dates: undefined })
    await part.get('input[type=checkbox]').setValue(true)
    expect(last(part)).toMatchObject({ wholeDay: true, minutes: 1440 })
  })
})

describe('who', () => {
  const with2: MeetingForm = {
    ...form,
    coHosts: ['a@x'],
    invitees: [
      { email: 'A@x', need: 'required' },
      { email: 'b@x', need: 'optional' },
    ],
    groups: [{ name: 'Red', members: ['b@x'] }],
  }

  it('has each person once, whatever they are', async () => {
    const part = mounted(WhoPart, { form: with2, people: [], invited: 2 })
    await flushPromises()
    expect(part.findAll('tbody tr')).toHaveLength(2)
    expect(part.text()).toContain('2 reached in all')
    await part.get("input[aria-label='b@x is a presenter']").setValue(true)
    expect(last(part).presenters).toEqual(['b@x'])
    await part.get("input[aria-label='A@x is a co-host']").setValue(false)
    expect(last(part).coHosts).toEqual([])
  })

  it('names somebody for a task, in a language where it has one', async () => {
    const part = mounted(WhoPart, { form: with2, people: [], invited: 2 })
    await flushPromises()
    await part.get("select[aria-label='Task of b@x']").setValue('interpreter')
    expect(last(part).invitees[1]).toEqual({ email: 'b@x', need: 'optional', task: 'interpreter' })
    await part.setProps({ form: last(part) })
    await part.get("select[aria-label='Language of b@x']").setValue('ga')
    expect(last(part).invitees[1]).toMatchObject({ task: 'interpreter', language: 'ga' })
    await part.setProps({ form: last(part) })
    await part.get("select[aria-label='Task of b@x']").setValue('contributor')
    expect(last(part).invitees[1]).toEqual({ email: 'b@x', need: 'optional', task: 'contributor' })
    await part.setProps({ form: last(part) })
    await part.get("select[aria-label='Task of b@x']").setValue('')
    expect(last(part).invitees[1]).toEqual({ email: 'b@x', need: 'optional' })
  })

  it('makes a group for each invited list, once', async () => {
    const part = mounted(ExtrasPart, { form: { ...form, lists: ['crew'] } })
    await flushPromises()
    const button = part.findAll('button').find((b) => b.text() === 'a group for each list')
    await button?.trigger('click')
    expect(last(part).groups).toEqual([{ name: 'Night crew', members: [], list: 'crew' }])
    expect(last(part).controls['breakout-groups']).toBe('pre-assigned')
    await part.setProps({ form: last(part) })
    expect(part.text()).toContain('and the list Night crew')
    await button?.trigger('click')
    expect(last(part).groups).toHaveLength(1)
  })

  it('takes several addresses at once, and none where one of them is none', async () => {
    const part = mounted(WhoPart, { form, people: [], invited: 0 })
    const field = part.get("input[aria-label='Invite somebody']")
    await field.setValue('new@x.example, Ann <ann@x.example>; nonsense')
    await field.trigger('keydown', { key: 'Enter' })
    expect(part.emitted('change')).toBeUndefined()
    expect(part.get('[role=alert]').text()).toContain('nonsense')
    await field.setValue('new@x.example, Ann <ann@x.example>')
    await field.trigger('keydown', { key: 'Enter' })
    expect(last(part).invitees.map((i) => i.email)).toEqual(
      expect.arrayContaining(['new@x.example', 'ann@x.example']),
    )
  })

  it('takes somebody out of everything', async () => {
    const part = mounted(WhoPart, { form: with2, people: [], invited: 2 })
    await part
      .findAll('button')
      .find((b) => b.text() === 'take out b@x')
      ?.trigger('click')
    expect(last(part).invitees).toEqual([{ email: 'A@x', need: 'required' }])
    expect(last(part).groups).toEqual([{ name: 'Red', members: [] }])
  })

  it('reaches people through a list, in a space, and books a room, each by its name', async () => {
    const part = mounted(WhoPart, { form, people: [], invited: 0 })
    await flushPromises()
    const field = part.get("input[aria-label='Invite somebody']")
    const choose = async (text: string) => {
      await field.setValue(text)
      await flushPromises()
      await field.trigger('keydown', { key: 'Enter' })
      await part.setProps({ form: last(part) })
    }
    await choose('crew')
    expect(last(part).lists).toEqual(['crew'])
    await choose('qu')
    expect(last(part).space).toBe('quay')
    await choose('loft')
    expect(last(part).room).toBe('loft')
    const chips = part.findAll("ul[aria-label='Lists, space and room'] li")
    expect(chips.map((c) => c.text())).toEqual([
      'Night crewlist · 2 people✕',
      'Quayspace✕',
      'Sail loftroom✕',
    ])
    await part.get("button[aria-label='Take Night crew out']").trigger('click')
    expect(last(part).lists).toEqual([])
  })
})

describe('the controls', () => {
  it('stand at their starts, say what is wrong, and lead to the mend', async () => {
    const part = mounted(ControlsPart, {
      form: { ...form, controls: { 'lobby-bypass': 'anyone' } },
      preview: {
        ...preview,
        beyond: [
          { control: 'lobby-bypass', occurrence: null, fixed: false, looser: true, words: 'no' },
        ],
        idle: [{ control: 'chat', by: [{ control: 'lobby-bypass', to: 'hosts' }] }],
      },
      inHand: null,
    })
    await flushPromises()
    expect(part.text()).toContain('too loose')
    expect(part.get("select[aria-label='Chat, value']").element).toHaveProperty('value', 'always')
    await part.get("select[aria-label='Chat, value']").setValue('off')
    expect(part.emitted('change')).toEqual([['chat', 'off']])
    await part.get("button[aria-label^='Chat does nothing here']").trigger('click')
    expect(part.emitted('mend')).toEqual([['chat']])
  })

  it('are found by name, or only those that differ', async () => {
    const part = mounted(ControlsPart, {
      form: { ...form, controls: { chat: 'off' } },
      preview,
      inHand: null,
    })
    await flushPromises()
    await part.get('input[type=checkbox]').setValue(true)
    expect(part.findAll('select').map((s) => s.attributes('aria-label'))).toEqual(['Chat, value'])
    await part.get('input[type=search]').setValue('nowhere')
    expect(part.text()).toContain('No control is like that')
  })

  it('are few for a host, who is told what is fixed and what is too loose', async () => {
    const fixed = { ...preview.resolved['lobby-bypass'], mode: 'fix', start: 'always' }
    const part = mounted(ControlsPart, {
      form: { ...form, controls: { polls: 'on' } },
      preview: {
        ...preview,
        resolved: { ...preview.resolved, chat: { ...fixed, reason: 'Everybody hears.' } },
        starts: { ...preview.starts, polls: 'off' },
      } as never,
      inHand: null,
      short: true,
    })
    await flushPromises()
    const shown = () => part.findAll('tr[id]').map((row) => row.attributes('id'))
    expect(shown()).toEqual(['c-lobby-bypass', 'c-chat', 'c-polls']) // the last is changed
    expect(part.find("select[aria-label='Chat, value']").exists()).toBe(false)
    expect(part.get('#c-chat').text()).toContain('fixed: Everybody hears.')
    expect(part.findAll('#c-lobby-bypass option').map((o) => o.text())).toEqual([
      'anyone (beyond the rule)',
      'members (beyond the rule)',
      'by name',
      'hosts',
    ])
    await part.setProps({ form: { ...form, controls: { 'lobby-bypass': 'anyone', polls: 'on' } } })
    const ofLobby = part.findAll('#c-lobby-bypass option').map((o) => o.text())
    expect(ofLobby.slice(0, 2)).toEqual(['anyone', 'members (beyond the rule)']) // whole in the field
    await part.get('button').trigger('click')
    expect(shown()).toContain('c-early-entry')
    await part.get('button').trigger('click')
    expect(shown()).not.toContain('c-early-entry')
    await part.get('input[type=search]').setValue('early')
    expect(shown()).toEqual(['c-early-entry'])
  })

  it('in hand tell the rule, and what would make them matter', async () => {
    const part = mounted(InHandPanel, {
      control: 'lobby-bypass',
      value: 'named',
      preview: {
        ...preview,
        idle: [{ control: 'lobby-bypass', by: [{ control: 'chat', to: 'off' }] }],
        choices: [
          {
            value: 'anyone',
            allowed: false,
            score: 40,
            opened: 9,
            closed: 0,
            findings: 2,
            worst: 4,
            idle: false,
          },
          {
            value: 'named',
            allowed: true,
            score: 4,
            opened: 0,
            closed: 0,
            findings: 0,
            worst: 0,
            idle: true,
          },
        ],
      },
    })
    await flushPromises()
    expect(part.text()).toContain('you may go as far as by name')
    expect(part.text()).toContain('Why: Somebody looks.')
    expect(part.text()).toContain('This does nothing here while Chat is “always”')
    expect(part.text()).toContain('not allowed')
    await part.get('p button').trigger('click')
    expect(part.emitted('change')).toEqual([['chat', 'off']])
  })
})

describe('the margin', () => {
  it('shows only what changes at the door', async () => {
    const before = { 'link-finder': { listen: 'never', 'share-screen': 'never' }, removed: {} }
    const same = mounted(DoorChange, { before, after: before })
    await flushPromises()
    expect(same.text()).toContain('At the door nothing changes')
    const part = mounted(DoorChange, {
      before,
      after: { 'link-finder': { listen: 'unattended', 'share-screen': 'never' }, removed: {} },
    })
    await flushPromises()
    expect(part.findAll('tr')).toHaveLength(1)
    expect(part.text()).toContain('listen in')
  })

  it('lets a host ask for a waiver of what is saved, and go back', async () => {
    const beyond = [
      { control: 'chat', occurrence: null, fixed: false, looser: true, words: 'the limit is off' },
    ]
    server.answers['/api/meetings/{id}/waiver-requests'] = { sent: 2 }
    const fresh = mounted(WaiverAsk, { beyond, values: { chat: 'always' }, meeting: null })
    expect(fresh.find('textarea').exists()).toBe(false)
    const part = mounted(WaiverAsk, { beyond, values: { chat: 'always' }, meeting: 'm-1' })
    const ask = part.findAll('button').at(-1)
    expect(ask?.attributes('disabled')).toBeDefined()
    await part.get('textarea').setValue('An open evening')
    await ask?.trigger('click')
    await flushPromises()
    expect(part.text()).toContain('2 wardens have been asked')
    expect(part.emitted('back')).toEqual([['chat']])
  })
})

describe('the rest of the page', () => {
  it('deals people out to groups, which the control then says', async () => {
    const people = ['a@x', 'b@x', 'c@x'].map((email) => ({ email, need: 'required' as const }))
    const part = mounted(ExtrasPart, { form: { ...form, invitees: people } })
    await part.get('#groups').setValue(2)
    expect(last(part).groups).toHaveLength(2)
    expect(last(part).controls['breakout-groups']).toBe('pre-assigned')
    await part.setProps({ form: last(part) })
    await part.get('button').trigger('click')
    expect(last(part).groups.map((g) => g.members)).toEqual([['a@x', 'c@x'], ['b@x']])
    await part.get('#groups').setValue(0)
    expect(last(part).controls['breakout-groups']).toBe('on-demand')
  })

  it('says which service holds a new meeting, and what it cannot hold', async () => {
    const curlew = { id: 2, name: 'Curlew', usual: true, cannot: ['waiting-room'] }
    const part = mounted(PasscodePart, {
      form,
      preview: { ...preview, services: [curlew] },
      hasStored: false,
      home: curlew,
      chosen: null,
    })
    await flushPromises()
    expect(part.text()).toContain('Curlew cannot hold what is set for')
    expect(part.text()).toContain('Curlew gives it, with the link')
    await part.get('#service').setValue('0')
    expect(part.emitted('choose')).toEqual([[0]])
    await part.setProps({ home: null, chosen: 0 })
    expect(part.text()).toContain('no link')
  })

  it('judges a passcode as it is typed and offers the host’s numbers', async () => {
    const part = mounted(PasscodePart, {
      home: null,
      chosen: null,
      form: { ...form, controls: { 'meeting-number': 'reusable' } },
      preview: {
        ...preview,
        numbers: ['482 119 730'],
        passcode: {
          length: 4,
          makeup: 'digits',
          weakness: 'run',
          leaked: true,
          tries: 10,
          minutesToGuess: 1,
          triesAMinute: 20,
        },
      },
      hasStored: false,
    })
    expect(part.text()).toContain('is a run of neighbouring characters')
    expect(part.text()).toContain('give it away')
    expect(part.get('#passcode').attributes('type')).toBe('password')
    await part.get('select').setValue('482 119 730')
    expect(last(part).number).toBe('482 119 730')
  })

  it('keeps what was typed, without its passcode', () => {
    const who = 'w@saltmarsh.example'
    const key = `warden-meeting-${who}-new`
    keep(who, 'new', { ...form, passcode: 'secret' }, 0, new Date('2027-01-11T10:00:00Z'))
    expect(localStorage.getItem(key)).not.toContain('secret')
    expect(kept(who, 'new')?.form.title).toBe('Hearing')
    expect(kept('h@saltmarsh.example', 'new')).toBeNull() // somebody else at this browser
    forget(who, 'new')
    expect(kept(who, 'new')).toBeNull()
    localStorage.setItem(key, '{broken')
    expect(kept(who, 'new')).toBeNull()
  })
})

describe('several at once', () => {
  it('says to how many, and what was done', async () => {
    server.answers['/api/meetings/many'] = { meetings: 2, sent: 0 }
    const bar = mounted(ManyBar, { ids: ['m-1', 'm-2'] })
    await flushPromises()
    await bar.get("select[aria-label='What to do with them']").setValue('control')
    const go = () => bar.findAll('button').find((b) => b.text().includes('2 meetings'))
    expect(go()?.attributes('disabled')).toBeDefined()
    await bar.get('select[aria-label=Control]').setValue('chat')
    await bar.get('select[aria-label=Value]').setValue('off')
    await go()?.trigger('click')
    await flushPromises()
    expect(server.calls.at(-1)?.options).toMatchObject({
      body: { ids: ['m-1', 'm-2'], act: 'control', control: 'chat', value: 'off' },
    })
    expect(bar.emitted('done')).toHaveLength(1)
  })
})

describe('files in', () => {
  const report: ImportReport = {
    dryRun: true,
    batch: null,
    format: 'calendar',
    added: 2,
    changed: 0,
    unchanged: 1,
    refused: 1,
    rows: [
      { part: 'meetings', id: 'a', title: 'Fine', outcome: 'added', line: 3, remarks: [] },
      {
        part: 'meetings',
        id: '',
        title: 'Odd',
        outcome: 'refused',
        line: 9,
        remarks: ['no start'],
      },
    ],
    notes: ['The calendar ends in the middle'],
  }

  it('are tried first and told row by row, the refused ones first', async () => {
    server.answers['/api/exchange/files'] = report
    server.answers['/api/exchange/imports'] = []
    const dialog = mounted(ImportDialog, { open: true, chosen: '' })
    useSession().who = { email: 'h@x', role: 'warden' } as never
    await flushPromises()
    const input = document.querySelector<HTMLInputElement>('input[type=file]')
    Object.defineProperty(input, 'files', { value: [new File(['BEGIN'], 'a.ics')] })
    input?.dispatchEvent(new Event('change'))
    await flushPromises()
    const text = document.body.textContent ?? ''
    expect(text).toContain('Read as a calendar')
    expect(text).toContain('ends in the middle')
    const rows = [...document.querySelectorAll('tbody tr')].map((r) => r.textContent)
    expect(rows[0]).toContain('Odd')
    expect(text).toContain('Import the rest')
    const sent = server.calls.find((c) => c.path === '/api/exchange/files')
    expect(sent?.options).toMatchObject({ params: { query: { dryRun: true, name: 'a.ics' } } })
    dialog.unmount()
  })
})
