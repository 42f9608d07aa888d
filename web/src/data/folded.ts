// What the core keeps folded of each job. Before anything is asked of a job it is brought up to the
// local copy: each entry goes to the core once.
import {
  call,
  changeJob,
  dropJob,
  loadJob,
  Refusal,
  type Answer,
  type Asked,
  type JobOp,
  type OpName,
} from '../core/core'
import { whileLoading } from './loading'
import { local, type LocalEntry } from './local'
import { outbox, version } from './sync'

/** As many entries are kept folded, of jobs that were asked last; the last one stays whatever its size. */
const MOST = 20_000

interface Folded {
  ids: Set<string>
  /** the local copy as it was brought up to */
  at: string
}

const jobs = new Map<string, Folded>()
let turn: Promise<unknown> = Promise.resolve()

/** As operations take it: what is no JSON as a string. */
const textOf = (entry: LocalEntry) => (entry.odd ? JSON.stringify(entry.bytes) : entry.bytes)

async function textsOf(ids: string[]): Promise<[string[], string[]]> {
  const found = (await local.entries.bulkGet(ids)).filter((entry) => entry !== undefined)
  return [found.map((entry) => entry.id), found.map(textOf)]
}

async function bringUp(job: string): Promise<void> {
  let folded = jobs.get(job)
  const at = `${version.value}.${outbox.value}`
  jobs.delete(job)
  if (folded?.at !== at) {
    const aside = new Set(await local.entries.where('state').anyOf('aside', 'out').primaryKeys())
    const ids = (await local.entries.where('jobId').equals(job).primaryKeys()).filter((id) => !aside.has(id))
    if (!folded) {
      const [known, texts] = await textsOf(ids)
      await whileLoading(texts.length, loadJob(job, texts))
      folded = { ids: new Set(known), at }
    } else {
      const now = new Set(ids)
      const had = folded.ids
      const gone = [...had].filter((id) => !now.has(id))
      const [known, texts] = await textsOf(ids.filter((id) => !had.has(id)))
      if (gone.length || texts.length) await changeJob(job, texts, gone)
      gone.forEach((id) => had.delete(id))
      known.forEach((id) => had.add(id))
      folded.at = at
    }
  }
  jobs.set(job, folded)
  let kept = [...jobs.values()].reduce((sum, { ids }) => sum + ids.size, 0)
  for (const [oldest, { ids }] of jobs) {
    if (kept <= MOST || oldest === job) break
    kept -= ids.size
    jobs.delete(oldest)
    await dropJob(oldest)
  }
}

/** What a core says that keeps the job no longer. */
const LOST = ['job.not_loaded', 'operation.broken', 'core.stopped']

async function ask<N extends JobOp>(job: string, op: N, input: Asked<N>): Promise<Answer<N>> {
  const mine = turn.then(() => bringUp(job))
  turn = mine.catch(() => undefined) // one that cannot be folded stands in no other's way
  await mine
  return call(op as OpName, { ...input, job }) as Promise<Answer<N>>
}

/**
 * Runs an operation of the core on a job of the local copy. Where the core keeps it no longer it is folded
 * anew and asked once more.
 * @throws Refusal when the input is at fault
 */
export async function askJob<N extends JobOp>(job: string, op: N, input: Asked<N>): Promise<Answer<N>> {
  try {
    return await ask(job, op, input)
  } catch (error) {
    if (!(error instanceof Refusal) || !error.faults.some((fault) => LOST.includes(fault.key))) throw error
    jobs.delete(job)
    return ask(job, op, input)
  }
}
