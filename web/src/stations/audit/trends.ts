import { t } from '@/wording'
import { bandName } from '@/marks/bands'
import type { FamilyView, Mended, Point } from '@/api/schema'

/** A line or layer of a chart. */
export interface Series {
  name: string
  /** The token its colour is taken from, so that both themes are readable. */
  tone: string
  /** Strokes and gaps in pixels, so that no two are told apart by colour alone. */
  dash: number[]
  values: number[]
}

const severities = [
  { id: 5, name: t('audit.grave'), tone: '--rust', dash: [] },
  { id: 4, name: t('audit.serious'), tone: '--rust', dash: [6, 3] },
  { id: 3, name: t('audit.moderate'), tone: '--sand-mark', dash: [] },
  { id: 2, name: t('audit.minor'), tone: '--sea', dash: [2, 2] },
  { id: 1, name: t('audit.note'), tone: '--soft', dash: [] },
]

export function severitySeries(points: Point[]): Series[] {
  return severities.map(({ id, ...look }) => ({
    ...look,
    values: points.map((p) => p.bySeverity[String(id)] ?? 0),
  }))
}

const bands = [
  { id: 'open', tone: '--rust', dash: [] },
  { id: 'ajar', tone: '--sand-mark', dash: [6, 3] },
  { id: 'guarded', tone: '--sea', dash: [] },
  { id: 'shut', tone: '--soft', dash: [2, 2] },
]

export function bandSeries(points: Point[]): Series[] {
  return bands.map(({ id, ...look }) => ({
    name: bandName(id),
    ...look,
    values: points.map((p) => p.byBand[id] ?? 0),
  }))
}

const tones = ['--ink', '--sea', '--rust', '--sand-mark', '--kelp']
const dashes = [[], [6, 3], [2, 2]]

/** The families with most findings over the time shown; more lines than that are a thicket. */
export function familySeries(points: Point[], families: FamilyView[], most = 5): Series[] {
  const names = new Map([
    ...families.map((f) => [f.id, f.title] as const),
    ['guarantees', t('audit.guarantees')] as const,
    ['meeting', t('audit.theMeetingItself')] as const,
  ])
  const all = [...names.keys()].map((id) => ({
    id,
    values: points.map((p) => p.byFamily[id] ?? 0),
  }))
  const weight = (values: number[]) => values.reduce((a, b) => a + b, 0)
  return all
    .filter((f) => weight(f.values) > 0)
    .sort((a, b) => weight(b.values) - weight(a.values))
    .slice(0, most)
    .map((f, i) => ({
      name: names.get(f.id) ?? f.id,
      tone: tones[i % tones.length] ?? '--ink',
      dash: dashes[i % dashes.length] ?? [],
      values: f.values,
    }))
}

export function mendSeries(mended: Mended[]): Series[] {
  return [
    {
      name: t('audit.days'),
      tone: '--sea',
      dash: [],
      values: mended.map((m) => Math.round(m.medianHours / 2.4) / 10),
    },
  ]
}
