type Texts = { [name: string]: string | Texts }

/**
 * A catalogue made strange: each text stands in ⟦ ⟧, so that what is on a page outside of them came
 * from no catalogue. Forms and places stay as they are.
 */
export function pseudo<T extends Texts>(texts: T): T {
  return Object.fromEntries(
    Object.entries(texts).map(([name, text]) => [
      name,
      typeof text === 'string'
        ? text
            .split(/( \| )/)
            .map((form) => (form === ' | ' ? form : `⟦${form}⟧`))
            .join('')
        : pseudo(text),
    ]),
  ) as T
}
