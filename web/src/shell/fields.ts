import { t } from '@/wording'
import en from '@/wording/en'

/** What people call a field of what is sent; null for one that no form has. */
export const fieldWord = (name: string): string | null =>
  Object.hasOwn(en.field, name) ? t(`field.${name as keyof typeof en.field}`) : null
