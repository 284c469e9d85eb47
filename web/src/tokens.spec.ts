import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'

/** Contrast by WCAG 2.2, "relative luminance" and "contrast ratio" in its glossary. */
const css = readFileSync(new URL('./styles.css', import.meta.url), 'utf8')

function tokens(selector: string): Map<string, string> {
  const begin = css.indexOf(`${selector} {`)
  const block = css.slice(begin, css.indexOf('}', begin))
  return new Map(
    [...block.matchAll(/--([a-z-]+): (#[0-9a-f]{6});/g)].map((m) => [String(m[1]), String(m[2])]),
  )
}
function luminance(colour: string): number {
  const [r = 0, g = 0, b = 0] = [1, 3, 5].map((i) => {
    const part = parseInt(colour.slice(i, i + 2), 16) / 255
    return part <= 0.04045 ? part / 12.92 : ((part + 0.055) / 1.055) ** 2.4
  })
  return 0.2126 * r + 0.7152 * g + 0.0722 * b
}
function contrast(one: string, other: string): number {
  const [dark = 0, light = 0] = [luminance(one), luminance(other)].sort((a, b) => a - b)
  return (light + 0.05) / (dark + 0.05)
}

const TEXT = ['ink', 'soft', 'sea', 'rust', 'sand', 'kelp']
const GROUNDS = ['paper', 'sheet', 'sea-wash', 'rust-wash', 'sand-wash']

describe('the colours', () => {
  it('are measured as the standard does', () => {
    // white on black is 21 to 1; #767676 on white is the lightest grey that passes (WCAG, G18)
    expect(contrast('#ffffff', '#000000')).toBeCloseTo(21, 5)
    expect(contrast('#767676', '#ffffff')).toBeGreaterThan(4.5)
    expect(contrast('#777777', '#ffffff')).toBeLessThan(4.5)
  })
  it.each([':root', ":root[data-theme='dark']"])(
    '%s: text can be read on every ground',
    (theme) => {
      const of = tokens(theme)
      const poor = TEXT.flatMap((text) =>
        GROUNDS.map((ground) => {
          const ratio = contrast(of.get(text) ?? '', of.get(ground) ?? '')
          return ratio >= 4.5 ? '' : `${text} on ${ground}: ${ratio.toFixed(2)}`
        }),
      ).filter(Boolean)
      expect(poor).toEqual([])
    },
  )
})
