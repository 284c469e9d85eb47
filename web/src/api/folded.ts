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
  ς: 'σ',
}

/** Accents, and the points of Hebrew, Arabic and Japanese; vowels that are marks stay. */
const MARKS =
  /[\u0300-\u036f\u0591-\u05bd\u05bf-\u05c7\u0610-\u061a\u064b-\u065f\u0670\u1ab0-\u1aff\u1dc0-\u1dff\u3099\u309a]/g

/** How far katakana stand behind hiragana. */
const SYLLABARY = 0x60

/** A text as it is looked for: in one case and without accents, as the server's lists have it. */
export const folded = (text: string): string =>
  text
    .normalize('NFKD')
    .replace(MARKS, '')
    .toLowerCase()
    .replace(/[ßæœøłđħıς]/g, (letter) => LETTERS[letter] ?? letter)
    .replace(/[ァ-ヶ]/g, (sign) => String.fromCharCode(sign.charCodeAt(0) - SYLLABARY))
