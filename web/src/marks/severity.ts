import { t } from '@/wording'

/** What severities are called, from 0 to 5. */
export const severities = [
  t('shell.none'),
  t('shell.note'),
  t('shell.minor'),
  t('shell.moderate'),
  t('shell.serious'),
  t('shell.grave'),
]
