import { computed, ref, shallowRef, watch, type Ref } from 'vue'
import type { Schemas } from '../core/core'
import { sayFault } from '../words/words'
import type { useDraft } from './useDraft'

interface Answered {
  questions: Schemas['AskQuestion'][]
  next: string
  left: number
}

/**
 * A form whose questions the core asks one at a time. What is typed lies in the draft, and
 * so in the local copy, before `read` judges it.
 */
export function useAsking<A extends Answered>(
  draft: ReturnType<typeof useDraft>,
  read: () => Promise<A>,
  asking = ref(''),
  /** What still has to be asked: what has no answer, and what a view wants looked at again. */
  open: (question: Schemas['AskQuestion']) => boolean = (q) => q.state !== 'answered',
) {
  const asked: Ref<A | null> = shallowRef(null)
  const error = ref('')
  let calls = 0

  async function refresh(): Promise<A> {
    const mine = ++calls
    const out = await read()
    if (mine === calls) {
      asked.value = out
      // What is asked may be gone: with another shape, or an item taken away.
      const gone = !out.questions.some((q) => q.id === asking.value)
      if (draft.ready.value && gone) asking.value = out.questions.find(open)?.id ?? ''
    }
    return out
  }
  watch([draft.typed, draft.ready], () => void refresh(), { immediate: true })

  const questions = computed(() => asked.value?.questions ?? [])
  const question = computed(() => questions.value.find((q) => q.id === asking.value))

  /** The next question that is not answered, walking on from one and round again. */
  function after(id: string): string {
    const at = questions.value.findIndex((q) => q.id === id)
    const order = [...questions.value.slice(at + 1), ...questions.value.slice(0, at)]
    return order.find(open)?.id ?? ''
  }

  async function type(text: string): Promise<void> {
    error.value = ''
    await draft.type(asking.value, text)
  }

  async function enter(): Promise<void> {
    const id = asking.value
    const out = await refresh() // judges what stands in the local copy, not what the last answer saw
    const fault = out.questions.find((q) => q.id === id)?.fault
    error.value = fault ? sayFault(fault) : ''
    if (!fault) asking.value = after(id)
  }

  /** Types an answer and enters it. */
  async function answer(text: string): Promise<void> {
    await type(text)
    await enter()
  }

  function ask(id: string): void {
    error.value = ''
    asking.value = id
  }

  return { asked, asking, error, questions, question, after, type, enter, answer, ask }
}
