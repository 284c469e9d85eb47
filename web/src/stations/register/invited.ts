import type { Overview } from '@/api/schema'

/** What somebody is named for, in words: "interpreter (Irish)". */
export function taskText(task: string, language?: string | null): string {
  if (!language) return task
  return `${task} (${new Intl.DisplayNames('en-GB', { type: 'language' }).of(language) ?? language})`
}

/** What a list or a space is called; one that is gone is said to be. */
export function nameOf(all: { id: string; name: string }[] | undefined, id: string): string {
  return all?.find((one) => one.id === id)?.name ?? 'one that is gone'
}

/** A breakout group with who is in it: "North (3)", "South (the list Night crew)". */
export function groupText(
  group: { name: string; members: string[]; list?: string | null },
  organisation: Overview | undefined,
): string {
  const parts = [
    ...(group.members.length || !group.list ? [String(group.members.length)] : []),
    ...(group.list ? [`the list ${nameOf(organisation?.lists, group.list)}`] : []),
  ]
  return `${group.name} (${parts.join(' and ')})`
}

/** How long guessing a passcode takes, an estimate. */
export function guessingText(minutes: number, triesAMinute: number): string {
  const days = minutes / 1440
  const time =
    days < 1
      ? 'less than a day'
      : days > 36_500
        ? 'more than a century'
        : `${Math.round(days).toLocaleString('en-GB')} days`
  return `${time} to guess at ${triesAMinute} tries a minute, an estimate`
}
