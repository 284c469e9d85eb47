import { language, t } from '@/wording'
/** A part of a page of the guide. */
export interface Section {
  /** what it is linked to by; the first part, above all headings, has none */
  id: string
  title: string
  html: string
  text: string
}

/** A page of the guide (docs/guide), made into parts while building. */
export interface Page {
  title: string
  sections: Section[]
}

export interface Topic {
  id: string
  name: string
}

/** What Help has, in the order in which it stands there. */
export const groups: { name: string; topics: Topic[] }[] = [
  {
    name: t('help.theStations'),
    topics: [
      { id: 'first-day', name: t('help.theWayOfWorking') },
      { id: 'lookout', name: t('help.lookout') },
      { id: 'rulebook', name: t('help.rulebook') },
      { id: 'register', name: t('help.registerAndScheduling') },
      { id: 'audit', name: t('help.audit') },
      { id: 'door', name: t('help.door') },
      { id: 'floor', name: t('help.floor') },
      { id: 'people', name: t('help.people') },
      { id: 'ledger', name: t('help.ledger') },
      { id: 'house', name: t('help.house') },
      { id: 'corner', name: t('help.myCornerForHosts') },
    ],
  },
  {
    name: t('help.toLookUp'),
    topics: [
      { id: 'marks', name: t('help.marks') },
      { id: 'checks', name: t('help.checks') },
      { id: 'controls', name: t('help.controls') },
      { id: 'limits', name: t('help.limits') },
    ],
  },
  {
    name: t('help.inAndOut'),
    topics: [
      { id: 'files', name: t('help.importAndExport') },
      { id: 'calendars', name: t('help.calendars') },
      { id: 'directory', name: t('help.aDirectory') },
      { id: 'services', name: t('help.conferenceServices') },
      { id: 'delegation', name: t('help.wardensOfUnitsDeputies') },
    ],
  },
  {
    name: t('help.forProgramsAndServers'),
    topics: [
      { id: 'programs', name: t('help.forPrograms') },
      { id: 'endpoints', name: t('help.endpoints') },
      { id: 'check', name: t('help.checkingInAPipeline') },
      { id: 'bridge', name: t('help.theInterfaceOfAService') },
      { id: 'operating', name: t('help.runningIt') },
      { id: 'security', name: t('help.security') },
    ],
  },
]
export const topics: Topic[] = groups.flatMap((group) => group.topics)

/** Where pages of before are now: addresses that were kept or sent lead there. */
const MOVED: Record<string, string> = {
  work: 'first-day',
  scheduling: 'register',
  formats: 'files',
  bundle: 'programs',
  'rulebook-file': 'programs',
}

/** The topic that an address asks for. */
export const topicOf = (asked?: string): string => (asked && MOVED[asked]) || asked || 'first-day'

/** Made of what the core declares, on the page itself. */
const LIVE = new Set(['marks', 'checks', 'controls'])

const english = import.meta.glob<{ default: Page }>('../../../../docs/guide/*.md')
const german = import.meta.glob<{ default: Page }>('../../../../docs/guide/de/*.md')

/** A page and the language it is in, which is English where there is none in that of the pages. */
export type Shown = Page & { lang: 'en' | 'de' }

/** The page of a topic; null for one that is not of the guide. */
export async function pageOf(topic: string, of: string = language): Promise<Shown | null> {
  if (LIVE.has(topic)) return null
  const own = of === 'de' ? german[`../../../../docs/guide/de/${topic}.md`] : undefined
  const file = own ?? english[`../../../../docs/guide/${topic}.md`]
  return file ? { ...(await file()).default, lang: own ? 'de' : 'en' } : null
}

export interface Found {
  topic: string
  name: string
  section: string
  id: string
  text: string
}

const MAX_FOUND = 40
const AROUND = 60

function snippet(text: string, word: string): string {
  const at = text.toLowerCase().indexOf(word)
  if (at < 0) return text.slice(0, 2 * AROUND)
  // between words
  const begin = at <= AROUND ? 0 : text.indexOf(' ', at - AROUND) + 1
  const last = text.lastIndexOf(' ', at + word.length + AROUND)
  const end = at + word.length + AROUND >= text.length ? text.length : Math.max(last, at)
  return `${begin ? '… ' : ''}${text.slice(begin, end)}${end < text.length ? ' …' : ''}`
}

/**
 * The parts that have all the words, those with them in their heading first.
 *
 * @param parts where to look: parts by topic
 */
export function find(asked: string, parts: Map<Topic, Section[]>): Found[] {
  const words = asked.toLowerCase().split(/\s+/).filter(Boolean)
  if (!words.length) return []
  const found: (Found & { rank: number })[] = []
  for (const [topic, sections] of parts) {
    for (const section of sections) {
      const heading = `${topic.name} ${section.title}`.toLowerCase()
      const text = section.text.toLowerCase()
      if (!words.every((word) => heading.includes(word) || text.includes(word))) continue
      const inHeading = words.filter((word) => heading.includes(word)).length
      found.push({
        topic: topic.id,
        name: topic.name,
        section: section.title,
        id: section.id,
        text: snippet(section.text, words.find((word) => text.includes(word)) ?? ''),
        rank: -inHeading,
      })
    }
  }
  return found.sort((a, b) => a.rank - b.rank).slice(0, MAX_FOUND)
}

/** All of the guide, for looking through. */
export async function everything(): Promise<Map<Topic, Section[]>> {
  const all = new Map<Topic, Section[]>()
  for (const topic of topics) {
    const page = await pageOf(topic.id)
    if (page) all.set(topic, page.sections)
  }
  return all
}
