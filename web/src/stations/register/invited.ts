import { locale, t } from '@/wording'
import { allOf } from '@/shell/counted'
import type { Overview } from '@/api/schema'

/** What somebody is named for, in words: "interpreter (Irish)". */
export function taskText(task: string, language?: string | null): string {
  if (!language) return task
  return `${task} (${new Intl.DisplayNames(locale, { type: 'language' }).of(language) ?? language})`
}

/** What a list or a space is called; one that is gone is said to be. */
export function nameOf(all: { id: string; name: string }[] | undefined, id: string): string {
  return all?.find((one) => one.id === id)?.name ?? t('register.oneThatIsGone')
}

/** A breakout group with who is in it: "North (3)", "South (the list Night crew)". */
export function groupText(
  group: { name: string; members: string[]; list?: string | null },
  organisation: Overview | undefined,
): string {
  const parts = [
    ...(group.members.length || !group.list ? [String(group.members.length)] : []),
    ...(group.list
      ? [t('register.theListLists', { lists: nameOf(organisation?.lists, group.list) })]
      : []),
  ]
  return `${group.name} (${allOf(parts)})`
}

/** How long guessing a passcode takes, an estimate. */
export function guessingText(minutes: number, triesAMinute: number): string {
  const days = minutes / 1440
  const time =
    days < 1
      ? t('register.lessThanADay')
      : days > 36_500
        ? t('register.moreThanACentury')
        : t('register.toLocaleStringDays', {
            toLocaleString: Math.round(days).toLocaleString(locale),
          })
  return t('register.timeToGuessAtTriesAMinuteTriesA', { time, triesAMinute })
}
