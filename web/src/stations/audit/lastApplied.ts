import { useSessionStorage } from '@vueuse/core'
import { computed } from 'vue'
import { useSession } from '@/api/session'

interface Applied {
  job: number
  /** the one meeting that it changed, or null for several */
  meeting: string | null
  by: string
}

const none: Applied = { job: 0, meeting: null, by: '' }
const kept = useSessionStorage<Applied>('warden-last-applied', none)

/**
 * What was applied last in this window by who is signed in: it can be undone wherever one has moved
 * on to since, and after the page was loaded again.
 */
export function useLastApplied() {
  const session = useSession()
  const last = computed(() =>
    kept.value.job && kept.value.by === session.who?.email ? kept.value : null,
  )
  return {
    last,
    applied: (job: number, meeting: string | null) =>
      (kept.value = { job, meeting, by: session.who?.email ?? '' }),
    putAway: () => (kept.value = none),
  }
}
