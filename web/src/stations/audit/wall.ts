import { t } from '@/wording'
import type { FamilyView, FindingView, GrantedWaiver } from '@/api/schema'

/** A column of the wall. */
export interface Column {
  id: string
  title: string
}

/** The families of controls, then what is no control's: guarantees, and the meeting itself. */
export function columnsOf(families: FamilyView[]): Column[] {
  return [
    ...families.map((f) => ({ id: f.id, title: f.title })),
    { id: 'guarantees', title: t('audit.guarantees') },
    { id: 'meeting', title: t('audit.theMeetingItself') },
  ]
}

/** A step on the wall from a cell, kept inside it. */
export function moved(
  at: { row: number; column: number },
  by: { row?: number; column?: number },
  rows: number,
  columns: number,
): { row: number; column: number } {
  const clamp = (n: number, most: number) => Math.max(0, Math.min(n, most - 1))
  return {
    row: clamp(at.row + (by.row ?? 0), rows),
    column: clamp(at.column + (by.column ?? 0), columns),
  }
}

/** What a finding is about: a control, a guarantee, or nothing narrower than the meeting. */
export function subjectOf(f: FindingView): string {
  return f.control ?? f.guarantee ?? ''
}

/** The name by which a finding is the same in every audit. */
export function identityOf(meeting: string, f: FindingView): string {
  return [meeting, f.occurrence ?? '', f.check, subjectOf(f)].join('|')
}

/** The evening of the next Friday that is at least a day off, as a date-time field has it. */
export function untilFriday(now: Date): string {
  const day = new Date(now)
  do day.setDate(day.getDate() + 1)
  while (day.getDay() !== 5)
  const two = (n: number) => String(n).padStart(2, '0')
  return `${day.getFullYear()}-${two(day.getMonth() + 1)}-${two(day.getDate())}T18:00`
}

/** The waiver that covers a finding: of the finding, of its meeting, or of its rule in a unit. */
export function waiverFor(waivers: GrantedWaiver[], f: FindingView): GrantedWaiver | undefined {
  const subject = subjectOf(f)
  return (
    waivers.find(
      (w) =>
        w.scope === 'finding' &&
        w.check === f.check &&
        w.subject === subject &&
        w.occurrence === (f.occurrence ?? ''),
    ) ??
    waivers.find((w) => w.scope === 'meeting') ??
    waivers.find((w) => w.scope === 'rule' && !!subject && w.subject === subject)
  )
}
