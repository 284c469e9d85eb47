import { readFileSync, readdirSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { createI18n } from 'vue-i18n'
import { isSimple, many, t } from '.'
import de from './de'
import en from './en'
import { pseudo } from './pseudo'

type Texts = Record<string, Record<string, string>>
const languages: Record<string, Texts> = { de }
const flat = (texts: Texts) =>
  Object.entries(texts).flatMap(([station, of]) =>
    Object.entries(of).map(([name, text]) => [`${station}.${name}`, text] as const),
  )
/** What stands in a text's braces, in order of name; literals such as `{' '}` are part of it. */
const places = (text: string) => [...new Set(text.match(/\{\w+\}/g) ?? [])].sort()

const sources = readdirSync(new URL('..', import.meta.url), { recursive: true })
  .map(String)
  .filter((name) => /\.(vue|ts)$/.test(name) && !/spec\.ts$|wording\/|schema\.d/.test(name))
  .map((name) => ({ name, text: readFileSync(new URL(`../${name}`, import.meta.url), 'utf8') }))

describe('the catalogues', () => {
  it('have every text that the pages ask for, and no other', () => {
    const asked = new Set<string>(
      sources.flatMap(({ text }) =>
        [...text.matchAll(/\bt\(\s*'([\w.]+)'/g)].map((m) => String(m[1])),
      ),
    )
    const kinds = Object.keys(en.count).filter((kind) =>
      sources.some(({ text }) => new RegExp(`counted\\([\\s\\S]{1,80}?'${kind}'`).test(text)),
    )
    kinds.forEach((kind) => asked.add(`count.${kind}`))
    // of fields that are sent, and no others: `fieldWord` asks for them by their names
    const api = readFileSync(new URL('../../openapi.json', import.meta.url), 'utf8')
    const meeting = sources.find(({ name }) => name.endsWith('scheduling/form.ts'))?.text ?? ''
    Object.keys(en.field)
      .filter((field) => api.includes(`"${field}"`) || meeting.includes(`  ${field}:`))
      .forEach((field) => asked.add(`field.${field}`))
    const had = new Set<string>(flat(en).map(([name]) => name))
    expect([...asked].filter((name) => !had.has(name))).toEqual([])
    expect([...had].filter((name) => !asked.has(name))).toEqual([])
  })
  it('have the words between things, too', () => {
    const joined = sources.flatMap(({ name, text }) =>
      [...text.matchAll(/join\(\s*['`"] ?[a-z]+ ?['`"]\s*\)/g)].map((m) => `${name}: ${m[0]}`),
    )
    expect(joined).toEqual([])
  })
  it.each(Object.keys(languages))('%s has the same texts with the same places', (tag) => {
    const theirs = new Map(flat(languages[tag] as Texts))
    expect([...theirs.keys()]).toEqual(flat(en).map(([name]) => name))
    const free = ['shell.fromNowOnYouSeeWhatArticle'] // no articles before roles
    expect(
      flat(en)
        .filter(([name]) => !free.includes(name))
        .filter(([name, text]) => places(text).join() !== places(theirs.get(name) ?? '').join())
        .map(([name]) => name),
    ).toEqual([])
  })
  it.each(Object.keys(languages))('%s keeps the spaces between sentences', (tag) => {
    const theirs = new Map(flat(languages[tag] as Texts))
    const ends = (text: string) => [text.startsWith("{' '}"), text.endsWith("{' '}")].join()
    expect(
      flat(en)
        .filter(([name, text]) => ends(text) !== ends(theirs.get(name) ?? ''))
        .map(([name]) => name),
    ).toEqual([])
  })
  it('begin and end with no space that would be lost', () => {
    expect([en, de].flatMap((of) => flat(of).filter(([, text]) => / $|^ /.test(text)))).toEqual([])
  })
  it('have a form for one and a form for many of what is counted', () => {
    for (const of of [en, de])
      expect(Object.values(of.count).filter((text) => !/^[^|]+ \| [^|]+$/.test(text))).toEqual([])
    expect(many('count.meeting', 1)).toBe('1 meeting')
    expect(many('count.meeting', 0)).toBe('0 meetings')
    expect(many('count.meeting', 12_000)).toBe('12,000 meetings')
  })
  it('give every text with what stands in its places', () => {
    for (const [name] of flat(en)) {
      const value = t(name, { n: 1 })
      expect(value, name).not.toBe(name)
      expect(value, name).not.toMatch(/[{}]/)
    }
    expect(t('shell.todayClock', { clock: '09:30' })).toBe('today 09:30')
  })
  it('are filled without the library as the library fills them', () => {
    const library = createI18n({ legacy: false, locale: 'en', messages: { en } }).global
    const values = { n: 3, name: 'A {odd} $& <b>', none: null, nested: { a: 1 }, is: false }
    const shapes = flat(en).filter(([, text]) => isSimple(text))
    expect(shapes.length).toBeGreaterThan(2500)
    for (const [name, text] of shapes) {
      const found = places(text).map((place) => place.slice(1, -1))
      const each = Object.values(values)
      const filled = Object.fromEntries(found.map((place, i) => [place, each[i % each.length]]))
      expect(t(name, filled), name).toBe(library.t(name, filled))
      expect(t(name), name).toBe(library.t(name))
    }
    for (const odd of ["{' '}a", 'a | b', '@:shell.close', '{0}', 'a { b']) {
      expect(isSimple(odd), odd).toBe(false)
    }
  })
  it('are made strange as a whole', () => {
    const strange = flat(pseudo(en))
    expect(strange.filter(([, text]) => !/^⟦.*⟧$/s.test(text))).toEqual([])
    expect(pseudo({ a: { b: 'one | many' } })).toEqual({ a: { b: '⟦one⟧ | ⟦many⟧' } })
  })
})

describe('the templates', () => {
  // its words would be what is sent, and another language's are nothing that the server knows
  it('give every choice a value besides its words', () => {
    const bare = sources.flatMap(({ name, text }) =>
      [...text.matchAll(/<option((?:\s+[^\s"'>=]+(?:="[^"]*")?)*)\s*>/g)]
        .filter((m) => !/\s:?value=/.test(String(m[1])))
        .map(() => name),
    )
    expect(bare).toEqual([])
    expect(sources.some(({ text }) => text.includes('<option'))).toBe(true)
  })
  it('have no sentence of their own between braces', () => {
    const own = sources.flatMap(({ name, text }) => {
      const template = /<template>([\s\S]*)<\/template>/.exec(text)?.[1] ?? ''
      return [...template.matchAll(/\{\{([\s\S]*?)\}\}/g)]
        .flatMap((m) => [...String(m[1]).matchAll(/'([^'\n]*)'/g)].map((literal) => literal[1]))
        .filter((literal) => /(\p{L}{2,}|[.:;,]) \p{L}{2,}/u.test(String(literal)))
        .map((literal) => `${name}: ${literal}`)
    })
    expect(own).toEqual([])
  })
  it('have no text of their own', () => {
    const own = sources.flatMap(({ name, text }) => {
      const template = /<template>([\s\S]*)<\/template>/.exec(text)?.[1]
      if (!template) return []
      const bare = template
        .replace(/<!--[\s\S]*?-->/g, '')
        .replace(/<(code|kbd|pre)\b[^>]*>[\s\S]*?<\/\1\s*>/g, '')
        .replace(/\{\{[\s\S]*?\}\}/g, '')
        .replace(/"[^"]*"/g, '""')
        .replace(/<[^>]*>/g, '\n')
        .replace(/&\w+;/g, ' ')
      const words = bare.split('\n').filter((line) => /\p{L}{2,}/u.test(line))
      const attributes = [
        ...template.matchAll(/\s(title|aria-label|placeholder|alt)="([^"]*\p{L}{2,}[^"]*)"/gu),
      ].map((m) => `${m[1]}=${m[2]}`)
      return [...words, ...attributes]
        .map((each) => `${name}: ${each.trim()}`)
        .filter((each) => !OF_NO_LANGUAGE.some((word) => each.endsWith(word)))
    })
    expect(own).toEqual([])
  })
})

/** Addresses and names that are the same in every language. */
const OF_NO_LANGUAGE = [
  '.ics',
  'https://calendar.example.org/team.ics',
  'https://meet.example.org',
  'https://alerts.example.org/in',
  'https://logs.example.org/in',
  'FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-1;COUNT=12',
]
