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
export function stopSearch(): void {
  worker?.terminate()
  worker = null
  door = null
}

/** Asks the second core. @throws Refusal */
async function ask<T>(op: string, input: object): Promise<T> {
  const answer = JSON.parse(await open().call(op, JSON.stringify(input))) as { out: T } | { faults: Fault[] }
  if ('faults' in answer) throw new Refusal(answer.faults)
  return answer.out
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
    const found: Cut = await ask('cutting.bands', input)
    if (ended()) return
    best = found
    tell(best)
  } while (best.from && best.steps - begun < ENOUGH)
}

export type Plan = Schemas['SchedulePlan']

/** How many orders of crews and steps are looked at between two answers, and how many at most before one is asked to look on. */
const NODES = 1000
export const ENOUGH_NODES = 20_000

/**
 * Looks for a plan of the days that ends sooner, telling of each answer.
 * @throws Refusal when the problem cannot be read
 */
export async function searchDays(
  problem: Schemas['ScheduleProblem'],
  from: Plan['from'],
  tell: (plan: Plan) => void,
  ended: () => boolean,
): Promise<void> {
  let next = from
  const begun = from?.nodes ?? 0
  do {
    const plan: Plan = await ask('schedule.solve', { ...problem, most_nodes: NODES, ...(next ? { from: next } : {}) })
    if (ended()) return
    tell(plan)
    next = plan.from
  } while (next && next.nodes - begun < ENOUGH_NODES)
}
