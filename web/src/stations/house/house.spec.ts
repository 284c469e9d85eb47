// @vitest-environment happy-dom
import { flushPromises, type VueWrapper } from '@vue/test-utils'
import { afterEach, describe, expect, it, vi } from 'vitest'
import type { AccountLine, RetentionRule, OwnAccount, TokenLine } from '@/api/schema'
import { useSession } from '@/api/session'
import SecondFactorPart from '@/stations/account/SecondFactorPart.vue'
import WelcomePage from '@/stations/account/WelcomePage.vue'
import { mounted } from '@/testing/mounting'
import AccountsPart from './AccountsPart.vue'
import KeepingPart from './KeepingPart.vue'
import TokensPart from './TokensPart.vue'

const server = vi.hoisted(() => ({
  calls: [] as { what: string; body: unknown }[],
  answers: {} as Record<string, unknown>,
}))
vi.mock('@/api/client', async (original) => {
  const call =
    (method: string) =>
    async (path: string, options: { body?: unknown; params?: unknown } = {}) => {
      if (method !== 'GET') server.calls.push({ what: `${method} ${path}`, body: options.body })
      const data = server.answers[`${method} ${path}`] ?? server.answers[path] ?? {}
      if (data instanceof Error)
        return { error: { detail: data.message }, response: { ok: false, status: 422 } }
      return { data, response: { ok: true } }
    }
  const api = { GET: call('GET'), POST: call('POST'), PUT: call('PUT'), DELETE: call('DELETE') }
  return { ...(await original<object>()), api }
})
afterEach(() => {
  server.calls.length = 0
  server.answers = {}
  document.body.innerHTML = ''
  location.hash = ''
})

const as = (role: string) => {
  useSession().who = { email: 'w@x.example', name: 'W', role } as never
}
const button = (page: VueWrapper, words: string) => {
  const found = page.findAll('button').find((b) => b.text() === words)
  if (!found) throw new Error(`there is no button “${words}”: ${page.text()}`)
  return found
}
const account: AccountLine = {
  email: 'o@x.example',
  name: 'Olga',
  role: 'unit-warden',
  unit: 'pilotage',
  active: true,
  hasPassword: true,
  secondFactor: false,
  signsInElsewhere: false,
  linkUntil: null,
  lastSeen: null,
  sessions: 0,
} as unknown as AccountLine

describe('accounts', () => {
  const answers = {
    '/api/accounts': [account, { ...account, email: 'l@x.example', name: 'Liv', active: false }],
    '/api/accounts/settings': { factorFor: 'nobody' },
    '/api/organisation': {
      units: [{ id: 'pilotage', name: 'Pilotage', parent: null }],
      kinds: [],
    },
  }

  it('are listed with what they may do, by names that people know', async () => {
    server.answers = answers
    const page = mounted(AccountsPart, {})
    as('auditor')
    await flushPromises()
    const rows = page.findAll('tbody tr').map((r) => r.text())
    expect(rows[0]).toContain('unit’s warden of Pilotage')
    expect(rows[0]).toContain('never')
    expect(rows[1]).toContain('let go')
    // an auditor reads; a row's menu leads to the ledger alone
    expect(page.findAll('button:not([data-row-menu])').length).toBe(0)
    expect(page.find('select').attributes('disabled')).toBeDefined()
  })

  it('stand as they were set last, where somebody sets one after the other', async () => {
    server.answers = answers
    const page = mounted(AccountsPart, {})
    as('warden')
    await flushPromises()
    const field = page.get('label select')
    await field.setValue('wardens')
    await field.setValue('everybody')
    await flushPromises()
    expect(server.calls.map((call) => call.body)).toEqual([
      { factorFor: 'wardens' },
      { factorFor: 'everybody' },
    ])
    server.answers = { ...answers, 'PUT /api/accounts/settings': new Error('not now') }
    await field.setValue('wardens')
    await flushPromises()
    expect((field.element as HTMLSelectElement).value).toBe('nobody')
    expect(page.text()).toContain('not now')
  })

  it('are changed by what they were when they were opened', async () => {
    server.answers = answers
    const page = mounted(AccountsPart, {})
    as('warden')
    await flushPromises()
    await button(page, 'Liv').trigger('click')
    await flushPromises()
    document.querySelector('[role=dialog] form')?.dispatchEvent(new Event('submit'))
    await flushPromises()
    expect(server.calls[0]?.body).toMatchObject({
      seen: { role: 'unit-warden', unit: 'pilotage', active: false },
    })
  })

  it('begin with a link that is shown once, for whom it is for', async () => {
    server.answers = {
      ...answers,
      'POST /api/accounts': { token: 'once-only', until: '2026-12-01T10:00:00Z' },
    }
    const page = mounted(AccountsPart, {})
    as('warden')
    await flushPromises()
    await button(page, 'Invite somebody').trigger('click')
    await flushPromises()
    const set = (selector: string, value: string) => {
      const field = document.querySelector<HTMLInputElement>(selector)
      if (!field) throw new Error(`there is no ${selector}`)
      field.value = value
      field.dispatchEvent(new Event('input'))
    }
    set('[role=dialog] form input[type=email]', 'new@x.example')
    set('[role=dialog] form input:not([type])', 'New One')
    document.querySelector('[role=dialog] form')?.dispatchEvent(new Event('submit'))
    await flushPromises()
    expect(server.calls).toEqual([
      {
        what: 'POST /api/accounts',
        body: { email: 'new@x.example', name: 'New One', role: 'host', unit: null },
      },
    ])
    expect(page.text()).toContain('/welcome#token=once-only')
    expect(page.text()).toContain('new@x.example')
    await button(page, 'I have it').trigger('click')
    expect(page.text()).not.toContain('once-only')
  })

  it('say why a change was refused, and keep what was typed', async () => {
    server.answers = {
      ...answers,
      'POST /api/accounts': new Error('There is an account with this address already.'),
    }
    const page = mounted(AccountsPart, {})
    as('warden')
    await flushPromises()
    await button(page, 'Invite somebody').trigger('click')
    await flushPromises()
    const field = document.querySelector<HTMLInputElement>('[role=dialog] form input[type=email]')
    if (!field) throw new Error('there is no field')
    field.value = 'o@x.example'
    field.dispatchEvent(new Event('input'))
    document.querySelector('[role=dialog] form')?.dispatchEvent(new Event('submit'))
    await flushPromises()
    expect(document.body.textContent).toContain('There is an account with this address already.')
    expect(
      document.querySelector<HTMLInputElement>('[role=dialog] form input[type=email]')?.value,
    ).toBe('o@x.example')
  })

  it('let a host stand in for a unit’s warden, and end it', async () => {
    const deputy = {
      email: 'd@x.example',
      name: 'Dana',
      unit: 'pilotage',
      from: '2026-01-01T00:00:00Z',
      until: '2027-06-01T00:00:00Z',
      by: 'w@x.example',
    }
    server.answers = {
      ...answers,
      '/api/deputies': [deputy],
      'DELETE /api/deputies/{email}': [],
    }
    const page = mounted(AccountsPart, {})
    as('warden')
    await flushPromises()
    expect(page.text()).toContain('Dana')
    expect(page.text()).toContain('named by w@x.example')
    await page.find('[aria-label="What can be done with Dana"]').trigger('click')
    await button(page, 'End it').trigger('click')
    await flushPromises()
    expect(server.calls).toEqual([{ what: 'DELETE /api/deputies/{email}', body: undefined }])
    expect(page.text()).toContain('Nobody stands in for anybody.')
  })
})

