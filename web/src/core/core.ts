import { wrap } from 'comlink'
import type { components, paths } from '../data/api'
import { loading } from '../data/loading'
import type { Door } from './worker'

export type Schemas = components['schemas']
export type Fault = Schemas['FaultFault']

type ComputePath = Extract<keyof paths, `/api/compute/${string}`>
type Post<P extends ComputePath> = paths[P]['post']

/** Names of the operations of the table. */
export type OpName = ComputePath extends `/api/compute/${infer Name}` ? Name : never
type In<N extends OpName> =
  Post<`/api/compute/${N}`> extends {
    requestBody: { content: { 'application/json': infer I } }
  }
    ? I
    : never
type Out<N extends OpName> =
  Post<`/api/compute/${N}`> extends {
    responses: { 200: { content: { 'application/json': infer O } } }
  }
    ? O
    : never
/** Operations that are asked of a job. */
export type JobOp = { [N in OpName]: In<N> extends { entries?: unknown; job?: string } ? N : never }[OpName]
export type Asked<N extends JobOp> = Omit<In<N>, 'entries' | 'job'>
export type Answer<N extends OpName> = Out<N>

/** What the core refused, with the field of each fault. */
export class Refusal extends Error {
  constructor(readonly faults: Fault[]) {
    super(faults.map((fault) => `${fault.field}: ${fault.key}`).join('\n'))
  }
}

const worker = new Worker(new URL('./worker.ts', import.meta.url), { type: 'module' })
const door = wrap<Door>(worker)
void door.ready().then(() => (loading.value = { what: '', n: 0 }))

async function answerOf<T>(text: Promise<string>): Promise<T> {
  const answer = JSON.parse(await text) as { out: T } | { faults: Fault[] }
  if ('faults' in answer) throw new Refusal(answer.faults)
  return answer.out
}

/**
 * Runs an operation of the core in the worker. One of a job is asked through `data/folded.ts`.
 * @throws Refusal when the input is at fault
 */
export function call<N extends OpName>(op: N, input: In<N>): Promise<Out<N>> {
  return answerOf(door.call(op, JSON.stringify(input)))
}

const listOf = (texts: readonly string[]) => `[${texts.join(',')}]`

/** Folds a job anew in the worker, from the texts of all its entries. */
export const loadJob = (job: string, texts: readonly string[]) => answerOf<null>(door.load(job, listOf(texts)))

/** Adds entries to a job that is loaded, and leaves others out by id. */
export const changeJob = (job: string, added: readonly string[], gone: readonly string[]) =>
  answerOf<null>(door.change(job, listOf(added), JSON.stringify(gone)))

/** Lets go of a job in the worker. */
export const dropJob = (job: string) => answerOf<null>(door.drop(job))
