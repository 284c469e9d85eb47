import { locale, t } from '@/wording'
import createClient, { type Middleware } from 'openapi-fetch'
import type { paths } from './schema'

/** One thing wrong with what was sent: where (JSON Pointer) and what. */
export interface Fault {
  pointer: string
  message: string
}

/** The code of a problem where no answer came. */
export const AWAY = 'away'

/** A request that was answered with a problem document (RFC 9457). */
export class Problem extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    detail: string,
    readonly faults: Fault[],
  ) {
    super(detail)
  }

  static of(status: number, body: unknown): Problem {
    const known = (typeof body === 'object' && body !== null ? body : {}) as Record<string, unknown>
    return new Problem(
      status,
      typeof known.code === 'string' ? known.code : 'unknown',
      typeof known.detail === 'string'
        ? known.detail
        : t('shell.theServerAnsweredStatus', { status }),
      Array.isArray(known.faults) ? (known.faults as Fault[]) : [],
    )
  }
}

function cookie(name: string): string {
  const found = document.cookie.split('; ').find((c) => c.startsWith(`${name}=`))
  return found ? decodeURIComponent(found.slice(name.length + 1)) : ''
}

/** After so long without a key or a click, what the page asks for is asked by itself. */
const IDLE_MS = 60_000
let lastAct = Date.now()
for (const kind of ['keydown', 'pointerdown']) {
  // tests of mere functions have no window
  globalThis.window?.addEventListener(kind, () => (lastAct = Date.now()), {
    capture: true,
    passive: true,
  })
}

/** A page that is left open asks on and on; that keeps no session alive. */
const byItself: Middleware = {
  onRequest({ request }) {
    if (request.method === 'GET' && Date.now() - lastAct > IDLE_MS) {
      request.headers.set('X-Warden-By-Itself', '1')
    }
    return request
  },
}

const csrf: Middleware = {
  onRequest({ request }) {
    if (!['GET', 'HEAD'].includes(request.method)) {
      request.headers.set('X-XSRF-TOKEN', cookie('XSRF-TOKEN'))
    }
    return request
  },
}

/** The server words what it says in the language of the page. */
const worded: Middleware = {
  onRequest({ request }) {
    request.headers.set('Accept-Language', locale.slice(0, 2))
    return request
  },
}

/** Listeners for a session that has ended, so that the page can ask to sign in and lose nothing. */
export const sessionEnded = new EventTarget()

/** Hears of what was refused: who is signed in may have another role since the page was opened. */
export const refused = new EventTarget()

const ended: Middleware = {
  onResponse({ request, response }) {
    if (response.status === 403) refused.dispatchEvent(new Event('refused'))
    if (response.status === 401 && !request.url.endsWith('/api/session')) {
      sessionEnded.dispatchEvent(new Event('ended'))
    }
    return response
  },
}

/** So long an answer is waited for; a file may be on its way for longer. */
const PATIENCE_MS = 3 * 60_000
function patiently(request: Request): Promise<Response> {
  const isFile = request.headers.get('Content-Type') === 'application/octet-stream'
  return fetch(request, isFile ? {} : { signal: AbortSignal.timeout(PATIENCE_MS) })
}

export const api = createClient<paths>({ baseUrl: '', fetch: patiently })
api.use(csrf, byItself, worded, ended)

/** Unwraps an answer, or throws its {@link Problem}. */
export async function take<T>(
  answer: Promise<{ data?: T; error?: unknown; response: Response }>,
): Promise<T> {
  let result
  try {
    result = await answer
  } catch {
    throw new Problem(0, AWAY, t('shell.theServerDoesNotAnswerNothingWas'), [])
  }
  if (!result.response.ok) {
    throw Problem.of(result.response.status, result.error)
  }
  return result.data as T
}
