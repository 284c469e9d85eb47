import type { MeetingForm } from './form'

/** What was typed and not saved, kept in this browser so that an ended session loses nothing. */
const key = (which: string) => `warden-meeting-${which}`

/** A form as it was kept. Passcodes are never kept in the browser. */
export interface Kept {
  at: string
  form: MeetingForm
}

export function keep(which: string, form: MeetingForm, now = new Date()) {
  const kept: Kept = {
    at: now.toISOString(),
    form: { ...form, passcode: null, phonePasscode: null },
  }
  try {
    localStorage.setItem(key(which), JSON.stringify(kept))
  } catch {
    // a browser without room for it: nothing else depends on it
  }
}

export function kept(which: string): Kept | null {
  try {
    const text = localStorage.getItem(key(which))
    const found = text ? (JSON.parse(text) as Kept) : null
    return found && typeof found.form?.start === 'string' ? found : null
  } catch {
    return null
  }
}

export function forget(which: string) {
  localStorage.removeItem(key(which))
}
