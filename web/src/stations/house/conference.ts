import type { DefaultsView, LinkedService } from '@/api/schema'

/** What we may do in a service. */
export const levels = [
  { id: 'read', words: 'Read only' },
  { id: 'suggest', words: 'Write what somebody sends' },
  { id: 'write', words: 'Write what is decided' },
]

/** How it stands with a service, in words. */
export function stateWords(s: LinkedService): { text: string; wrong: boolean } {
  const reading = s.reading ? ', reading everything' : ''
  switch (s.state) {
    case 'paused':
      return { text: 'paused', wrong: false }
    case 'key-refused':
      return { text: 'the key is refused: give a new one', wrong: true }
    case 'away':
      return { text: `away: it ${s.trouble ?? 'does not answer'}`, wrong: true }
    default:
      return { text: `in touch${reading}`, wrong: false }
  }
}

const names: [string, string][] = [
  ['waiting', 'waiting'],
  ['sent', 'sent'],
  ['refused', 'refused'],
  ['other', 'hold something else'],
  ['kept', 'not sent'],
]

/** How many meetings wait for what, in words. */
export function backlogWords(s: LinkedService): string {
  const parts = names
    .filter(([id]) => s.backlog[id])
    .map(([id, words]) => `${s.backlog[id]} ${words}`)
  return parts.length ? parts.join(', ') : 'all confirmed'
}

/** How well a service carries a value; nothing where it holds the very value. */
export function carriedWords(carried: string): string {
  return carried === 'stricter'
    ? '· carried stricter'
    : carried === 'cannot'
      ? '· cannot be held there'
      : ''
}

/** How a service's own defaults and locks stand to the edition in force, in words. */
export function defaultsWords(view: DefaultsView, name: string): string {
  const edition = `edition ${view.edition}`
  const looser = view.lines.filter((l) => l.looser).length
  const cannot = view.lines.filter((l) => l.carried === 'cannot' || l.limitCarried === 'cannot')
  const rest = cannot.length ? ` ${name} cannot hold ${cannot.length} of its rules.` : ''
  switch (view.state) {
    case 'waiting':
      return `The defaults and limits of ${edition} wait to be written.${rest}`
    case 'refused':
      return `${name} refused them: ${view.why ?? ''}.${rest}`
    case 'none':
      return `Nothing is written there; ${looser} of its defaults are looser than ${edition}.${rest}`
    default:
      return looser
        ? `${looser} of its defaults are looser than ${edition} says.${rest}`
        : `Its defaults and locks are those of ${edition}.${rest}`
  }
}
