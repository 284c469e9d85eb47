import { useQueryCache } from '@pinia/colada'
import { ref, shallowReactive, watch, type Ref } from 'vue'
import { label, useCatalogue, type Plain } from '@/api/catalogue'
import { api, take } from '@/api/client'
import type { MeetingView } from '@/api/schema'
import { useAct, useTurns } from '@/shell/act'
import { counted } from '@/shell/counted'
import { useKeep } from '@/shell/keep'
import { t } from '@/wording'

/**
 * Changes of a meeting's controls on its page: one after the other, each said and to be undone.
 *
 * @param id of the meeting that the page is about by now
 * @param data as it was read last
 * @param refetch reads it again
 */
export function useControlChanges(
  id: () => string,
  data: Ref<MeetingView | undefined>,
  refetch: () => Promise<unknown>,
) {
  const cache = useQueryCache()
  const keep = useKeep()
  const { controls } = useCatalogue()
  const { busy, problem, attempt } = useAct()
  const said = ref('')
  /** What takes the last change back; null where there is none. */
  const undoable = ref<Record<string, Plain | null> | null>(null)
  watch(id, () => {
    undoable.value = null
    said.value = ''
    chosen.clear()
  })

  const turn = useTurns()
  /** Changes one after the other: each is made to what the one before has left. */
  const send = (changes: Record<string, Plain | null>, words: string) => {
    const meeting = id()
    return turn(() => sendNow(meeting, changes, words)) as ReturnType<typeof sendNow>
  }
  async function sendNow(meeting: string, changes: Record<string, Plain | null>, words: string) {
    const now = data.value
    if (now?.id !== meeting) return
    const before = Object.fromEntries(
      Object.keys(changes).map((id) => [id, now.controls[id] ?? null]),
    )
    return attempt(async () => {
      let after: MeetingView
      try {
        after = await take(
          api.PATCH('/api/meetings/{id}/controls', {
            params: { path: { id: now.id } },
            body: { version: now.version, controls: changes },
          }),
        )
      } catch (e) {
        await refetch()
        throw e
      }
      keep(['meeting', now.id], after)
      // whoever has gone on to another meeting is told nothing of this one, and undoes nothing of it there
      if (id() === now.id) {
        undoable.value = before
        said.value = words
      }
      await cache.invalidateQueries({ key: ['meetings'] })
      return after
    })
  }
  /** What was chosen and is not answered yet: the fields show that, and not what it takes the place of. */
  const chosen = shallowReactive(new Map<string, { value: Plain }>())
  function change(control: string, value: Plain) {
    const about = controls.value.get(control)
    // what a conference service holds is so once it was read back, and the page says how far that is
    const said = data.value?.held
      ? t('register.titleIsToBeAbout', { title: about?.title, about: label(about, value) })
      : t('register.titleIsNowAbout', { title: about?.title, about: label(about, value) })
    const mine = { value }
    chosen.set(control, mine)
    void send({ [control]: value }, said).finally(() => {
      if (chosen.get(control) === mine) chosen.delete(control)
    })
  }
  function changed(count: number) {
    const what = counted(count, 'control')
    if (!data.value?.held) return t('register.whatChanged', { what })
    return t('register.whatToBeChangedNameHasTo', { what, name: data.value.held.name })
  }
  function applyRemedy() {
    if (busy.value) return
    const changes = data.value?.assessment.remedy?.changes ?? []
    send(Object.fromEntries(changes.map((c) => [c.control, c.to])), changed(changes.length))
  }
  async function undo() {
    if (!undoable.value || busy.value) return
    const done = await send(
      undoable.value,
      data.value?.held ? t('register.itIsToBeAsItWas') : t('register.putBackAsItWas'),
    )
    if (done) undoable.value = null
  }

  return { busy, problem, said, undoable, chosen, change, applyRemedy, undo }
}
