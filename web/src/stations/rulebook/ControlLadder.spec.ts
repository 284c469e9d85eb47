// @vitest-environment happy-dom
import { describe, expect, it } from 'vitest'
import { control, mounted } from '@/testing/mounting'
import type { Rule } from './book'
import ControlLadder from './ControlLadder.vue'
import { rungsOf } from './rungs'

const lobby = control('lobby-bypass')
const bound: Rule = { control: 'lobby-bypass', mode: 'bound', start: 'named', limit: 'members' }

function ladder(rule: Rule | undefined, more: Record<string, unknown> = {}) {
  return mounted(ControlLadder, {
    control: lobby,
    rule,
    rungs: rungsOf(lobby, rule, { named: 7, anyone: 1 }),
    total: 8,
    editable: true,
    ...more,
  })
}
const handle = (wrapper: ReturnType<typeof ladder>, which: string) =>
  wrapper.find(`[role=slider][aria-label="Lobby bypass, ${which}"]`)

describe('a ladder', () => {
  it('moves peg and bar by arrow keys, and not past its ends', async () => {
    const wrapper = ladder(bound)
    await handle(wrapper, 'limit').trigger('keydown', { key: 'ArrowRight' })
    await handle(wrapper, 'default').trigger('keydown', { key: 'ArrowRight' })
    expect(wrapper.emitted()).toMatchObject({ limit: [['named']], start: [['hosts']] })
    const atEnd = ladder({ ...bound, start: 'hosts' })
    await handle(atEnd, 'default').trigger('keydown', { key: 'ArrowRight' })
    expect(atEnd.emitted('start')).toBeUndefined()
  })

  it('says where peg and bar stand', () => {
    const wrapper = ladder(bound)
    expect(handle(wrapper, 'default').attributes('aria-valuetext')).toBe('by name')
    expect(handle(wrapper, 'limit').attributes('aria-valuenow')).toBe('1')
  })

  it('draws how many stand where, and hatches what is too loose', () => {
    const wrapper = ladder(bound)
    expect(wrapper.findAll('.count').map((c) => c.text())).toEqual(['1', '7'])
    expect(wrapper.find('rect[fill^="url("]').exists()).toBe(true)
    const loose = wrapper.findAll('.rung').filter((r) => r.attributes('fill') === 'var(--rust)')
    expect(loose.map((r) => r.text().split('anyone:')[0]?.trim())).toEqual(['anyone'])
  })

  it('has one handle for a fix and none without a rule', () => {
    const fix = ladder({ control: 'lobby-bypass', mode: 'fix', value: 'hosts', sealed: true })
    expect(fix.findAll('[role=slider]').map((s) => s.attributes('aria-label'))).toEqual([
      'Lobby bypass, fixed value',
    ])
    expect(fix.find('[aria-label=sealed]').exists()).toBe(true)
    expect(ladder(undefined).findAll('[role=slider]')).toHaveLength(0)
  })

  it('cannot be moved where it is only shown or comes from above', () => {
    for (const more of [{ editable: false }, { ghost: true }])
      expect(handle(ladder(bound, more), 'default').attributes('tabindex')).toBeUndefined()
  })
})
