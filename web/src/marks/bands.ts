import { t } from '@/wording'

const names: Record<string, string> = {
  shut: t('shell.shut'),
  guarded: t('shell.guarded'),
  ajar: t('shell.ajar'),
  open: t('shell.open'),
}

/** What a band of exposure is called; by its score in points where it is not known. */
export function bandName(band: string | undefined, score = 0): string {
  const of = band ?? (score < 10 ? 'shut' : score < 25 ? 'guarded' : score < 50 ? 'ajar' : 'open')
  return names[of] ?? of
}
