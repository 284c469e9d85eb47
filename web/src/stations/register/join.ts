const before = 12 * 3_600_000

/** Whether a meeting may be started now: from twelve hours before its next date. */
export function mayStart(next: string | null | undefined, now: number): boolean {
  return !!next && new Date(next).getTime() - now <= before
}
