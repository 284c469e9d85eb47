import { t } from '@/wording'
import { belongsTo } from './keptPages'
import { speak } from '@/wording/language'
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { api, sessionEnded, take } from './client'
import type { Session } from './schema'

/** What a role is called. */
export const roleName = (role: string) => roles[role] ?? role
const roles: Record<string, string> = {
  warden: t('shell.warden'),
  'unit-warden': t('shell.unitsWarden'),
  auditor: t('shell.auditor'),
  host: t('shell.host'),
  directory: t('shell.directoryRole'),
}

/** Who is signed in. */
export const useSession = defineStore('session', () => {
  const who = ref<Session | null>(null)
  const asked = ref(false)
  /** Whether one can sign in at the organisation's own provider. */
  const hasProvider = ref(false)
  /** The session ended while a page was open: sign in over it. */
  const ended = ref(false)

  sessionEnded.addEventListener('ended', () => {
    if (who.value) ended.value = true
  })
  // they signed in again on another page
  sessionEnded.addEventListener('back', () => (ended.value = false))

  async function load() {
    const session = await take(api.GET('/api/session'))
    who.value = session.email ? session : null
    belongsTo(session.email ?? '')
    spoken(session)
    hasProvider.value = session.provider
    asked.value = true
  }

  /** Asks once more, for what has changed while a page was open. */
  async function refresh() {
    const session = await take(api.GET('/api/session'))
    if (session.email && session.email === who.value?.email) who.value = session
  }

  /**
   * @param before is told who it is before the pages are
   * @throws Problem where it is refused
   */
  async function signIn(
    email: string,
    password: string,
    code?: string,
    before?: (who: Session) => void,
  ) {
    // brings the cookie that the next call must answer with
    if (!document.cookie.includes('XSRF-TOKEN=')) await take(api.GET('/api/session'))
    const now = await take(
      api.POST('/api/session', { body: { email, password, code: code ?? null } }),
    )
    if (ended.value && now.email !== who.value?.email) {
      // nothing of the page under this is theirs; what was typed there is kept for who typed it
      location.replace('/')
      return
    }
    if (before) {
      before(now)
      // what was begun goes out first: to draw the pages takes a while
      await new Promise((go) => setTimeout(go))
    }
    who.value = now
    belongsTo(now.email ?? '')
    // over a page that is open: nothing of it is lost for a language
    if (!ended.value) spoken(who.value)
    ended.value = false
  }

  /** A language that was chosen on another machine counts here too. */
  function spoken(session: Session | null) {
    if (session?.language) speak(session.language)
  }

  async function signOut() {
    await take(api.DELETE('/api/session'))
    belongsTo('')
    who.value = null
  }

  return {
    who,
    asked,
    hasProvider,
    ended,
    load,
    refresh,
    signIn,
    signOut,
    isWarden: computed(() => who.value?.role === 'warden'),
    isUnitWarden: computed(() => who.value?.role === 'unit-warden'),
    /** Of a unit’s warden: in that unit. */
    mayDraft: computed(() => ['warden', 'unit-warden'].includes(who.value?.role ?? '')),
    mayAudit: computed(() => ['warden', 'unit-warden'].includes(who.value?.role ?? '')),
    /** Mends, asks, waives and runs sessions; a unit’s warden in that unit. */
    mayMend: computed(() => ['warden', 'unit-warden'].includes(who.value?.role ?? '')),
    isAuditor: computed(() => who.value?.role === 'auditor'),
    /** Looks after the whole organisation, or looks at it. */
    seesAll: computed(() => ['warden', 'auditor'].includes(who.value?.role ?? '')),
    /** Has meetings of their own to schedule; a unit’s warden is a host as well. */
    maySchedule: computed(() => ['warden', 'unit-warden', 'host'].includes(who.value?.role ?? '')),
    isHost: computed(() => who.value?.role === 'host'),
  }
})
