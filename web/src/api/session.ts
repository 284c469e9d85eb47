import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { api, sessionEnded, take } from './client'
import type { Session } from './schema'

/** Who is signed in. */
export const useSession = defineStore('session', () => {
  const who = ref<Session | null>(null)
  const asked = ref(false)
  /** The session ended while a page was open: sign in over it. */
  const ended = ref(false)

  sessionEnded.addEventListener('ended', () => {
    if (who.value) ended.value = true
  })

  async function load() {
    const session = await take(api.GET('/api/session'))
    who.value = session.email ? session : null
    asked.value = true
  }

  async function signIn(email: string, password: string) {
    await take(api.GET('/api/session')) // brings the cookie that the next call must answer with
    who.value = await take(api.POST('/api/session', { body: { email, password } }))
    ended.value = false
  }

  async function signOut() {
    await take(api.DELETE('/api/session'))
    who.value = null
  }

  return {
    who,
    asked,
    ended,
    load,
    signIn,
    signOut,
    isWarden: computed(() => who.value?.role === 'warden'),
    isAuditor: computed(() => who.value?.role === 'auditor'),
    isHost: computed(() => who.value?.role === 'host'),
  }
})
