// The guide's pages (docs/guide) as the application's help: one source for both. A page becomes a module with its
// parts, worded as HTML while building; the browser parses no Markdown. Those in German stand in docs/guide/de.
import { dirname, resolve } from 'node:path'
import { Marked, type Token } from 'marked'
import type { Plugin } from 'vite'
import type { Page } from './src/stations/help/guide'

/** The name by which a heading is linked to. */
export const slug = (heading: string) =>
  heading
    .toLowerCase()
    .replace(/[^\p{L}\p{N}\s-]/gu, '')
    .trim()
    .replace(/\s+/g, '-')

const escape = (text: string) => text.replace(/[&<>"]/g, (c) => `&#${c.codePointAt(0)};`)

const plain = (html: string) =>
  html
    .replace(/<[^>]*>/g, ' ')
    .replace(/&#(\d+);/g, (_, code: string) => String.fromCodePoint(Number(code)))
    .replace(/&lt;/g, '<')
    .replace(/&gt;/g, '>')
    .replace(/&quot;/g, '"')
    .replace(/&amp;/g, '&')
    .replace(/\s+/g, ' ')
    .trim()

/** A page in parts; a picture's place is held by its number in `pictures`. */
export function parts(source: string, from: string): Page & { pictures: string[] } {
  const pictures: string[] = []
  const marked = new Marked({
    gfm: true,
    renderer: {
      image({ href, text }) {
        pictures.push(resolve(dirname(from), href))
        return `<img class="picture" src="picture:${pictures.length - 1}" alt="${escape(text)}" loading="lazy" width="1280" height="800">`
      },
      link({ href, tokens }) {
        const words = this.parser.parseInline(tokens)
        const page = /^(?:\.\.\/)?([a-z-]+)\.md(#.*)?$/.exec(href)
        if (page) return `<a class="link" href="/help/${page[1]}${page[2] ?? ''}">${words}</a>`
        if (/^https:/.test(href))
          return `<a class="link" href="${escape(href)}" target="_blank" rel="noopener noreferrer">${words}</a>`
        return href.startsWith('#') ? `<a class="link" href="${href}">${words}</a>` : words
      },
      table(token) {
        const row = (cells: { tokens: Token[] }[], tag: string) =>
          `<tr>${cells.map((c) => `<${tag}>${this.parser.parseInline(c.tokens)}</${tag}>`).join('')}</tr>`
        return `<div class="wide" tabindex="0"><table class="grid-lines"><thead>${row(token.header, 'th')}</thead><tbody>${token.rows
          .map((cells) => row(cells, 'td'))
          .join('')}</tbody></table></div>`
      },
    },
  })
  const sections: { id: string; title: string; tokens: Token[] }[] = [
    { id: '', title: '', tokens: [] },
  ]
  let title = ''
  for (const token of marked.lexer(source)) {
    if (token.type === 'heading' && token.depth === 1) title = token.text
    else if (token.type === 'heading' && token.depth === 2)
      sections.push({ id: slug(token.text), title: token.text, tokens: [] })
    else sections.at(-1)?.tokens.push(token)
  }
  return {
    title,
    pictures,
    sections: sections.map((section) => {
      const html = marked.parser(section.tokens)
      return { id: section.id, title: section.title, html, text: plain(html) }
    }),
  }
}

export function guide(): Plugin {
  return {
    name: 'guide',
    enforce: 'pre',
    transform(source, id) {
      if (!/\/docs\/guide\/(?:de\/)?[a-z-]+\.md$/.test(id)) return null
      const { pictures, ...page } = parts(source, id)
      const names = pictures.map((path, i) => `import p${i} from ${JSON.stringify(path)}`)
      const places = pictures.map((_, i) => `.replace('picture:${i}', p${i})`).join('')
      return {
        code: `${names.join('\n')}
const page = ${JSON.stringify(page)}
export default { ...page, sections: page.sections.map((s) => ({ ...s, html: s.html${places} })) }
`,
        map: null,
      }
    },
  }
}