describe('access tokens', () => {
  const token: TokenLine = {
    id: 3,
    purpose: 'Nightly export',
    role: 'auditor',
    actsAs: 'w@x.example',
    issuedBy: 'w@x.example',
    issuedAt: '2026-11-01T10:00:00Z',
    expiresAt: '2099-01-01T10:00:00Z',
    lastUsed: null,
    endedAt: null,
    endedBy: null,
  }

  it('are shown once, and ask whom a host’s acts as', async () => {
    server.answers = {
      '/api/tokens': [token, { ...token, id: 4, expiresAt: '2026-01-01T10:00:00Z' }],
      'POST /api/tokens': { token: 'wt-secret', expiresAt: '2026-12-25T10:00:00Z' },
    }
    const page = mounted(TokensPart, {})
    as('warden')
    await flushPromises()
    const rows = page.findAll('tbody tr').map((r) => r.text())
    expect(rows[0]).toContain('never')
    expect(rows[0]).toContain('End it')
    expect(rows[1]).toContain('over')
    expect(page.find('input[type=email]').exists()).toBe(false)
    await page.find('select').setValue('host')
    await page.find('input[type=email]').setValue('h@x.example')
    await page.find('input').setValue('Room display')
    await page.find('form').trigger('submit')
    await flushPromises()
    expect(server.calls[0]).toEqual({
      what: 'POST /api/tokens',
      body: { purpose: 'Room display', role: 'host', actsAs: 'h@x.example', minutes: 43200 },
    })
    expect(page.text()).toContain('wt-secret')
  })

  it('are read only by an auditor', async () => {
    server.answers = { '/api/tokens': [token] }
    const page = mounted(TokensPart, {})
    as('auditor')
    await flushPromises()
    expect(page.find('input[required]').exists()).toBe(false)
    expect(page.text()).not.toContain('Issue a token')
    await page.find('[data-row-menu]').trigger('click')
    expect(page.text()).toContain('What was done with it')
    expect(page.text()).not.toContain('End it')
  })
})

