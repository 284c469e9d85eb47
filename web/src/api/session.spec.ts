// @vitest-environment happy-dom
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it, vi } from 'vitest'
import { sessionEnded } from './client'
import { useSession } from './session'

vi.mock('./client', async (original) => {
  const answer = (email: string) => ({
    data: { email, role: 'warden', provider: false },
    response: { ok: true, status: 200 },
  })
  const api = {
    GET: async () => answer('w@saltmarsh.example'),
    POST: async (_: string, { body }: { body: { email: string } }) => answer(body.email),
  }
  return { ...(await original<object>()), api }
})
const replaced = vi.spyOn(window.location, 'replace').mockImplementation(() => undefined)

beforeEach(() => {
  replaced.mockClear()
  setActivePinia(createPinia())
})

async function ended() {
  const session = useSession()
  await session.load()
  sessionEnded.dispatchEvent(new Event('ended'))
  expect(session.ended).toBe(true)
  return session
}

it('whoever signs in again goes on where they were', async () => {
  const session = await ended()
  await session.signIn('w@saltmarsh.example', 'low-water-0642')
  expect(session.ended).toBe(false)
  expect(replaced).not.toHaveBeenCalled()
})

it('somebody else does not: the page under it stays covered, and all is loaded anew', async () => {
  const session = await ended()
  await session.signIn('h@saltmarsh.example', 'low-water-0642')
  expect(replaced).toHaveBeenCalledWith('/')
  expect(session.ended).toBe(true)
  expect(session.who?.email).toBe('w@saltmarsh.example')
})

it('is covered no more once they have signed in on another page', async () => {
  const session = await ended()
  sessionEnded.dispatchEvent(new Event('back'))
  expect(session.ended).toBe(false)
})
