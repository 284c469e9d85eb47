import { existsSync, readFileSync, readdirSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import en from '@/wording/en'
import { parts } from '../../../guide'
import { find, groups, pageOf, topicOf, topics } from './guide'

const dir = new URL('../../../../docs/guide/', import.meta.url)
const path = (id: string) => new URL(`${id}.md`, dir).pathname
const page = (id: string) => parts(readFileSync(path(id), 'utf8'), path(id))
const files = readdirSync(dir).map((name) => name.replace('.md', ''))
const shown = topics.map((t) => t.id).filter((id) => files.includes(id))
const stations = groups[0]?.topics.map((t) => t.id) ?? []

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
  /** All that stands on pages, but for the help's own. */
  const pages = JSON.stringify({ ...en, help: {} }).toLowerCase()
  it.each(stations)('%s calls things on the first day as they are called there', (id) => {
    const first = page(id).sections[1]?.html ?? ''
    const named = [...first.matchAll(/<strong>([^<]*)<\/strong>/g)].map((m) =>
      String(m[1]).replace(/[.…]$/, '').replace(/&#39;/g, "'").toLowerCase(),
    )
    expect(named.length).toBeGreaterThan(0)
    expect(named.filter((name) => !pages.includes(name))).toEqual([])
  })
  it('leads nowhere that is not there', () => {
    const dead = shown.flatMap((id) =>
      page(id).sections.flatMap((section) =>
        [...section.html.matchAll(/href="\/help\/([a-z-]+)(?:#([^"]*))?"/g)]
          .filter(([, to = '', place]) => {
            if (!shown.includes(to)) return to !== 'developing'
            return !!place && !page(to).sections.some((s) => s.id === place)
          })
          .map(([, to, place]) => `${id} → ${to}#${place ?? ''}`),
      ),
    )
    expect(dead).toEqual([])
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
