import { label, layerName } from '@/api/catalogue'
import type { ControlView } from '@/api/schema'
import { fullTime } from '@/shell/times'
import { modeWords } from '@/stations/rulebook/words'
import { t } from '@/wording'

/** What the core and the organisation call the things whose short names stand in an entry. */
export interface Meaning {
  control: (id: string) => ControlView | undefined
  check: (id: string) => string
  unit: (id?: string | null) => string
  kind: (id?: string | null) => string
}

/** Before anything is known of them. */
export const none: Meaning = {
  control: () => undefined,
  check: (id) => id,
  unit: () => '',
  kind: () => '',
}

const fields: Record<string, string> = {
  about: t('ledger.fieldAbout'),
  account: t('ledger.fieldAccount'),
  act: t('ledger.fieldAct'),
  active: t('ledger.fieldActive'),
  actsAs: t('ledger.fieldActsAs'),
  address: t('ledger.fieldAddress'),
  after: t('ledger.fieldAfter'),
  as: t('ledger.fieldAs'),
  at: t('ledger.fieldAt'),
  before: t('ledger.fieldBefore'),
  cause: t('ledger.fieldCause'),
  check: t('ledger.fieldCheck'),
  coHosts: t('ledger.fieldCoHosts'),
  confidential: t('ledger.fieldConfidential'),
  control: t('ledger.fieldControl'),
  days: t('ledger.fieldDays'),
  description: t('ledger.fieldDescription'),
  domains: t('ledger.fieldDomains'),
  edition: t('ledger.fieldEdition'),
  effectiveAt: t('ledger.fieldEffectiveAt'),
  email: t('ledger.fieldEmail'),
  from: t('ledger.fieldFrom'),
  guarantee: t('ledger.fieldGuarantee'),
  host: t('ledger.fieldHost'),
  id: t('ledger.fieldId'),
  importance: t('ledger.fieldImportance'),
  invitees: t('ledger.fieldInvitees'),
  kind: t('ledger.fieldKind'),
  kinds: t('ledger.fieldKinds'),
  layer: t('ledger.fieldLayer'),
  limit: t('ledger.fieldLimit'),
  lists: t('ledger.fieldLists'),
  meeting: t('ledger.fieldMeeting'),
  members: t('ledger.fieldMembers'),
  minutes: t('ledger.fieldMinutes'),
  mode: t('ledger.fieldMode'),
  name: t('ledger.fieldName'),
  need: t('ledger.fieldNeed'),
  note: t('ledger.fieldNote'),
  number: t('ledger.fieldNumber'),
  occurrence: t('ledger.fieldOccurrence'),
  occurrences: t('ledger.fieldOccurrences'),
  paper: t('ledger.fieldPaper'),
  parent: t('ledger.fieldParent'),
  partners: t('ledger.fieldPartners'),
  paused: t('ledger.fieldPaused'),
  people: t('ledger.fieldPeople'),
  person: t('ledger.fieldPerson'),
  plan: t('ledger.fieldPlan'),
  presenters: t('ledger.fieldPresenters'),
  purpose: t('ledger.fieldPurpose'),
  reason: t('ledger.fieldReason'),
  recipients: t('ledger.fieldRecipients'),
  recurrence: t('ledger.fieldRecurrence'),
  role: t('ledger.fieldRole'),
  room: t('ledger.fieldRoom'),
  scope: t('ledger.fieldScope'),
  seats: t('ledger.fieldSeats'),
  send: t('ledger.fieldSend'),
  service: t('ledger.fieldService'),
  session: t('ledger.fieldSession'),
  space: t('ledger.fieldSpace'),
  standing: t('ledger.fieldStanding'),
  start: t('ledger.fieldStart'),
  state: t('ledger.fieldState'),
  subject: t('ledger.fieldSubject'),
  targets: t('ledger.fieldTargets'),
  text: t('ledger.fieldText'),
  time: t('ledger.fieldTime'),
  title: t('ledger.fieldTitle'),
  to: t('ledger.fieldTo'),
  unit: t('ledger.fieldUnit'),
  units: t('ledger.fieldUnits'),
  until: t('ledger.fieldUntil'),
  value: t('ledger.fieldValue'),
  windowDays: t('ledger.fieldWindowDays'),
  word: t('ledger.fieldWord'),
  zone: t('ledger.fieldZone'),
  password: t('ledger.fieldPassword'),
  secret: t('ledger.fieldSecret'),
}

const LAYER = /^(organisation|unit|kind)(?::(.+))?$/

function layerWords(layer: string, of: Meaning): string {
  const [, level = '', id] = LAYER.exec(layer) ?? []
  return level ? layerName({ level, id }, of.unit, of.kind) : layer
}

const isLayer = (part: string) => part === 'organisation' || /^(unit|kind):/.test(part)
const controlAt = (path: string[], of: Meaning) => [...path].reverse().map(of.control).find(Boolean)

/** What a field is called, from its path in what was asked or changed. */
export function fieldWords(path: string[], of: Meaning): string {
  const words = path.flatMap((part, i) => {
    if (part === 'controls' && i < path.length - 1) return []
    if (isLayer(part)) return [layerWords(part, of)]
    const control = of.control(part)
    if (control) return [control.title]
    // a rule's start is the value that a meeting begins with
    if (part === 'start' && controlAt(path, of)) return [t('ledger.fieldLimitStart')]
    return [
      fields[part] ??
        part
          .replace(/([a-z])([A-Z])/g, '$1 $2')
          .replace(/-/g, ' ')
          .toLowerCase(),
    ]
  })
  return words.join(' · ')
}

/** A value as people read it. */
export function valueWords(path: string[], value: unknown, of: Meaning): string {
  if (value === null || value === undefined) return ''
  const control = controlAt(path, of)
  const last = path[path.length - 1] ?? ''
  if (control && (of.control(last) || last === 'start' || last === 'limit')) {
    return label(control, value)
  }
  if (Array.isArray(value)) {
    const isOfThings = value.some((each) => typeof each === 'object')
    return value.map((each) => valueWords(path, each, of)).join(isOfThings ? '; ' : ', ')
  }
  if (typeof value === 'object') {
    return Object.entries(value)
      .map(([key, each]) => [fieldWords([key], of), valueWords([...path, key], each, of)])
      .filter(([, words]) => words)
      .map(([name, words]) => `${name} ${words}`)
      .join(', ')
  }
  if (typeof value === 'boolean') return value ? t('ledger.yes') : t('ledger.no')
  const text = String(value)
  if (last === 'mode') return modeWords[text] ?? text
  if (last === 'control') return of.control(text)?.title ?? text
  if (last === 'check') return of.check(text)
  if (last === 'unit') return of.unit(text) || text
  if (last === 'kind') return of.kind(text) || text
  if (last === 'layer') return layerWords(text, of)
  if (/^\d{4}-\d\d-\d\dT[\d:.]+Z$/.test(text)) return fullTime(text)
  return /^\d{4}-\d\d-\d\dT\d\d:\d\d$/.test(text) ? text.replace('T', ' ') : text
}
