import { t } from '@/wording'
import type { DefaultsView, LinkedService } from '@/api/schema'

/** What we may do in a service. */
export const levels = [
  { id: 'read', words: t('house.readOnly') },
  { id: 'suggest', words: t('house.writeWhatSomebodySends') },
  { id: 'write', words: t('house.writeWhatIsDecided') },
]

/** How it stands with a service, in words. */
export function stateWords(s: LinkedService): { text: string; wrong: boolean } {
  const reading = s.reading ? t('house.readingEverything') : ''
  switch (s.state) {
    case 'paused':
      return { text: t('house.paused'), wrong: false }
    case 'key-refused':
      return { text: t('house.theKeyIsRefusedGiveANew'), wrong: true }
    case 'away':
      return {
        text: t('house.awayItTrouble', { trouble: s.trouble ?? t('house.doesNotAnswer') }),
        wrong: true,
      }
    default:
      return { text: t('house.inTouchReading', { reading }), wrong: false }
  }
}

const names: [string, string][] = [
  ['waiting', 'waiting'],
  ['sent', 'sent'],
  ['refused', 'refused'],
  ['other', t('house.holdSomethingElse')],
  ['kept', t('house.notSent')],
]

/** How many meetings wait for what, in words. */
export function backlogWords(s: LinkedService): string {
  const parts = names
    .filter(([id]) => s.backlog[id])
    .map(([id, words]) => `${s.backlog[id]} ${words}`)
  return parts.length ? parts.join(', ') : t('house.allConfirmed')
}

/** How well a service carries a value; nothing where it holds the very value. */
export function carriedWords(carried: string): string {
  return carried === 'stricter'
    ? t('house.carriedStricter')
    : carried === 'cannot'
      ? t('house.cannotBeHeldThere')
      : ''
}

/** How a service's own defaults and locks stand to the edition in force, in words. */
export function defaultsWords(view: DefaultsView, name: string): string {
  const edition = t('house.editionEdition', { edition: view.edition })
  const looser = view.lines.filter((l) => l.looser).length
  const cannot = view.lines.filter((l) => l.carried === 'cannot' || l.limitCarried === 'cannot')
  const rest = cannot.length
    ? t('house.nameCannotHoldCannotOfItsRules', { name, cannot: cannot.length })
    : ''
  switch (view.state) {
    case 'waiting':
      return t('house.theDefaultsAndLimitsOfEditionWait', { edition, rest })
    case 'refused':
      return t('house.nameRefusedThemWhyRest', { name, why: view.why ?? '', rest })
    case 'none':
      return t('house.nothingIsWrittenThereLooserOfIts', { looser, edition, rest })
    default:
      return looser
        ? t('house.looserOfItsDefaultsAreLooserThan', { looser, edition, rest })
        : t('house.itsDefaultsAndLocksAreThoseOf', { edition, rest })
  }
}
