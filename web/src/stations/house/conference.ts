import type { LinkedService } from '@/api/schema'

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
