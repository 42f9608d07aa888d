// What is to be delivered: entries, names, photos. Each has its own outcome (waiting, sending, sent
// or set aside), and none stops another: not an entry the one behind it, not a job another.
import { ref } from 'vue'
import { installation } from './installation'
import type { Fault } from '../core/core'
import { local, type LocalEntry, type LocalPhoto } from './local'

/** No answer came. */
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

/** The server does not let this device in: it has to be paired. */
export const shutOut = ref(false)

/** Asks the server, for so long at the most; no answer is Unreached. */
export async function ask(path: string, within: number, options: RequestInit = {}): Promise<Response> {
  const headers = new Headers(options.headers)
  headers.set('Dusha-Installation', installation())
  try {
    const answer = await fetch(path, { ...options, headers, signal: AbortSignal.timeout(within) })
    if (answer.status === 401) shutOut.value = true
    return answer
  } catch (error) {
    throw new Unreached(String(error))
  }
}

/** How long nothing may come of what is under way before the rest of the work goes on, ms. */
const PATIENCE = 3000
/** So many are under way at once. */
const AT_ONCE = 4

/** After so many without an answer nobody is there: the rest need not be tried now. */
const GIVEN_UP = 3

/** What is under way, by what it belongs to. */
const underWay = new Set<string>()

/**
 * Works on each that is not resting, a few at once, and waits as long as it moves: one that hangs or
 * fails holds up none of the others, and is left alone for a while. Tells whether anything came of
 * it; of what ends later, `late` is told.
 */
export async function eachByItself<T>(
  items: Iterable<T>,
  keyOf: (item: T) => string,
  work: (item: T) => Promise<boolean>,
  late: () => void,
): Promise<boolean> {
  const queue = [...items]
  let [any, over, moved] = [false, false, Date.now()]
  let unanswered = 0

  async function one(item: T): Promise<void> {
    const key = keyOf(item)
    if (underWay.has(key) || rests(key)) return
    underWay.add(key)
    try {
      const came = await work(item)
      any ||= came
      if (came && over) late()
    } catch (error) {
      failed(key)
      if (error instanceof Unreached) unanswered++
      else console.warn(error)
    } finally {
      underWay.delete(key)
      moved = Date.now()
    }
  }
  async function worker(): Promise<void> {
    while (queue.length && !over && unanswered < GIVEN_UP) await one(queue.shift()!)
  }
  let done = false
  const all = Promise.all(Array.from({ length: AT_ONCE }, worker)).then(() => (done = true))
  while (!done && Date.now() - moved < PATIENCE)
    await Promise.race([all, new Promise((resolve) => setTimeout(resolve, PATIENCE / 10))])
  over = true
  return any
}

const QUICK = 10_000
const SLOW = 60_000
const PHOTO = 120_000

/** May be tried again as it is: the server is at fault, or busy, or not ready for it. */
const isPassing = (status: number) => status >= 500 || status === 408 || status === 429
/** This device is not let in: it is paired again, and keeps what it has. */
const isShut = (status: number) => status === 401
const isFault = (status: number) => status >= 400 && !isPassing(status)

export async function faultsOf(answer: Response): Promise<Fault[]> {
  try {
    const { faults } = (await answer.json()) as { faults?: Fault[] }
    if (faults?.length) return faults
  } catch {
    // no problem document
  }
  return [{ field: 'request', key: 'request.refused', args: { status: answer.status } }]
}

/** Numbers the server gave to entries of this device that were new to it, by job. */
const numbers = new Map<string, number[]>()

/** Those of a job up to a number, since they were asked for last. */
export function ownNumbers(job: string, upTo: number): number[] {
  const own = numbers.get(job) ?? []
  numbers.set(
    job,
    own.filter((seq) => seq > upTo),
  )
  return own.filter((seq) => seq <= upTo)
}

/** Delivers the entries that may go, a job by itself; tells whether any went. */
export async function deliverEntries(late: () => void): Promise<boolean> {
  const due = (await local.entries.where('state').equals('waiting').sortBy('id')).filter(
    (entry) => entry.notBefore <= Date.now(),
  )
  return eachByItself(
    Map.groupBy(due, (entry) => entry.jobId),
    ([job]) => job,
    async ([job, entries]) => {
      let any = false
      for (const batch of batches(entries.filter((entry) => !rests(entry.id))))
        if (await deliver(job, batch)) any = true
      return any
    },
    late,
  )
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
async function deliver(job: string, batch: LocalEntry[]): Promise<boolean> {
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
        if (result.status === 201 && result.seq) numbers.set(job, [...(numbers.get(job) ?? []), result.seq])
        await local.entries.update(batch[i]!.id, { state: kept ? 'sent' : 'aside', faults: result.faults })
        went(batch[i]!.id)
      }
    })
    went(job)
    return true
  }
  if (isShut(answer.status)) {
    failed(job) // it may be opened to this device; its entries stay
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
  for (const part of parts) if (await deliver(job, part)) any = true
  return any
}

type Outcome = Pick<LocalPhoto, 'faults'> & { waiting: 0 | 2 }

/** Delivers things that have each its own outcome; tells whether any is settled. */
async function settle<T extends { id: string }>(
  what: string,
  things: T[],
  late: () => void,
  send: (thing: T) => Promise<Response>,
  then: (thing: T, outcome: Outcome) => Promise<unknown>,
): Promise<boolean> {
  const keyOf = (thing: T) => `${what} ${thing.id}`
  async function work(thing: T): Promise<boolean> {
    const answer = await send(thing)
    // A photo may come before its job.
    if (isPassing(answer.status) || isShut(answer.status) || answer.status === 404) {
      failed(keyOf(thing))
      return false
    }
    went(keyOf(thing))
    const refused = isFault(answer.status)
    await then(thing, refused ? { waiting: 2, faults: await faultsOf(answer) } : { waiting: 0, faults: [] })
    return true
  }
  return eachByItself(things, keyOf, work, late)
}

export const deliverNames = async (late: () => void): Promise<boolean> =>
  settle(
    'name',
    await local.names.where('waiting').equals(1).toArray(),
    late,
    (person) =>
      ask(`/api/people/${person.id}`, QUICK, {
        method: 'PUT',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ name: person.name }),
      }),
    (person, outcome) =>
      // It may have been typed anew while it was on its way.
      local.transaction('rw', local.names, async () => {
        if ((await local.names.get(person.id))?.name === person.name) await local.names.update(person.id, outcome)
      }),
  )

export const deliverPhotos = async (late: () => void): Promise<boolean> =>
  settle(
    'photo',
    await local.photos.where('waiting').equals(1).toArray(),
    late,
    (photo) =>
      ask(`/api/jobs/${photo.jobId}/photos/${photo.id}`, PHOTO, {
        method: 'PUT',
        headers: { 'Content-Type': photo.jpeg.type || 'image/jpeg' },
        body: photo.jpeg,
      }),
    (photo, outcome) => local.photos.update(photo.id, outcome),
  )
