import { expect, test } from 'vitest'
import { folded } from './folded'

test.each([
  ['RÉUNION', 'reunion'],
  ['re\u0301union', 'reunion'],
  ['Łódź', 'lodz'],
  ['Große Œuvres auf Ærø', 'grosse oeuvres auf aero'],
  ['İzmir', 'izmir'],
  ['ﬁn', 'fin'],
  ['ΟΔΟΣ', 'οδοσ'],
  ['パス', 'はす'],
  ['ﾊﾟｽ', 'はす'],
  ['שָׁלוֹם', 'שלום'],
  ['مُحَمَّد', 'محمد'],
])('%s is found as %s', (text, typed) => {
  expect(folded(text)).toBe(typed)
  expect(folded(typed)).toBe(typed)
})

test('vowels that are marks stay', () => {
  expect(folded('किताब')).not.toBe(folded('कताब'))
})
