import { Refusal } from '../core/core'
import { sayFault } from '../words/words'

/** What the core refused, in words. Whatever else went wrong goes on being thrown. */
export function sayRefusal(error: unknown, between = ' '): string {
  if (!(error instanceof Refusal)) throw error
  return error.faults.map(sayFault).join(between)
}
