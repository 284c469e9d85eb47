/** A language that the pages speak; `pseudo` is English made strange, to find what is not in a catalogue. */
export type Language = 'en' | 'de' | 'pseudo'

/** The languages that somebody can choose, each by its own name. */
export const LANGUAGES: { tag: 'en' | 'de'; name: string }[] = [
  { tag: 'en', name: 'English' },
  { tag: 'de', name: 'Deutsch' },
]

const KEPT = 'language'

/** A link that is followed, as to a report, says no language by itself; the cookie does. */
function remember(tag: string) {
  document.cookie = `warden-language=${tag}; path=/; max-age=31536000; samesite=lax`
}

/** The language this browser was used in last; English where there is none. */
export function chosen(): Language {
  try {
    const kept = localStorage.getItem(KEPT)
    const language = kept === 'de' || kept === 'pseudo' ? kept : 'en'
    if (language !== 'pseudo') remember(language)
    return language
  } catch {
    return 'en'
  }
}

/**
 * From now on this language: keeps it, and loads the page again where it is another one.
 *
 * @returns whether the page is about to be loaded again
 */
export function speak(tag: string): boolean {
  const now = chosen()
  // whoever looks for what is not in a catalogue goes on looking
  if (now === tag || now === 'pseudo') return false
  try {
    localStorage.setItem(KEPT, tag)
  } catch {
    // without a place to keep it, loading again would change nothing
  }
  if (chosen() !== tag) return false
  location.reload()
  return true
}
