import { t } from '@/wording'
import { computed, type ComputedRef, type Ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import type { Catalogue, ControlView, ImpactView, RemarkView } from '@/api/schema'
import { layerOf, ruleOf, same, type Rulebook } from './book'

/** What the list of controls shows. */
export const filters = [
  ['', t('rulebook.aFamily')],
  ['differs', t('rulebook.whatDiffersFromTheEditionInForce')],
  ['sealed', t('rulebook.whatIsSealed')],
  ['none', t('rulebook.whatHasNoRule')],
  ['findings', t('rulebook.whatHasFindings')],
  ['remarks', t('rulebook.whatIsDoubtful')],
] as const

/** Everything that can be searched in a control: names, values, family, what it protects from. */
export function searchable(control: ControlView, family: string): string {
  return [
    control.id,
    control.title,
    control.effect,
    control.risk,
    family,
    ...control.rungs.map((r) => `${r.word} ${r.label}`),
    ...(control.universe ?? []),
  ]
    .join(' ')
    .toLowerCase()
}

/** Where one is in the rulebook: all of it in the address, so that Back works and links can be sent. */
export function useRulebookView(about: {
  catalogue: Ref<Catalogue | undefined>
  book: Ref<Rulebook | null>
  published: ComputedRef<Rulebook>
  impact: Ref<ImpactView | null>
  remarks: ComputedRef<RemarkView[]>
  /** The layer that is shown where none is asked for. */
  home: string
}) {
  const route = useRoute()
  const router = useRouter()
  const query = (key: string) => String(route.query[key] ?? '')
  function setQuery(part: Record<string, string | undefined>) {
    return router.replace({ query: { ...route.query, ...part } })
  }

  const layer = computed(() => query('layer') || about.home)
  const show = computed(() => query('show'))
  const search = computed(() => query('text').trim().toLowerCase())
  const byId = computed(() => new Map(about.catalogue.value?.controls.map((c) => [c.id, c])))
  const family = computed(
    () =>
      byId.value.get(query('control'))?.family ||
      query('family') ||
      about.catalogue.value?.families[0]?.id ||
      '',
  )
  const onGuarantees = computed(
    () => query('family') === 'guarantees' && !search.value && !show.value && !query('control'),
  )
  const whom = computed(() => ({
    unit: query('unit') || undefined,
    kind: query('kind') || undefined,
    person: query('person') || undefined,
  }))
  const applied = computed(() => query('applies') === '1')

  const differs = (id: string) =>
    !same(ruleOf(about.book.value, layer.value, id), ruleOf(about.published.value, layer.value, id))
  const guaranteeDiffers = (id: string) => {
    const find = (book: Rulebook | null) =>
      layerOf(book, layer.value)?.guarantees?.find((g) => g.id === id)
    return !same(find(about.book.value), find(about.published.value))
  }
  /** What is found by it as the book in hand has it: with a draft, once that is published. */
  const found = (id: string) =>
    about.impact.value?.subjects.find((s) => s.id === id)?.count.after ?? 0
  const remarksOn = (control: string) =>
    about.remarks.value.filter(
      (r) =>
        r.control === control && (r.layer === undefined || !r.layer || r.layer === layer.value),
    )

  function kept(control: ControlView): boolean {
    const rule = ruleOf(about.book.value, layer.value, control.id)
    switch (show.value) {
      case 'differs':
        return differs(control.id)
      case 'sealed':
        return !!rule?.sealed
      case 'none':
        return !rule
      case 'findings':
        return found(control.id) > 0
      case 'remarks':
        return remarksOn(control.id).some((r) => r.weight !== 'note')
      default:
        return control.family === family.value
    }
  }
  const familyTitle = (id: string) =>
    about.catalogue.value?.families.find((f) => f.id === id)?.title ?? ''
  const shown = computed(() =>
    (about.catalogue.value?.controls ?? []).filter((c) =>
      search.value ? searchable(c, familyTitle(c.family)).includes(search.value) : kept(c),
    ),
  )
  const chosen = computed(() =>
    onGuarantees.value
      ? undefined
      : (shown.value.find((c) => c.id === query('control')) ?? shown.value[0]),
  )

  return {
    query,
    setQuery,
    layer,
    show,
    search,
    family,
    onGuarantees,
    whom,
    applied,
    differs,
    guaranteeDiffers,
    found,
    remarksOn,
    shown,
    chosen,
    toFamily: (id: string) =>
      setQuery({ family: id, control: undefined, text: undefined, show: undefined }),
  }
}
