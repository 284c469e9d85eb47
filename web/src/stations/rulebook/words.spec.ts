import { describe, expect, it } from 'vitest'
import type { ControlView } from '@/api/schema'
import { guaranteeWords, ruleWords } from './words'
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
      'suggest: always',
    )
    expect(
      ruleWords(chat, {
        control: 'chat',
        mode: 'bound',
        start: 'hosts-post',
        limit: 'always',
        sealed: true,
      }),
    ).toBe('bound: start hosts post, limit always, sealed')
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
