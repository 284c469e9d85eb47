import { t } from '@/wording'
/** The weights of alerts, as they are chosen from. */
export const severities = [
  { value: 1, name: t('house.everyOne') },
  { value: 2, name: t('house.minor') },
  { value: 3, name: t('house.moderate') },
  { value: 4, name: t('house.serious') },
  { value: 5, name: t('house.graveAlone') },
]
