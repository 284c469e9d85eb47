import { useIntervalFn } from '@vueuse/core'
import { ref } from 'vue'
import type { SessionLine } from '@/api/schema'

/**
 * Sessions' clocks between two readings: each runs on from where it was read, as fast as it runs.
 */
export function useNow() {
  const wall = ref(Date.now())
  useIntervalFn(() => (wall.value = Date.now()), 1000)
  const read = new Map<string, { clock: string; at: number }>()
  /** The session's clock now, in milliseconds since 1970. */
  function now(line: SessionLine): number {
    let known = read.get(line.id)
    if (known?.clock !== line.clock) {
      known = { clock: line.clock, at: Date.now() }
      read.set(line.id, known)
    }
    const stands = line.state === 'ended' || line.state === 'lost'
    const since = stands ? 0 : Math.max(0, wall.value - known.at)
    return new Date(line.clock).getTime() + since * line.speed
  }
  return { now }
}
