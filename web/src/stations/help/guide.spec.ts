import { existsSync, readFileSync, readdirSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import de from '@/wording/de'
import en from '@/wording/en'
import { parts } from '../../../guide'
import { find, groups, pageOf, topicOf, topics } from './guide'

const dir = new URL('../../../../docs/guide/', import.meta.url)
const path = (id: string) => new URL(`${id}.md`, dir).pathname
const page = (id: string) => parts(readFileSync(path(id), 'utf8'), path(id))
const pagesIn = (folder: URL) =>
  readdirSync(folder)
    .filter((name) => name.endsWith('.md'))
    .map((name) => name.replace('.md', ''))
const files = pagesIn(dir)
const shown = topics.map((t) => t.id).filter((id) => files.includes(id))
const stations = groups[0]?.topics.map((t) => t.id) ?? []

/** Links to pages, or places on them, that a language does not have. */
const dead = (of: typeof page) =>
  shown.flatMap((id) =>
    of(id).sections.flatMap((section) =>
      [...section.html.matchAll(/href="\/help\/([a-z-]+)(?:#([^"]*))?"/g)]
        .filter(([, to = '', place]) => {
          if (!shown.includes(to)) return to !== 'developing'
          return !!place && !of(to).sections.some((s) => s.id === place)
        })
        .map(([, to, place]) => `${id} → ${to}#${place ?? ''}`),
    ),
  )
const firstNames = (html: string) =>
  [...html.matchAll(/<strong>([^<]*)<\/strong>/g)].map((m) =>
    String(m[1]).replace(/[.…]$/, '').replace(/&#39;/g, "'").toLowerCase(),
  )
/** All that stands on pages, but for the help's own. */
const said = (texts: object) => JSON.stringify({ ...texts, help: {} }).toLowerCase()

describe('the guide as help', () => {
  it('has every page but the one for those who work on the code', () => {
    expect(files.filter((name) => !shown.includes(name))).toEqual(['developing'])
  })
  it.each(stations)('%s begins with a picture and the first day', (id) => {
    const { pictures, sections } = page(id)
    expect(pictures).toHaveLength(1)
    expect(pictures.filter((picture) => !existsSync(picture))).toEqual([])
    expect(sections[0]?.html).toContain('<img')
    expect(sections[1]?.title).toBe('Your first day')
    expect(sections[1]?.html).toContain('<ol>')
  })
  it.each(stations)('%s has no name that only files have', (id) => {
    const names = /`[a-z]+(-[a-z0-9]+)+`/g
    expect(readFileSync(path(id), 'utf8').match(names) ?? []).toEqual([])
  })
  it.each(stations)('%s calls things on the first day as they are called there', (id) => {
    const named = firstNames(page(id).sections[1]?.html ?? '')
    expect(named.length).toBeGreaterThan(0)
    expect(named.filter((name) => !said(en).includes(name))).toEqual([])
  })
  it('leads nowhere that is not there', () => {
    expect(dead(page)).toEqual([])
  })
  it('takes no markup that is written into a page for its own', () => {
    const { sections } = parts(
      '# A\n\n`<img src=x onerror=y>` & [b](https://c.example/?a=1&b="2")\n',
      '/a.md',
    )
    expect(sections[0]?.html).toContain('&lt;img')
    expect(sections[0]?.html).not.toContain('b="2"')
    expect(sections[0]?.text).toContain('<img src=x onerror=y> & b')
  })
  it('is a module with its picture beside it', async () => {
    const audit = await pageOf('audit')
    expect(audit?.title).toBe('Audit')
    expect(audit?.sections[0]?.html).toMatch(/src="[^"]*audit[^"]*\.png"/)
    expect(await pageOf('nothing')).toBeNull()
  })
})

describe('the guide in German', () => {
  const inGerman = (id: string) => new URL(`de/${id}.md`, dir).pathname
  const translated = pagesIn(new URL('de/', dir))
  const german = (id: string) =>
    translated.includes(id) ? parts(readFileSync(inGerman(id), 'utf8'), inGerman(id)) : page(id)
  const programs = groups.at(-1)?.topics.map((topic) => topic.id) ?? []

  it('has every page but those for programs and servers', () => {
    expect(shown.filter((id) => !translated.includes(id))).toEqual(programs)
    expect(translated.filter((id) => !shown.includes(id))).toEqual([])
  })
  it.each(translated)('%s has the same parts, pictures, steps and code', (id) => {
    const shape = ({ pictures, sections }: ReturnType<typeof page>) => ({
      pictures,
      parts: sections.map(({ html, title }) => ({
        titled: !!title,
        lists: html.match(/<(ol|ul|table)/g),
        items: html.match(/<(li|tr)/g)?.length,
        // what is typed, but for what stands in the place of a value
        typed: [...html.matchAll(/<code>([^<]*)<\/code>/g)]
          .map((m) => String(m[1]).replace(/&lt;.*?&gt;/g, '…'))
          .filter((typed) => !/Ctrl|Strg/.test(typed)),
      })),
    })
    expect(shape(german(id))).toEqual(shape(page(id)))
    expect(german(id).pictures.filter((picture) => !existsSync(picture))).toEqual([])
  })
  it.each(stations)('%s calls things on the first day as they are called there', (id) => {
    const named = firstNames(german(id).sections[1]?.html ?? '')
    expect(named.length).toBeGreaterThan(0)
    expect(named.filter((name) => !said(de).includes(name))).toEqual([])
  })
  it('leads nowhere that is not there', () => {
    expect(dead(german)).toEqual([])
  })
  it('is what a German page shows, and English where there is none', async () => {
    expect(await pageOf('audit', 'de')).toMatchObject({ lang: 'de' })
    expect((await pageOf('audit', 'de'))?.sections[1]?.title).toBe('Ihr erster Tag')
    expect(await pageOf('security', 'de')).toMatchObject({ lang: 'en' })
    expect(await pageOf('audit', 'en')).toMatchObject({ lang: 'en' })
    expect(await pageOf('nothing', 'de')).toBeNull()
  })
})

describe('an address of before', () => {
  it('leads to where its page is now', () => {
    expect(topicOf('formats')).toBe('files')
    expect(topicOf('audit')).toBe('audit')
    expect(topicOf()).toBe('first-day')
    for (const old of ['work', 'scheduling', 'formats', 'bundle', 'rulebook-file'])
      expect(shown).toContain(topicOf(old))
  })
})

describe('looking through it', () => {
  const of = new Map(
    topics.filter((t) => files.includes(t.id)).map((t) => [t, page(t.id).sections] as const),
  )
  it('finds parts that have all the words, headings first', () => {
    const found = find('quiet hours', of)
    expect(found.map((f) => f.topic)).toContain('house')
    expect(found.every((f) => /quiet/i.test(f.text))).toBe(true)
    expect(find('First Day', of)[0]?.section).toBe('Your first day')
    expect(find('waive', of).some((f) => f.topic === 'audit')).toBe(true)
  })
  it('finds nothing for nothing, and for what is nowhere', () => {
    expect(find('  ', of)).toEqual([])
    expect(find('zeppelin', of)).toEqual([])
  })
})
