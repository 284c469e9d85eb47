// @vitest-environment happy-dom
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it } from 'vitest'
import { useSession } from '@/api/session'
import { useLastApplied } from './lastApplied'

describe('what was applied last', () => {
  beforeEach(() => setActivePinia(createPinia()))
  const signIn = (email: string) => {
    const session = useSession()
    session.who = { email, name: '', role: 'warden' } as NonNullable<typeof session.who>
  }

  it('stays while one moves on, for who did it, until it is put away', () => {
    signIn('a@x.example')
    const { last, applied, putAway } = useLastApplied()
    expect(last.value).toBeNull()
    applied(7, 'm-1')
    expect(useLastApplied().last.value).toMatchObject({ job: 7, meeting: 'm-1' })
    signIn('b@x.example')
    expect(useLastApplied().last.value).toBeNull()
    signIn('a@x.example')
    applied(8, null)
    expect(last.value?.job).toBe(8)
    putAway()
    expect(last.value).toBeNull()
  })
})
