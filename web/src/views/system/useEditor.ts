// A system as it is being changed: the acts of a person, in their order, over the revision that was there.
import { computed, type Ref } from 'vue'
import type { Schemas } from '../../core/core'
import { askJob } from '../../data/folded'
import { useDraft } from '../../data/useDraft'
import { useLatest } from '../../data/useLatest'

export type System = Schemas['SystemSystem']
export type Layer = Schemas['SystemLayer']
export type Step = Schemas['SystemStep']
export type Act = Schemas['SystemAct']

/** The id of a system that is begun from nothing, until it is kept. */
export const BLANK = 'blank'

export function useEditor(key: () => string, job: string, base: Ref<System | null>, taken: Ref<string[]>) {
  const draft = useDraft(key, () => ({ acts: '[]' }))
  const acts = computed(() => JSON.parse(draft.typed.value.acts ?? '[]') as Act[])
  const made = useLatest(
    () => [base.value, draft.typed.value.acts, taken.value],
    async () =>
      base.value ? askJob(job, 'system.revise', { system: base.value, acts: acts.value, taken: taken.value }) : null,
  )
  const system = computed(() => made.value?.system ?? base.value)
  /** Each act is one step of undo. */
  const act = (one: Act) => draft.replace({ ...draft.typed.value, acts: JSON.stringify([...acts.value, one]) })
  return { draft, acts, made, system, act }
}
