import { describe, expect, it } from 'vitest'
import { label, layerName } from './catalogue'
import type { ControlView } from './schema'

const early = {
  unit: 'minutes',
  zero: 'after a host',
  rungs: [{ word: 'any-time', label: 'any time' }],
} as ControlView
const regions = { emptyIsAll: true, rungs: [] as ControlView['rungs'] } as ControlView
const routes = { emptyIsAll: false, rungs: [] as ControlView['rungs'] } as ControlView

describe('label', () => {
  it.each([
    [early, 'any-time', 'any time'],
    [early, 0, 'after a host'],
    [early, 15, '15 minutes'],
    [early, null, 'not known'],
    [early, undefined, 'not known'],
    [regions, [], 'all'],
    [regions, ['GB', 'IE'], 'GB, IE'],
    [routes, [], 'none'],
    [undefined, 'whatever', 'whatever'],
  ])('%# %s reads “%s”', (control, value, words) => {
    expect(label(control, value)).toBe(words)
  })
})

describe('layerName', () => {
  const unit = (id?: string) => (id === 'pilotage' ? 'Pilotage' : '')
  const kind = (id?: string) => (id === 'hearing' ? 'Public hearing' : '')

  it('names organisation, units and kinds, and falls back on the id', () => {
    expect(layerName({ level: 'organisation' }, unit, kind)).toBe('Organisation')
    expect(layerName({ level: 'unit', id: 'pilotage' }, unit, kind)).toBe('Pilotage')
    expect(layerName({ level: 'kind', id: 'hearing' }, unit, kind)).toBe('Public hearing')
    expect(layerName({ level: 'unit', id: 'gone' }, unit, kind)).toBe('gone')
  })
})
