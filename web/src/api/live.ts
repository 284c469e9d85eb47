import { useQueryCache } from '@pinia/colada'
import { onBeforeUnmount, onMounted, watch } from 'vue'

/** What is asked for again when a topic is heard of (see the server's signals). */
const concerned: Record<string, string[]> = {
  standing: ['standing', 'lookout', 'meetings', 'meeting'],
  runs: ['audits', 'lookout'],
  waivers: ['waivers', 'standing', 'lookout'],
  requests: ['requests', 'lookout'],
  remedies: ['remedies', 'lookout'],
  floor: ['floor'],
  services: ['services', 'meeting', 'meetings'],
}
const everything = [...new Set(Object.values(concerned).flat())]
const pause = 400

/** Others on the page who want to know of a topic, besides the queries. */
export const heard = new EventTarget()

/**
 * Gathers topics and tells of them together after a moment, so that a burst costs one round.
 *
 * @param tell gets the names of the queries concerned
 */
export function gatherer(tell: (keys: string[]) => void, wait = pause) {
  const waiting = new Set<string>()
  let timer: ReturnType<typeof setTimeout> | undefined
  return (topic: string) => {
    const keys = topic === 'connected' ? everything : (concerned[topic] ?? [])
    keys.forEach((k) => waiting.add(k))
    if (timer || !waiting.size) return
    timer = setTimeout(() => {
      timer = undefined
      const now = [...waiting]
      waiting.clear()
      tell(now)
    }, wait)
  }
}

/**
 * Keeps what the page shows current while it is looked at. A browser has six connections to a
 * server for all its tabs: a page that is hidden, or left, gives its own back, and asks for
 * everything again when it is looked at once more. A line that breaks is taken up by the browser.
 *
 * @param when whether there is somebody to tell
 */
export function useLive(when: () => boolean = () => true) {
  const cache = useQueryCache()
  let source: EventSource | undefined
  let wasConnected = false
  const hear = gatherer((keys) => {
    keys.forEach((key) => cache.invalidateQueries({ key: [key] }))
    heard.dispatchEvent(new CustomEvent('keys', { detail: keys }))
  })
  function listen() {
    if (source || !when() || document.hidden || typeof EventSource === 'undefined') return
    source = new EventSource('/api/live')
    source.addEventListener('connected', () => {
      // what happened while the line was down is asked for now
      if (wasConnected) hear('connected')
      wasConnected = true
    })
    Object.keys(concerned).forEach((topic) => source?.addEventListener(topic, () => hear(topic)))
  }
  function leave() {
    source?.close()
    source = undefined
  }
  watch(when, (wanted) => (wanted ? listen() : leave()))
  const look = () => (document.hidden ? leave() : listen())
  onMounted(() => {
    listen()
    document.addEventListener('visibilitychange', look)
    window.addEventListener('pagehide', leave)
    window.addEventListener('pageshow', listen)
  })
  onBeforeUnmount(() => {
    leave()
    document.removeEventListener('visibilitychange', look)
    window.removeEventListener('pagehide', leave)
    window.removeEventListener('pageshow', listen)
  })
}

/** Calls back whenever one of these queries' data may have changed. */
export function useHeard(keys: string[], then: () => void) {
  const on = (event: Event) => {
    if ((event as CustomEvent<string[]>).detail.some((k) => keys.includes(k))) then()
  }
  onMounted(() => heard.addEventListener('keys', on))
  onBeforeUnmount(() => heard.removeEventListener('keys', on))
}
