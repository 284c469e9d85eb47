import type { Compared, Drift } from '@/api/schema'
import { day } from '@/shell/times'

/** Why a finding came, in the words of the page. */
export const comeReasons: Record<string, string> = {
  scheduled: 'in a new meeting',
  changed: 'the meeting was changed',
  rule: 'the rulebook changed',
  around: 'something around it changed',
  unwaived: 'its waiver ended',
  back: 'come back',
}

/** Why a finding is gone. */
export const goneReasons: Record<string, string> = {
  mended: 'mended',
  waived: 'waived',
  over: 'the meeting is over',
  rule: 'the rulebook changed',
}

const sum = (counts: Record<string, number>) => Object.values(counts).reduce((a, b) => a + b, 0)

/** The parts of a comparison with their counts. */
export function sidesOf(c: Compared) {
  return [
    { id: 'come', name: 'new', count: sum(c.come), tone: 'text-rust' },
    { id: 'gone', name: 'gone', count: sum(c.gone), tone: 'text-kelp' },
    { id: 'still', name: 'still there', count: c.still, tone: '' },
    { id: 'drifted', name: 'drifted since clean', count: c.drifted.length, tone: 'text-sand' },
  ]
}

const acts: Record<string, string> = {
  controls: 'changed its controls',
  changed: 'changed it',
  imported: 'brought it in again',
  'handed-over': 'handed it over',
  restored: 'put an earlier version back',
  undone: 'undid a remedy',
}

/** Who or what made a clean meeting drift. */
export function driftWords(d: Drift): string {
  if (d.act === 'edition') return `the rulebook changed on ${d.at ? day(d.at) : ''}`
  if (!d.by) return 'something around it changed, such as the directory'
  return `${d.by} ${acts[d.act] ?? 'changed it'} on ${d.at ? day(d.at) : ''}`
}
