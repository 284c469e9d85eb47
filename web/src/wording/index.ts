import { toDisplayString } from 'vue'
import { createI18n } from 'vue-i18n'
import { chosen, type Language } from './language'
import en from './en'

/**
 * The texts of the pages. Each language is one catalogue, a file a station; a text is found by
 * station and name. What the language is stands fixed before anything else is read: whoever
 * chooses another one loads the page again, so that words held by modules are of it too.
 */
export const language: Language = chosen()

/** The tag by which dates, numbers and names of languages are written. */
export const locale = { en: 'en-GB', de: 'de-DE', pseudo: 'en-GB' }[language]

const messages: { en: typeof en } & Record<string, typeof en> = { en, ...(await another()) }
const texts = (messages[language] ?? en) as Record<string, Record<string, string>>

const i18n = createI18n({
  legacy: false,
  locale: language,
  fallbackLocale: 'en',
  // a name that is missing fails a test; whoever meets one sees the English text
  missingWarn: false,
  fallbackWarn: false,
  messages,
})

async function another(): Promise<Record<string, typeof en>> {
  if (language === 'de') return { de: (await import('./de')).default }
  if (language === 'pseudo') return { pseudo: (await import('./pseudo')).pseudo(en) }
  return {}
}

/** Whether a text has no forms, no links to others and no places but named ones. */
export const isSimple = (text: string) => !/[@|{}\\]/.test(text.replace(PLACES, ''))
const PLACES = /\{(\w*[a-zA-Z]\w*)\}/g

function filled(text: string, values: Record<string, unknown>): string {
  return text.replace(PLACES, (_, place: string) =>
    Object.hasOwn(values, place) ? toDisplayString(values[place]) : '',
  )
}

/**
 * The text of a name, as `register.week`, in the language of the page.
 *
 * @param values what stands in its places
 */
export function t(name: string, values: Record<string, unknown> = {}): string {
  const [station = '', text = ''] = name.split('.')
  const plain = texts[station]?.[text]
  // most have named places at most, and a page has hundreds: to parse one costs more than to draw it
  if (plain && isSimple(plain)) return filled(plain, values)
  return i18n.global.t(name, values)
}

/**
 * The text of a name for a number of things: `one | many`, or whatever forms the language has.
 *
 * @param n stands in the place `n`, written as the language writes numbers
 */
export function many(name: string, n: number): string {
  return i18n.global.t(name, { n: n.toLocaleString(locale) }, n)
}
