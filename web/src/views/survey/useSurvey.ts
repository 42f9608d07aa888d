// The survey under way: its form, what was typed, and what the core makes of it.
import { computed, nextTick, ref, shallowRef, watch } from 'vue'
import { call, type Schemas } from '../../core/core'
import { useAsking } from '../../data/useAsking'
import { useDraft } from '../../data/useDraft'
import { useArea } from '../area/useArea'

export type Question = Schemas['AskQuestion']

/** Marks a copied size that was checked on site; it stands beside the answers in the draft. */
const checkedMark = (id: string) => `checked ${id}`
/** Marks a question that may be left out and was. */
const passedMark = (id: string) => `passed ${id}`

export function useSurvey() {
  const { look, area } = useArea()
  const keptTyped = (): Record<string, string> => {
    const survey = look.value.survey
    if (!survey) return look.value.begun ? { ...look.value.begun.typed, form: look.value.begun.form } : {}
    const typed = Object.fromEntries(Object.entries(survey.answers).map(([id, answer]) => [id, answer.typed]))
    return { ...typed, form: survey.form }
  }
  const draft = useDraft(() => `survey.${area}`, keptTyped)
  const form = computed(() => draft.typed.value.form ?? '')

  /** Sizes that came with a copy are asked again, each with its copied value. */
  const copied = computed(() => (!look.value.survey && look.value.begun?.check ? look.value.begun.typed : {}))
  const toCheck = (q: Question) =>
    ['length', 'number', 'angle'].includes(q.kind) &&
    copied.value[q.id] !== undefined &&
    draft.typed.value[checkedMark(q.id)] === undefined
  /** What may be left out is offered once: it is answered or passed over. */
  const toOffer = (q: Question) => !!q.offered && draft.typed.value[passedMark(q.id)] === undefined
  const open = (q: Question) => q.state !== 'answered' || toCheck(q) || toOffer(q)

  /** The question under way is found again after a reload. */
  const kept = ref(sessionStorage.getItem(`asking.${area}`) ?? '')
  watch(kept, (id) => sessionStorage.setItem(`asking.${area}`, id))
  const read = async (): Promise<Schemas['OpsSurveyAskOut']> => {
    await nextTick() // the drawing is asked first: the eye is there
    return call('survey.ask', {
      form: form.value || 'rectangle',
      typed: { ...draft.typed.value },
      rules: look.value.rules,
    })
  }
  const asks = useAsking(draft, read, kept, open)

  /** The last drawing that fitted: a wrong number does not take it away. */
  const sketch = shallowRef<Schemas['WetareaArea'] | null>(null)
  watch(asks.asked, (out) => (sketch.value = out?.sketch ?? sketch.value))
  watch(form, () => (sketch.value = null))

  const changed = computed(
    () => JSON.stringify(answersOf(draft.typed.value)) !== JSON.stringify(answersOf(keptTyped())),
  )
  const unchecked = computed(() => asks.questions.value.filter(toCheck).length)

  async function check(id: string): Promise<void> {
    if (copied.value[id] !== undefined) await draft.type(checkedMark(id), '1')
  }
  async function pass(id: string): Promise<void> {
    await draft.type(passedMark(id), '1')
  }
  return { draft, form, asks, sketch, changed, unchecked, check, toCheck, toOffer, pass }
}

/** What was typed, without marks and without what was left empty. */
function answersOf(typed: Record<string, string>): [string, string][] {
  return Object.entries(typed)
    .filter(([id, text]) => text !== '' && !id.includes(' '))
    .sort(([a], [b]) => a.localeCompare(b))
}
