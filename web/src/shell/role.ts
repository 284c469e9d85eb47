import { t } from '@/wording'
import { useQueryCache } from '@pinia/colada'
import { onBeforeUnmount, onMounted, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { refused } from '@/api/client'
import { roleName, useSession } from '@/api/session'
import { isStationOf } from './stations'

const every = 60_000

/**
 * A deputy's time begins and ends while a page is open. Who is signed in is asked for each minute,
 * and when something was refused; where the role has changed, so has everything on the page.
 *
 * @returns what to tell of it, empty until then
 */
export function useRoleKept() {
  const session = useSession()
  const cache = useQueryCache()
  const router = useRouter()
  const route = useRoute()
  const told = ref('')
  let timer: ReturnType<typeof setInterval> | undefined
  let asking = false
  const now = () => `${session.who?.role} ${session.who?.unit}`
  async function look() {
    if (asking || document.hidden || !session.who) return
    asking = true
    const before = now()
    try {
      await session.refresh()
    } catch {
      return // the next time
    } finally {
      asking = false
    }
    if (now() === before) return
    const role = session.who?.role ?? ''
    const article = role === 'auditor' ? 'an' : 'a'
    told.value = t('shell.fromNowOnYouSeeWhatArticle', { article, role: roleName(role) })
    if (!isStationOf(role, route.path)) await router.push('/')
    cache.invalidateQueries()
  }
  onMounted(() => {
    timer = setInterval(look, every)
    refused.addEventListener('refused', look)
    document.addEventListener('visibilitychange', look)
  })
  onBeforeUnmount(() => {
    clearInterval(timer)
    refused.removeEventListener('refused', look)
    document.removeEventListener('visibilitychange', look)
  })
  return told
}
