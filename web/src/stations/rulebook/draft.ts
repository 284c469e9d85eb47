import { useQuery, useQueryCache } from '@pinia/colada'
import { computed, ref, watch } from 'vue'
import type { Plain } from '@/api/catalogue'
import { api, take } from '@/api/client'
import { useSession } from '@/api/session'

/** A rule as the bundle writes it. */
export interface Rule {
  control: string
  mode: 'suggest' | 'bound' | 'fix'
  start?: Plain
  limit?: Plain
  value?: Plain
  sealed?: boolean
  importance?: number
  reason?: string
}

/** A guarantee as the bundle writes it. */
export interface Guarantee {
  id: string
  who: string[]
  rights: string[]
  ceiling: string
  importance?: number
  reason?: string
}

/** A layer as the bundle writes it. */
export interface Layer {
  scope: { level: 'organisation' | 'unit' | 'kind'; id?: string }
  rules: Rule[]
  guarantees?: Guarantee[]
}

/** The bundle's rulebook part. */
export interface Rulebook {
  layers: Layer[]
}

const copy = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T
const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b)

/** A layer's name in addresses: `organisation`, `unit:pilotage`. */
export function scopeKey(scope: Layer['scope']): string {
  return scope.id ? `${scope.level}:${scope.id}` : scope.level
}

/**
 * The edition in force with the draft over it: saved on the server as it changes, undone step by
 * step, published as the next edition.
 */
export function useDraft() {
  const session = useSession()
  const cache = useQueryCache()
  const inForce = useQuery({
    key: ['rulebook', 'in-force'],
    query: () => take(api.GET('/api/rulebook')),
  })
  const rulebook = ref<Rulebook | null>(null)
  const base = ref(0)
  const past = ref<Rulebook[]>([])
  const saving = ref<'saved' | 'saving' | 'failed'>('saved')
  const problem = ref<Error | null>(null)

  async function load() {
    if (!inForce.data.value || rulebook.value) return
    const stored = session.isWarden
      ? await take(api.GET('/api/rulebook/draft')).catch(() => undefined)
      : undefined
    base.value = stored?.baseEdition ?? inForce.data.value.number
    rulebook.value = copy((stored?.document ?? inForce.data.value.document) as unknown as Rulebook)
  }
  watch(inForce.data, load, { immediate: true })

  const published = computed(
    () => (inForce.data.value?.document ?? { layers: [] }) as unknown as Rulebook,
  )
  const changed = computed(() => !!rulebook.value && !same(rulebook.value, published.value))
  const overtaken = computed(() => !!inForce.data.value && base.value !== inForce.data.value.number)

  let timer: ReturnType<typeof setTimeout> | undefined
  function saveSoon() {
    saving.value = 'saving'
    clearTimeout(timer)
    timer = setTimeout(save, 400)
  }
  async function save() {
    if (!rulebook.value) return
    try {
      await take(
        api.PUT('/api/rulebook/draft', {
          body: {
            baseEdition: base.value,
            document: rulebook.value as unknown as Record<string, never>,
          },
        }),
      )
      saving.value = 'saved'
    } catch {
      saving.value = 'failed'
    }
  }

  function layer(key: string): Layer | undefined {
    return rulebook.value?.layers.find((l) => scopeKey(l.scope) === key)
  }
  function ruleIn(book: Rulebook | null, key: string, control: string): Rule | undefined {
    return book?.layers
      .find((l) => scopeKey(l.scope) === key)
      ?.rules.find((r) => r.control === control)
  }

  /** Puts a rule in place, or takes it away where it is null. */
  function setRule(key: string, control: string, rule: Rule | null) {
    if (!rulebook.value) return
    past.value.push(copy(rulebook.value))
    if (past.value.length > 100) past.value.shift()
    let at = layer(key)
    if (!at) {
      const [level, id] = key.split(':')
      at = { scope: { level: level as Layer['scope']['level'], ...(id ? { id } : {}) }, rules: [] }
      rulebook.value.layers.push(at)
    }
    const index = at.rules.findIndex((r) => r.control === control)
    if (rule && index >= 0) at.rules[index] = rule
    else if (rule) at.rules.push(rule)
    else if (index >= 0) at.rules.splice(index, 1)
    saveSoon()
  }

  function undo() {
    const before = past.value.pop()
    if (before) {
      rulebook.value = before
      saveSoon()
    }
  }

  async function discard() {
    clearTimeout(timer)
    await take(api.DELETE('/api/rulebook/draft'))
    past.value = []
    base.value = inForce.data.value?.number ?? 0
    rulebook.value = copy(published.value)
    saving.value = 'saved'
  }

  /** Begins the first draft from the starter rulebook. */
  async function takeStarter() {
    const starter = await take(api.GET('/api/rulebook/starter'))
    rulebook.value = starter as unknown as Rulebook
    saveSoon()
  }

  /** Takes up the edition that was published meanwhile as what the draft is compared with. */
  function rebase() {
    base.value = inForce.data.value?.number ?? 0
    problem.value = null
    saveSoon()
  }

  async function publish(reason: string) {
    if (!rulebook.value) return false
    problem.value = null
    clearTimeout(timer)
    try {
      await take(
        api.POST('/api/rulebook/editions', {
          body: {
            baseEdition: base.value,
            reason,
            document: rulebook.value as unknown as Record<string, never>,
          },
        }),
      )
      past.value = []
      base.value += 1
      saving.value = 'saved'
      await cache.invalidateQueries({ key: ['rulebook'] })
      await cache.invalidateQueries({ key: ['meetings'] })
      await cache.invalidateQueries({ key: ['meeting'] })
      return true
    } catch (e) {
      problem.value = e as Error
      await save() // nothing is lost, whoever published meanwhile
      await cache.invalidateQueries({ key: ['rulebook'] })
      return false
    }
  }

  /** What differs from the edition in force, a line each. */
  const differences = computed(() => {
    const lines: { layer: string; control: string; before?: Rule; after?: Rule }[] = []
    const keys = new Set([
      ...published.value.layers.map((l) => scopeKey(l.scope)),
      ...(rulebook.value?.layers ?? []).map((l) => scopeKey(l.scope)),
    ])
    for (const key of keys) {
      const rules = (book: Rulebook | null) =>
        book?.layers.find((l) => scopeKey(l.scope) === key)?.rules ?? []
      const controls = new Set(
        [...rules(published.value), ...rules(rulebook.value)].map((r) => r.control),
      )
      for (const control of controls) {
        const before = ruleIn(published.value, key, control)
        const after = ruleIn(rulebook.value, key, control)
        if (!same(before, after)) lines.push({ layer: key, control, before, after })
      }
    }
    return lines
  })

  return {
    inForce,
    rulebook,
    changed,
    overtaken,
    saving,
    problem,
    differences,
    canUndo: computed(() => past.value.length > 0),
    rule: (key: string, control: string) => ruleIn(rulebook.value, key, control),
    publishedRule: (key: string, control: string) => ruleIn(published.value, key, control),
    setRule,
    undo,
    discard,
    takeStarter,
    rebase,
    publish,
  }
}
