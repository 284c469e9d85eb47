import type { MeetingForm } from './form'

/**
 * What was typed and not saved, kept in this browser so that an ended session loses nothing, for whoever typed it: others
 * may use this browser too.
 */
const key = (who: string, which: string) => `warden-meeting-${who}-${which}`

/** A form as it was kept. Passcodes are never kept in the browser. */
export interface Kept {
  at: string
  form: MeetingForm
  /** Of which state of the meeting it is a change; left out where that is not known. */
  version?: number
}

export function keep(
  who: string,
  which: string,
  form: MeetingForm,
  version?: number,
  now = new Date(),
) {
  const kept: Kept = {
    at: now.toISOString(),
    version,
    form: { ...form, passcode: null, phonePasscode: null },
  }
  try {
    localStorage.setItem(key(who, which), JSON.stringify(kept))
  } catch {
    // a browser without room for it: nothing else depends on it
  }
}

export function kept(who: string, which: string): Kept | null {
  try {
    const text = localStorage.getItem(key(who, which))
    const found = text ? (JSON.parse(text) as Kept) : null
    return found && typeof found.form?.start === 'string' ? found : null
  } catch {
    return null
  }
}

export function forget(who: string, which: string) {
  localStorage.removeItem(key(who, which))
}
