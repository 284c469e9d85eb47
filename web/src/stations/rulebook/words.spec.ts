import { describe, expect, it } from 'vitest'
import type { ControlView } from '@/api/schema'
import { beyondWords, guaranteeWords, ruleWords } from './words'
import { searchable } from './view'

const chat = {
  id: 'chat',
  title: 'Chat',
  effect: 'Who may write to all',
  risk: 'Anybody let in can write to everybody.',
  rungs: [
    { word: 'always', label: 'always' },
    { word: 'hosts-post', label: 'hosts post' },
  ],
  universe: null,
} as unknown as ControlView

describe('ruleWords', () => {
  it('says mode, values and seal', () => {
    expect(ruleWords(chat, null)).toBe('no rule')
    expect(ruleWords(chat, { control: 'chat', mode: 'suggest', start: 'always' })).toBe(
      'default: always',
    )
    expect(
      ruleWords(chat, {
        control: 'chat',
        mode: 'bound',
        start: 'hosts-post',
        limit: 'always',
        sealed: true,
      }),
    ).toBe('default hosts post, limit always, sealed')
  })
})

describe('beyondWords', () => {
  const line = { service: 'Curlew', control: 'chat', before: 0, after: 41, stricter: 'always' }
  it('counts, and says what would do instead', () => {
    expect(beyondWords(line, chat)).toBe(
      'Curlew cannot hold Chat as it is asked: 41 meetings beyond its means. It has “always”, which is stricter.',
    )
    expect(beyondWords({ ...line, before: 2, after: 1, stricter: null }, chat)).toContain(
      '1 meeting beyond its means (2 now). Nothing it has is as strict',
    )
    expect(beyondWords({ ...line, before: 3, after: 0 }, chat)).toBe(
      'Curlew can hold Chat again as it is asked: 3 meetings.',
    )
  })
})

describe('guaranteeWords', () => {
  const tables = {
    personas: [
      { id: 'removed', phrase: 'has been removed before' },
      { id: 'guest', phrase: 'is a guest' },
    ],
    rights: [{ id: 'listen', phrase: 'listen in' }],
    levels: [{ id: 'host-lets-in', phrase: 'once a host lets them in' }],
  }
  const given = { id: 'g', who: ['removed', 'guest'], rights: ['listen'] }

  it('is a sentence', () => {
    expect(guaranteeWords(tables, { ...given, ceiling: 'host-lets-in' })).toBe(
      'Nobody who has been removed before or is a guest may listen in, except once a host lets them in.',
    )
    expect(guaranteeWords(tables, { ...given, ceiling: 'never' })).toBe(
      'Nobody who has been removed before or is a guest may listen in.',
    )
  })

  it('falls back to ids that no table has', () => {
    expect(guaranteeWords(tables, { ...given, who: ['kraken'], ceiling: 'never' })).toContain(
      'kraken',
    )
  })
})

it('a control is found by its name, its values, its family and what it protects from', () => {
  const text = searchable(chat, 'Chat and reactions')
  for (const words of ['hosts-post', 'hosts post', 'everybody', 'reactions'])
    expect(text).toContain(words)
})
