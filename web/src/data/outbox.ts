// What is to be delivered: entries, names, photos. Each has its own outcome (waiting, sending, sent
// or set aside), and none stops another: not an entry the one behind it, not a job another.
import { installation } from './installation'
import type { Fault } from '../core/core'
import { local, type LocalEntry, type LocalPhoto } from './local'

/** No answer came at all: the rest need not be tried now. */
export class Unreached extends Error {}

const MOST_BYTES = 1 << 20
const MOST_ENTRIES = 100
const SOON = 2000
const LATEST = 10 * 60_000

/** When something that failed is tried again; what is not in it may be tried now. */
const pauses = new Map<string, { until: number; pause: number }>()
const rests = (key: string) => (pauses.get(key)?.until ?? 0) > Date.now()
function failed(key: string): void {
  const pause = Math.min(LATEST, (pauses.get(key)?.pause ?? SOON / 2) * 2)
  pauses.set(key, { until: Date.now() + pause, pause })
}
const went = (key: string) => pauses.delete(key)

/** Tried again at once: a signal came back, or somebody asked. */
export const tryAllAgain = (): void => pauses.clear()

/** Asks the server, for so long at the most; no answer is Unreached. */
export async function ask(path: string, within: number, options: RequestInit = {}): Promise<Response> {
  const headers = new Headers(options.headers)
  headers.set('Dusha-Installation', installation())
  try {
    return await fetch(path, { ...options, headers, signal: AbortSignal.timeout(within) })
  } catch (error) {
    throw new Unreached(String(error))
  }
}

const QUICK = 10_000
const SLOW = 60_000
const PHOTO = 120_000

/** May be tried again as it is: the server is at fault, or busy, or not ready for it. */
const isPassing = (status: number) => status >= 500 || status === 408 || status === 429
const isFault = (status: number) => status >= 400 && !isPassing(status)

async function faultsOf(answer: Response): Promise<Fault[]> {
  try {
    const { faults } = (await answer.json()) as { faults?: Fault[] }
    if (faults?.length) return faults
  } catch {
    // no problem document
  }
  return [{ field: 'request', key: 'request.refused', args: { status: answer.status } }]
}

interface Delivered {
  /** numbers the server gave to entries that were new to it, by job */
  numbers: Map<string, number[]>
  any: boolean
}

/** Delivers the entries that may go, a job at a time. */
export async function deliverEntries(): Promise<Delivered> {
  const due = (await local.entries.where('state').equals('waiting').sortBy('id')).filter(
    (entry) => entry.notBefore <= Date.now(),
  )
  const delivered: Delivered = { numbers: new Map(), any: false }
  for (const [job, entries] of Map.groupBy(due, (entry) => entry.jobId)) {
    if (rests(job)) continue
    const numbers: number[] = []
    delivered.numbers.set(job, numbers)
    for (const batch of batches(entries.filter((entry) => !rests(entry.id))))
      if (await deliver(job, batch, numbers)) delivered.any = true
  }
  return delivered
}

/** Parts by bytes; the entries of one act stay together where they fit. */
function* batches(entries: LocalEntry[]): Generator<LocalEntry[]> {
  let batch: LocalEntry[] = []
  let bytes = 0
  const acts = Map.groupBy(entries, (entry) => entry.act ?? entry.id)
  for (const act of acts.values()) {
    const size = act.reduce((sum, entry) => sum + entry.bytes.length, 0)
    if (batch.length && (bytes + size > MOST_BYTES || batch.length + act.length > MOST_ENTRIES)) {
      yield batch
      batch = []
      bytes = 0
    }
    batch.push(...act)
    bytes += size
  }
  if (batch.length) yield batch
}

interface Result {
  status: number
  seq?: number
  faults: Fault[]
}

/** Delivers a batch; where it is too large in halves, where the server fails entry by entry. */
async function deliver(job: string, batch: LocalEntry[], numbers: number[]): Promise<boolean> {
  const answer = await ask(`/api/jobs/${job}/entries`, SLOW, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    // The exact texts go out, never texts made again from objects.
    body: `{"entries":[${batch.map((entry) => entry.bytes).join(',')}]}`,
  })
  if (answer.ok) {
    const { results } = (await answer.json()) as { results: Result[] }
    await local.transaction('rw', local.entries, async () => {
      for (const [i, result] of results.entries()) {
        const kept = result.status < 300
        if (result.status === 201 && result.seq) numbers.push(result.seq)
        await local.entries.update(batch[i]!.id, { state: kept ? 'sent' : 'aside', faults: result.faults })
        went(batch[i]!.id)
      }
    })
    went(job)
    return true
  }
  if (answer.status === 403) {
    failed(job) // the job may be opened to this device; its entries stay
    return false
  }
  if (batch.length === 1) {
    const entry = batch[0]!
    if (isPassing(answer.status)) failed(entry.id)
    else await local.entries.update(entry.id, { state: 'aside', faults: await faultsOf(answer) })
    return !isPassing(answer.status)
  }
  const parts =
    answer.status === 413
      ? [batch.slice(0, batch.length / 2), batch.slice(batch.length / 2)]
      : batch.map((entry) => [entry])
  let any = false
  for (const part of parts) if (await deliver(job, part, numbers)) any = true
  return any
}

/** Delivers one thing that has its own outcome; tells whether it is settled. */
async function settle(
  key: string,
  send: () => Promise<Response>,
  then: (outcome: { waiting: 0 | 2; faults: Fault[] }) => Promise<unknown>,
): Promise<boolean> {
  if (rests(key)) return false
  const answer = await send()
  // A photo may come before its job.
  if (isPassing(answer.status) || answer.status === 404 || answer.status === 401 || answer.status === 403) {
    failed(key)
    return false
  }
  went(key)
  await then(isFault(answer.status) ? { waiting: 2, faults: await faultsOf(answer) } : { waiting: 0, faults: [] })
  return true
}

/** Tells whether one was settled. */
export async function deliverNames(): Promise<boolean> {
  let any = false
  for (const person of await local.names.where('waiting').equals(1).toArray())
    any =
      (await settle(
        `name ${person.id}`,
        () =>
          ask(`/api/people/${person.id}`, QUICK, {
            method: 'PUT',
            headers: { 'Content-Type': 'application/json' },
            body: JSON.stringify({ name: person.name }),
          }),
        async (outcome) => {
          // It may have been typed anew while it was on its way.
          await local.transaction('rw', local.names, async () => {
            if ((await local.names.get(person.id))?.name === person.name) await local.names.update(person.id, outcome)
          })
        },
      )) || any
  return any
}

export async function deliverPhotos(): Promise<boolean> {
  let any = false
  for (const photo of await local.photos.where('waiting').equals(1).toArray())
    any =
      (await settle(
        `photo ${photo.id}`,
        () =>
          ask(`/api/jobs/${photo.jobId}/photos/${photo.id}`, PHOTO, {
            method: 'PUT',
            headers: { 'Content-Type': photo.jpeg.type || 'image/jpeg' },
            body: photo.jpeg,
          }),
        (outcome) => local.photos.update(photo.id, outcome satisfies Partial<LocalPhoto>),
      )) || any
  return any
}
