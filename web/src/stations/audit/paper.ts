/** Where paper is Letter rather than A4 (ISO 216): common practice, from memory. */
const LETTER = new Set(['US', 'CA', 'MX', 'CL', 'CO', 'VE', 'PH', 'GT', 'CR', 'PA'])

/** The paper of the country that the browser is set to. */
export function usualPaper(language = navigator.language): 'a4' | 'letter' {
  return LETTER.has(new Intl.Locale(language).region ?? '') ? 'letter' : 'a4'
}
