import { sessionEnded } from './client'

const SIGNED_OUT = 'warden-signed-out'

/** When somebody last signed out in this browser, on whichever page. */
function lastSignOut(): string | null {
  try {
    return localStorage.getItem(SIGNED_OUT)
  } catch {
    return null
  }
}

/** What it was when this page was loaded, or when somebody signed out on it. */
let since = lastSignOut()

/** Notes that somebody signs out: pages that the browser keeps are theirs no more. */
export function noteSignOut() {
  try {
    localStorage.setItem(SIGNED_OUT, `${Date.now()} ${Math.random()}`)
  } catch {
    // nothing is kept in this browser; the server refuses whoever is signed out all the same
  }
  since = lastSignOut()
}

/**
 * Watches over this page where the browser keeps it whole, for *back* and *forward*: it is kept out of sight, and shown
 * again only where nobody has signed out since. Else it is loaded anew, as by somebody who is not signed in. A page that
 * is open beside the one on which somebody signs out is covered: the next to sign in there may be somebody else.
 */
export function watchKept(page: Window, loadAnew = () => page.location.reload()) {
  const root = page.document.documentElement
  page.addEventListener('pagehide', (event) => {
    root.hidden = event.persisted
  })
  page.addEventListener('pageshow', (event) => {
    if (!event.persisted) return
    if (lastSignOut() === since) root.hidden = false
    else loadAnew()
  })
  // heard on the other pages alone
  page.addEventListener('storage', (event) => {
    if (event.key === SIGNED_OUT) sessionEnded.dispatchEvent(new Event('ended'))
  })
}
