import { useDebounceFn } from '@vueuse/core'
import { ref, watch, type Ref } from 'vue'
import { api, take } from '@/api/client'
import type { SchedulingPreview } from '@/api/schema'
import { toDocument, type MeetingForm } from './form'

/** What the server says of a form in hand, asked anew a moment after each change. */
export function useSchedulingPreview(
  form: Ref<MeetingForm | null>,
  base: () => string | null,
  inHand: Ref<string | null>,
  service: Ref<number | null>,
) {
  const preview = ref<SchedulingPreview | null>(null)
  const problem = ref<Error | null>(null)
  const asking = ref(false)
  let asked = 0

  async function ask() {
    if (!form.value) return
    const mine = ++asked
    asking.value = true
    try {
      const answer = await take(
        api.POST('/api/scheduling/foretaste', {
          body: {
            meeting: toDocument(form.value) as never,
            base: base(),
            control: inHand.value,
            service: service.value,
          },
        }),
      )
      // an answer to an older question says nothing any more
      if (mine === asked) {
        preview.value = answer
        problem.value = null
      }
    } catch (e) {
      if (mine === asked) problem.value = e as Error
    } finally {
      if (mine === asked) asking.value = false
    }
  }
  const soon = useDebounceFn(ask, 180)
  watch([form, inHand, service], () => soon(), { deep: true, immediate: true })
  return { preview, problem, asking, ask }
}
