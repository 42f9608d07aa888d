// A second worker with a core of its own, for a search that takes long: the page goes on meanwhile,
// and Stop ends it at once.
import { wrap, type Remote } from 'comlink'
import { Refusal, type Fault, type Schemas } from './core'
import type { Door } from './worker'

type Bands = Schemas['CuttingBands']
export type Cut = Schemas['CuttingCut']

/** How many steps are taken between two looks at what was found. */
const SLICE = 100_000
/** The search ends here by itself; it can be asked to go on. */
export const ENOUGH = 1_000_000

let worker: Worker | null = null
let door: Remote<Door> | null = null

function open(): Remote<Door> {
  if (!worker || !door) {
    worker = new Worker(new URL('./worker.ts', import.meta.url), { type: 'module' })
    door = wrap<Door>(worker)
  }
  return door
}

/** Ends a search that is under way; what was found so far has been given. */
export function stopCutter(): void {
  worker?.terminate()
  worker = null
  door = null
}

/**
 * Looks for the best plan, telling of each better one. It gives the last one.
 * @throws Refusal when the runs cannot be cut
 */
export async function searchCut(
  bands: Bands,
  from: Cut | null,
  tell: (cut: Cut) => void,
  ended: () => boolean,
): Promise<void> {
  let best = from
  const begun = from?.steps ?? 0
  do {
    const input = { ...bands, steps: best ? SLICE : 0, ...(best?.from ? { from: best.from } : {}) }
    const text = await open().call('cutting.bands', JSON.stringify(input))
    if (ended()) return
    const answer = JSON.parse(text) as { out: Cut } | { faults: Fault[] }
    if ('faults' in answer) throw new Refusal(answer.faults)
    best = answer.out
    tell(best)
  } while (best.from && best.steps - begun < ENOUGH)
}