describe('keeping', () => {
  const rule = { what: 'audits', days: 730, ranAt: null, forgot: 12 } as unknown as RetentionRule

  it('takes days, and an empty field for ever', async () => {
    server.answers = { '/api/keeping': [rule] }
    const page = mounted(KeepingPart, {})
    as('warden')
    await flushPromises()
    const field = page.find('input')
    await field.setValue('90')
    await field.trigger('change')
    await field.trigger('blur')
    await flushPromises()
    expect(server.calls, 'leaving the field lets go of nothing').toEqual([])
    expect(page.text()).toContain('goes within the hour, for good')
    await button(page, 'Let go of the older').trigger('click')
    await flushPromises()
    expect(page.text()).toContain('Audits: kept for 90 days from now on.')
    await field.setValue('')
    await button(page, 'Keep so').trigger('click')
    await flushPromises()
    const bodies = server.calls.map((c) => c.body)
    expect(bodies).toContainEqual({ days: 90 })
    expect(bodies).toContainEqual({ days: null })
    expect(page.text()).toContain('not yet')
  })

  it('says what is wrong and shows what holds', async () => {
    server.answers = {
      '/api/keeping': [rule],
      'PUT /api/keeping/{what}': new Error('Days are between 1 and 36500.'),
    }
    const page = mounted(KeepingPart, {})
    as('warden')
    await flushPromises()
    await page.find('input').setValue('0')
    expect(page.text()).toContain('1 to 36,500 days')
    await page.find('input').setValue('800')
    await button(page, 'Keep so').trigger('click')
    await flushPromises()
    expect(page.text()).toContain('Days are between 1 and 36500.')
    await button(page, 'as it was').trigger('click')
    expect((page.find('input').element as HTMLInputElement).value).toBe('730')
  })
})

describe('a second factor', () => {
  const own = {
    secondFactorSince: null,
    secondFactorNeeded: false,
    recoveryCodesLeft: 0,
  } as unknown as OwnAccount

  it('is set up with the password first, then with its first code', async () => {
    server.answers = {
      'POST /api/account/second-factor': {
        secret: 'JBSWY3DPEHPK3PXP',
        address: 'otpauth://totp/x?secret=JBSWY3DPEHPK3PXP',
      },
      'PUT /api/account/second-factor': { recoveryTokens: ['kelp-1', 'kelp-2'] },
    }
    const page = mounted(SecondFactorPart, { account: own })
    await page.find('input').setValue('low water')
    await page.find('form').trigger('submit')
    await flushPromises()
    expect(page.text()).toContain('JBSW Y3DP EHPK 3PXP')
    expect(page.find('input').attributes('autocomplete')).toBe('one-time-code')
    await page.find('input').setValue('123456')
    await page.find('form').trigger('submit')
    await flushPromises()
    expect(server.calls.map((c) => c.body)).toEqual([{ current: 'low water' }, { code: '123456' }])
    expect(page.text()).toContain('kelp-1')
    expect(page.emitted('changed')).toHaveLength(1)
    await button(page, 'I have them').trigger('click')
    expect(page.text()).not.toContain('kelp-1')
  })

  it('cannot be done without where it is demanded', () => {
    const on = { ...own, secondFactorSince: '2026-11-01T10:00:00Z', recoveryCodesLeft: 2 }
    const page = mounted(SecondFactorPart, { account: { ...on, secondFactorNeeded: true } })
    expect(page.text()).toContain('2 recovery codes are left.')
    expect(page.text()).not.toContain('Turn it off')
  })

  it('is turned off with the password and a code, not with the password alone', async () => {
    const on = { ...own, secondFactorSince: '2026-11-01T10:00:00Z', recoveryCodesLeft: 8 }
    server.answers = { 'POST /api/account/second-factor/end': null }
    const page = mounted(SecondFactorPart, { account: on })
    const fields = page.findAll('input')
    await fields[0]?.setValue('low water')
    expect(button(page, 'Turn it off').attributes('disabled')).toBeDefined()
    await fields[1]?.setValue('123456')
    await button(page, 'Turn it off').trigger('click')
    await flushPromises()
    expect(server.calls.at(-1)?.body).toEqual({ current: 'low water', code: '123456' })
    expect(page.emitted('changed')).toHaveLength(1)
  })
})

describe('the page an invitation leads to', () => {
  it('wants the password twice and sends it with the token', async () => {
    location.hash = '#token=abc'
    server.answers = { 'POST /api/welcome/look': { name: 'Olga', email: 'o@x.example' } }
    const page = mounted(WelcomePage, {})
    await flushPromises()
    expect(page.text()).toContain('Olga')
    const [first, second] = page.findAll('input[type=password]')
    await first?.setValue('gannet ferry umbrella')
    await second?.setValue('gannet ferry')
    await page.find('form').trigger('submit')
    await flushPromises()
    expect(page.text()).toContain('The two are not the same.')
    expect(server.calls.some((c) => c.what === 'POST /api/welcome')).toBe(false)
    await second?.setValue('gannet ferry umbrella')
    await page.find('form').trigger('submit')
    await flushPromises()
    expect(server.calls.at(-1)).toEqual({
      what: 'POST /api/welcome',
      body: { token: 'abc', password: 'gannet ferry umbrella' },
    })
    expect(page.text()).toContain('Your password is set.')
  })

  it('says so where the link is no longer good', async () => {
    server.answers = { 'POST /api/welcome/look': new Error('This link is over.') }
    const page = mounted(WelcomePage, {})
    await flushPromises()
    expect(page.text()).toContain('This link is over.')
    expect(page.find('input').exists()).toBe(false)
  })
})
