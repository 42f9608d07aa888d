// The area that is open, for every step's view: what the core says of it, and the one way
// to record something.
import { inject, provide, type InjectionKey, type Ref } from 'vue'
import type { Schemas } from '../../core/core'
import type { Look } from '../../data/book'

/** A step of an area's order: that one is named and there for something, the core has checked. */
export type Step = Schemas['LogbookStepLook'] & { title: string; does: string }
export type Coat = Schemas['LogbookCoatLook']
export type Batch = Schemas['LogbookBatchLook']
export type Spot = Schemas['DrawSpot']

/** No, or not known: the step is not begun before somebody looked, or answers for it by name and reason. */
export const isShut = (step: Step) => !!step.block && step.block.kind !== 'earlier'

export interface AreaContext {
  job: string
  area: string
  look: Ref<Look>
  now: Ref<Date>
  /** The clock by whole minutes, for drawings that move no faster. */
  minute: Ref<string>
  /** An entry is being kept: a second tap would record it twice. */
  busy: Ref<boolean>
  /** What does not fit of the entry that was made last. */
  fresh: Ref<Schemas['LogbookDeviation'][]>
  /** Records an entry of this area; asks who is at work first. False when nobody said so. */
  record: (
    kind: string,
    body: unknown,
    say: { key: string; args?: Record<string, unknown> },
    mend?: { corrects: string; reason: string },
  ) => Promise<boolean>
  go: (stage: string) => void
  /** Shows a step of the stage in view. */
  show: (step: string) => void
  /** Goes to what is next after an entry, unless another place was gone to while it was kept. */
  goOn: () => void
  nameOf: (person: string) => string
}

const key: InjectionKey<AreaContext> = Symbol('area')

export const provideArea = (context: AreaContext) => provide(key, context)

export function useArea(): AreaContext {
  const context = inject(key)
  if (!context) throw new Error('no area is open here')
  return context
}
