import { t } from '@/wording'
import type { Ref } from 'vue'
import type { Plain } from '@/api/catalogue'
import type { ControlView, Resolved } from '@/api/schema'
import { within } from '@/api/within'
import { useKeys } from '@/shell/keys'
import { freeId, ruleOf, type Guarantee, type Rule } from './book'
import type { useDraft } from './draft'
import { inMode, ownFrom } from './rungs'
import type { useRulebookView } from './view'

/** What one does to a layer's rules and guarantees, by mouse and by key. */
export function useActs(on: {
  draft: ReturnType<typeof useDraft>
  view: ReturnType<typeof useRulebookView>
  controls: Ref<Map<string, ControlView>>
  resolved: (control: string) => Resolved | undefined
  editable: Ref<boolean>
  publish: () => unknown
}) {
  const { draft, view } = on
  const rule = (id: string) => ruleOf(draft.book.value, view.layer.value, id)

  function change(id: string, to: Rule | null) {
    draft.change({ layer: view.layer.value, control: id }, to)
  }
  function moveStart(id: string, value: Plain) {
    const now = rule(id)
    if (now) change(id, now.mode === 'fix' ? { ...now, value } : { ...now, start: value })
  }
  function moveLimit(id: string, value: Plain) {
    const now = rule(id)
    const control = on.controls.value.get(id)
    if (!now || !control) return
    // a bar that passes the peg takes it along
    const outside = now.start !== undefined && !within(control, now.start, value)
    change(id, { ...now, limit: value, ...(outside ? { start: value } : {}) })
  }
  function changeGuarantee(id: string, to: Guarantee | null) {
    draft.change({ layer: view.layer.value, guarantee: id }, to)
  }
  function addGuarantee() {
    if (!draft.book.value) return
    const id = freeId(draft.book.value, 'link-finder', 'share-screen')
    const fresh = { who: ['link-finder'], rights: ['share-screen'], ceiling: 'host-lets-in' }
    changeGuarantee(id, { id, ...fresh, importance: 3 })
    view.setQuery({ guarantee: id })
  }

  function step(by: number) {
    const at = view.shown.value.findIndex((c) => c.id === view.chosen.value?.id)
    const next = view.shown.value[at + by]
    if (next) view.setQuery({ control: next.id })
  }
  function cycleMode() {
    const control = view.chosen.value
    if (!control || !on.editable.value) return
    const now = rule(control.id)
    const modes: Rule['mode'][] = control.neutral ? ['suggest', 'fix'] : ['suggest', 'bound', 'fix']
    const next = modes[now ? modes.indexOf(now.mode) + 1 : 0]
    const from = now ?? ownFrom(control.id, on.resolved(control.id))
    change(control.id, next ? inMode(from, control, next) : null)
  }
  function toggleSeal() {
    const now = view.chosen.value && rule(view.chosen.value.id)
    if (!now || now.mode === 'suggest' || !on.editable.value) return
    const { sealed, ...rest } = now
    change(now.control, sealed ? rest : { ...rest, sealed: true })
  }

  useKeys([
    { key: 'j', does: t('rulebook.nextControl'), act: () => step(1) },
    { key: 'k', does: t('rulebook.previousControl'), act: () => step(-1) },
    // the ladder's own
    { key: 'ArrowLeft', does: t('rulebook.moveThePegOrTheBar') },
    { key: 'ArrowRight', does: t('rulebook.moveThePegOrTheBar') },
    { key: 'm', does: t('rulebook.anotherMode'), act: cycleMode },
    { key: 's', does: t('rulebook.sealOrUnseal'), act: toggleSeal },
    { key: 'u', does: t('rulebook.undo'), act: () => draft.undo() },
    { key: 'r', does: t('rulebook.redo'), act: () => draft.redo() },
    { key: 'p', does: t('rulebook.compareAndPublish'), act: () => on.publish() },
  ])
  return { change, moveStart, moveLimit, changeGuarantee, addGuarantee }
}
