import { describe, expect, it } from 'vitest'
import type { ControlView } from './schema'
import { within } from './within'

const control = (part: Partial<ControlView>) =>
  ({
    rungs: [],
    neutral: false,
    largerIsStricter: false,
    emptyIsAll: false,
    ...part,
  }) as ControlView
const rung = (word: string) => ({ word, label: word })

describe('within, the static order as the core has it', () => {
  const lobby = control({
    scale: 'words',
    rungs: ['anyone', 'members', 'named', 'hosts'].map(rung),
  })
  const polls = control({ scale: 'words', neutral: true, rungs: ['off', 'on'].map(rung) })
  const early = control({ scale: 'numbers', rungs: [rung('any-time')] })
  const length = control({ scale: 'numbers', largerIsStricter: true })
  const regions = control({ scale: 'sets', emptyIsAll: true })
  const routes = control({ scale: 'sets' })

  it.each([
    [lobby, 'named', 'members', true],
    [lobby, 'members', 'named', false],
    [lobby, 'named', 'named', true],
    [polls, 'on', 'off', false],
    [polls, 'on', 'on', true],
    [early, 'any-time', 10, false],
    [early, 10, 'any-time', true],
    [early, 5, 10, true],
    [early, 15, 10, false],
    [length, 8, 10, false],
    [length, 12, 10, true],
    [regions, [], ['IE'], false],
    [regions, ['IE'], [], true],
    [regions, ['IE'], ['GB', 'IE'], true],
    [regions, ['FR'], ['GB', 'IE'], false],
    [routes, [], ['computer'], true],
    [routes, ['computer', 'phone'], ['computer'], false],
  ])('%# %s within %s is %s', (about, value, limit, kept) => {
    expect(within(about as ControlView, value as never, limit as never)).toBe(kept)
  })
})
