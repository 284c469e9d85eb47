/**
 * A number and what it counts, in the singular or the plural.
 *
 * @param many the plural where it is not the singular and an s
 */
export function counted(n: number, one: string, many = `${one}s`): string {
  return `${n.toLocaleString('en')} ${n === 1 ? one : many}`
}
