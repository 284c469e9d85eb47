import { t } from '@/wording'
import type { LocationQuery, LocationQueryRaw } from 'vue-router'

/** How a page that is gone to after a meeting was saved is told so, in its address. */
export function savedQuery(saved: { sent: number; madeBy?: string | null }): LocationQueryRaw {
  return { saved: String(saved.sent), by: saved.madeBy ?? undefined }
}

/** What was saved, and who is written to; empty where the address tells of nothing. */
export function savedWords(query: LocationQuery): string {
  const sent = String(query.saved ?? '')
  if (!sent) return ''
  const by = String(query.by ?? '')
  if (by)
    return sent === '0'
      ? t('register.savedByMakesTheMeetingNowNobody', { by })
      : t('register.savedOnceByHasMadeTheMeeting', {
          by,
          sent,
          x: sent === '1' ? t('register.is') : t('register.are'),
        })
  return sent === '0'
    ? t('register.savedNobodyWasWrittenTo')
    : t('register.savedAndSentToSent', { sent })
}
