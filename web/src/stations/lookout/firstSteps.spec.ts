import { describe, expect, it } from 'vitest'
import { stepsOf } from './firstSteps'

const empty = { domains: 0, people: 0, meetings: 0, edition: false, audited: false }
const next = (house: object) =>
  stepsOf({ ...empty, ...house }).find((step) => !step.done)?.id ?? 'none'

describe('the first steps', () => {
  it('begin with who one is and end with an audit', () => {
    expect(next({})).toBe('house')
    expect(next({ domains: 1 })).toBe('people')
    expect(next({ domains: 1, people: 1 })).toBe('people') // oneself
    expect(next({ domains: 1, people: 2 })).toBe('meetings')
    expect(next({ domains: 1, people: 2, meetings: 1 })).toBe('rulebook')
    expect(next({ domains: 1, people: 2, meetings: 1, edition: true })).toBe('audit')
    expect(next({ domains: 1, people: 2, meetings: 1, edition: true, audited: true })).toBe('none')
  })

  it('may be walked in another order', () => {
    const steps = stepsOf({ ...empty, edition: true })
    expect(steps.filter((step) => step.done).map((step) => step.id)).toEqual(['rulebook'])
    for (const step of steps) expect(step.ways.length, step.id).toBeGreaterThan(0)
  })
})
