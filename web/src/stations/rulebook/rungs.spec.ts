import { describe, expect, it } from 'vitest'
import type { ControlView } from '@/api/schema'
import type { Rule } from './book'
import { inMode, limitOf, rungsOf, startOf, withMeans } from './rungs'

const base = { neutral: false, largerIsStricter: false, emptyIsAll: false, universe: null }
const lobby = {
  ...base,
  id: 'lobby-bypass',
  scale: 'words',
  rungs: ['anyone', 'named', 'hosts'].map((word) => ({ word, label: word })),
} as ControlView
const early = {
  ...base,
  id: 'early-entry',
  scale: 'numbers',
  unit: 'minutes',
  zero: 'after a host',
  rungs: [{ word: 'any-time', label: 'any time' }],
} as ControlView
const regions = {
  ...base,
  id: 'regions',
  scale: 'sets',
  emptyIsAll: true,
  rungs: [] as ControlView['rungs'],
} as ControlView

describe('withMeans', () => {
  const rungs = rungsOf(lobby, undefined, {})
  it('says beside each rung which services cannot hold it', () => {
    const services = [
      { name: 'Redshank', means: { 'lobby-bypass': {} } },
      { name: 'Curlew', means: { 'lobby-bypass': { values: ['anyone', 'hosts'] } } },
      { name: 'Dunlin', means: {} },
    ]
    expect(withMeans('lobby-bypass', rungs, services).map((r) => r.notIn)).toEqual([
      ['Dunlin'],
      ['Curlew', 'Dunlin'],
      ['Dunlin'],
    ])
    expect(withMeans('lobby-bypass', rungs, [])).toBe(rungs)
  })
})

describe('rungsOf', () => {
  it('gives words in order with their counts', () => {
    expect(rungsOf(lobby, undefined, { named: 7 }).map((r) => [r.value, r.count])).toEqual([
      ['anyone', 0],
      ['named', 7],
      ['hosts', 0],
    ])
  })

  it('gives the usual minutes and every one that a rule or a series has, loosest first', () => {
    const rule: Rule = { control: 'early-entry', mode: 'bound', start: 0, limit: 12 }
    const rungs = rungsOf(early, rule, { '45': 2, 'any-time': 1 })
    expect(rungs.map((r) => r.value)).toEqual(['any-time', 60, 45, 30, 15, 12, 10, 5, 0])
    expect(rungs.map((r) => r.label)).toContain('after a host')
    expect(rungs[0]?.count).toBe(1)
    expect(rungs[2]?.count).toBe(2)
  })

  it('gives the sets there are, the widest first, all before the rest', () => {
    const rule: Rule = { control: 'regions', mode: 'bound', start: ['IE'], limit: ['GB', 'IE'] }
    const rungs = rungsOf(regions, rule, { '': 3, 'FR,GB,IE': 1, '?': 9 })
    expect(rungs.map((r) => r.value)).toEqual([[], ['FR', 'GB', 'IE'], ['GB', 'IE'], ['IE']])
    expect(rungs[0]).toMatchObject({ label: 'all', count: 3 })
  })
})

describe('a rule changes its mode', () => {
  const bound: Rule = {
    control: 'lobby-bypass',
    mode: 'bound',
    start: 'hosts',
    limit: 'named',
    sealed: true,
    importance: 3,
    reason: 'why',
  }

  it('carries over what the new mode can hold', () => {
    expect(inMode(bound, lobby, 'fix')).toEqual({
      control: 'lobby-bypass',
      mode: 'fix',
      value: 'hosts',
      sealed: true,
      importance: 3,
      reason: 'why',
    })
  })

  it('drops the seal and the limit of a suggestion, which may have neither', () => {
    expect(inMode(bound, lobby, 'suggest')).toEqual({
      control: 'lobby-bypass',
      mode: 'suggest',
      start: 'hosts',
      importance: 3,
      reason: 'why',
    })
  })

  it('begins strict where there was no rule', () => {
    expect(inMode(undefined, lobby, 'bound')).toMatchObject({ start: 'hosts', limit: 'hosts' })
    expect(inMode(undefined, early, 'fix')).toMatchObject({ value: 0 })
  })

  it('knows start and limit of each mode', () => {
    expect([startOf(bound), limitOf(bound)]).toEqual(['hosts', 'named'])
    const fix: Rule = { control: 'x', mode: 'fix', value: 'a' }
    expect([startOf(fix), limitOf(fix)]).toEqual(['a', 'a'])
    const suggest: Rule = { control: 'x', mode: 'suggest', start: 'a' }
    expect([startOf(suggest), limitOf(suggest)]).toEqual(['a', undefined])
    expect([startOf(undefined), limitOf(undefined)]).toEqual([undefined, undefined])
  })
})
