import type { FamilyView } from '@/api/schema'

/** A column of the wall. */
export interface Column {
  id: string
  title: string
  short: string
}

/** The families of controls, then what is no control's: guarantees, and the meeting itself. */
export function columnsOf(families: FamilyView[]): Column[] {
  return [
    ...families.map((f) => ({ id: f.id, title: f.title, short: f.shortTitle })),
    { id: 'guarantees', title: 'Guarantees', short: 'Guar.' },
    { id: 'meeting', title: 'The meeting itself', short: 'Self' },
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
