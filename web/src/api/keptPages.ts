import { sessionEnded } from './client'

const PERSON = 'warden-person'

/** Whose page this is; empty while nobody is signed in on it. */
let mine = ''

/** Who was signed in last in this browser, on whichever page; where nothing can be kept, who is on this one. */
function last(): string {
  try {
    return localStorage.getItem(PERSON) ?? mine
  } catch {
    return mine
  }
}

/** Says whose page this is from now on: others' that the browser keeps or has open are covered or loaded anew. */
export function belongsTo(person: string) {
  mine = person
  try {
    localStorage.setItem(PERSON, person)
  } catch {
    // the server refuses whoever is signed out all the same
  }
}

/**
 * Watches over this page where the browser keeps it whole, for *back* and *forward*: it is kept out of sight, and shown
 * again only to whose it is. Else it is loaded anew, as by whoever is signed in now. A page that is open beside the one on
 * which somebody signs out or in is covered while it is not theirs.
 */
export function watchKept(page: Window, loadAnew = () => page.location.reload()) {
  const root = page.document.documentElement
  page.addEventListener('pagehide', (event) => {
    root.hidden = event.persisted
  })
  page.addEventListener('pageshow', (event) => {
    if (!event.persisted) return
    if (last() === mine) root.hidden = false
    else loadAnew()
  })
  // heard on the other pages alone
  page.addEventListener('storage', (event) => {
    if (event.key === PERSON) {
      sessionEnded.dispatchEvent(new Event(last() === mine ? 'back' : 'ended'))
    }
  })
}
