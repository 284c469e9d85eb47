// @vitest-environment happy-dom
import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { Router } from 'vue-router'
import { router as pages } from '@/router'
import { commandsFor, isCalled } from './commands'

const push = vi.fn()
const acts = { keys: vi.fn(), theme: vi.fn(), signOut: vi.fn() }
const all = (role: string) => commandsFor(role, { push } as unknown as Router, acts)
const find = (role: string, wanted: string) =>
  all(role).filter((command) => isCalled(command, wanted))

describe('the command field', () => {
  beforeEach(() => vi.clearAllMocks())

  it.each([
    ['import', '/register?import=1'],
    ['publish', '/rulebook?publish=1'],
    ['log', '/account'],
    ['password', '/account'],
    ['scim', '/house/directory'],
    ['exception', '/audit/waivers'],
  ])('finds what %s means', (wanted, to) => {
    find('warden', wanted).forEach((command) => command.go())
    if (wanted === 'log') expect(acts.signOut).toHaveBeenCalledOnce()
    else expect(push).toHaveBeenCalledWith(to)
  })

  it('signs out and changes the theme by their plain names', () => {
    expect(find('host', 'sign out').map((c) => c.name)).toEqual(['Sign out'])
    expect(find('host', 'theme').map((c) => c.name)).toEqual(['Change the theme'])
    expect(find('host', 'dark').map((c) => c.name)).toEqual(['Change the theme'])
  })

  it('offers nobody what is not theirs', () => {
    expect(find('host', 'import')).toEqual([])
    expect(find('host', 'waivers')).toEqual([])
    expect(find('auditor', 'schedule')).toEqual([])
    expect(find('unit-warden', 'conference')).toEqual([])
    expect(find('unit-warden', 'waivers')).toHaveLength(1)
  })

  it('leads to pages that there are, each by one name', () => {
    const names = all('warden').map((command) => command.name)
    expect(new Set(names).size).toBe(names.length)
    all('warden').forEach((command) => command.go())
    for (const [to] of push.mock.calls) {
      const page = pages.resolve(to as string).matched[0]?.path ?? ''
      expect(page, String(to)).not.toContain('rest')
    }
  })
})
