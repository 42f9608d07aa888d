// What holds the start of a step, in one sentence; kept with a plan that is accepted.
import type { Schemas } from '../core/core'
import { say } from './words'

const GRID = 5 * 60_000

/** A link that holds a start is a wait where the step opens right then; else the step before it ends. */
export function heldOf({ held, start, opens }: Schemas['SiteRow']): Schemas['LogbookHeld'] {
  const waits = held.by === 'link' && opens && Date.parse(start) - Date.parse(opens) < GRID
  const { title, name, until } = held
  return {
    by: waits ? 'wait' : held.by,
    ...(title ? { title } : {}),
    ...(name ? { name } : {}),
    ...(Date.parse(until) > 0 ? { until } : {}),
  }
}

export const sayHeld = ({ by, ...args }: Schemas['LogbookHeld']) => say(`days.held.${by}`, args)
