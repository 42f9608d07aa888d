import { wrap } from 'comlink'
import type { components, paths } from '../data/api'
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

/** What the core refused, with the field of each fault. */
export class Refusal extends Error {
  constructor(readonly faults: Fault[]) {
    super(faults.map((fault) => `${fault.field}: ${fault.key}`).join('\n'))
  }
}

const worker = new Worker(new URL('./worker.ts', import.meta.url), { type: 'module' })
const door = wrap<Door>(worker)

/**
 * Runs an operation of the core in the worker. The entries of a job may be given as the
 * exact texts they were made with: they are passed on as they are.
 * @throws Refusal when the input is at fault
 */
export async function call<N extends OpName>(
  op: N,
  input: Omit<In<N>, 'entries'>,
  entries?: readonly string[],
): Promise<Out<N>> {
  let text = JSON.stringify(input)
  if (entries) {
    const rest = text.slice(1)
    text = `{"entries":[${entries.join(',')}]${rest === '}' ? '' : ','}${rest}`
  }
  const answer = JSON.parse(await door.call(op, text)) as { out: Out<N> } | { faults: Fault[] }
  if ('faults' in answer) throw new Refusal(answer.faults)
  return answer.out
}
