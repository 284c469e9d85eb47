/** Letters that no accent makes, as people who have no key for them type them; common practice. */
const LETTERS: Record<string, string> = {
  ß: 'ss',
  æ: 'ae',
  œ: 'oe',
  ø: 'o',
  ł: 'l',
  đ: 'd',
  ħ: 'h',
  ı: 'i',
}

/** A text as it is looked for: in one case and without accents, as the server's lists have it. */
export const folded = (text: string): string =>
  text
    .normalize('NFKD')
    .replace(/[\u0300-\u036f]/g, '')
    .toLowerCase()
    .replace(/[ßæœøłđħı]/g, (letter) => LETTERS[letter] ?? letter)
