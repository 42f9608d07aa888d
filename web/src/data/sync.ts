// Delivers what waits and asks for what others kept. Whether there is a connection is
// judged by the last answer, never by the browser's flag.
import { ref } from 'vue'
import type { Schemas } from '../core/core'
import { learnClock } from './clock'
import { local, type LocalEntry, type LocalJob, type SetAside } from './local'
import {
  ask,
  deliverEntries,
  deliverNames,
  deliverPhotos,
  eachByItself,
  ownNumbers,
  shutOut,
  tryAllAgain,
  Unreached,
} from './outbox'
import { askSession } from './session'
import { askToPersist } from './storage'
import { isJSON } from './text'

const EVERY = 1000
const SLOWEST = 15_000
const QUICK = 10_000
const SLOW = 60_000

/** whether the browser keeps what is here also when the device runs full */
export const persists = ref(true)
/** reached: the last answer came · unreached: none came · shut: it is not let in · unknown: not asked yet */
export const reach = ref<'unknown' | 'reached' | 'unreached' | 'shut'>('unknown')
/** counts changes of what the jobs say; views read again when it moves */
export const version = ref(0)
/** counts changes of what waits to be delivered */
export const outbox = ref(0)

const channel = new BroadcastChannel('dusha')
channel.onmessage = ({ data }) => (data === 'changed' ? version : outbox).value++

/** Says that the local copy changed, here and in other tabs. */
export function changed(): void {
  version.value++
  channel.postMessage('changed')
}

/** Says that something was delivered: what the jobs say is the same. */
function delivered(): void {
  outbox.value++
  channel.postMessage('delivered')
}

/** What the server called the list of jobs that was taken in last; nothing where not all of it was. */
let tag = ''

/** Asks and learns the time from the answer; one that is none stops what asked for it. */
async function read(path: string, within: number, headers: HeadersInit = {}): Promise<Response> {
  const sent = Date.now()
  const answer = await ask(path, within, { headers })
  const time = answer.headers.get('Dusha-Time')
  if (time) learnClock(time, sent, Date.now())
  if (!answer.ok && answer.status !== 304) throw new Error(`${path}: ${answer.status}`)
  return answer
}

type JobLine = Schemas['ApiJobLine']

/** Takes in what others kept; tells whether there was anything. */
async function fetchOthers(): Promise<boolean> {
  const waiting = await local.entries.where('state').equals('waiting').count()
  const answer = await read('/api/jobs', QUICK, {
    'Dusha-Waiting': `${waiting}`,
    ...(tag ? { 'If-None-Match': tag } : {}),
  })
  if (answer.status === 304) return false
  const { jobs } = (await answer.json()) as { jobs: JobLine[] }
  tag = ''
  const lost = await sendAgainWhatIsLost(jobs)
  let left = jobs.length
  const news = await eachByItself(
    jobs,
    (job) => `fetch ${job.id}`,
    async (job) => {
      const came = await fetchJob(job, ownNumbers(job.id, job.lastSeq))
      left--
      return came
    },
    changed,
  )
  if (left === 0) tag = answer.headers.get('ETag') ?? ''
  return lost || news
}

/** A server that was restored from a backup lacks what came after it: that goes again. */
async function sendAgainWhatIsLost(jobs: JobLine[]): Promise<boolean> {
  let lost = false
  const there = new Map(jobs.map((job) => [job.id, job]))
  for (const known of await local.jobs.toArray()) {
    const job = there.get(known.id)
    const otherBook = job?.lastSeq === known.lastSeq && known.head && job.head && job.head !== known.head
    if (job && job.lastSeq >= known.lastSeq && !otherBook) continue
    await local.transaction('rw', local.entries, local.jobs, async () => {
      await local.entries
        .where('jobId')
        .equals(known.id)
        .and((entry) => entry.state === 'sent')
        .modify({ state: 'waiting' })
      await local.jobs.put({ id: known.id, lastSeq: 0 })
    })
    lost = true
  }
  return lost
}

async function fetchJob(job: JobLine, own: number[]): Promise<boolean> {
  const known = await local.jobs.get(job.id)
  const last = known?.lastSeq ?? 0
  // What this device has just delivered itself it need not ask for.
  const mine = own.length === job.lastSeq - last && own.every((seq, i) => seq === last + 1 + i)
  const news = job.lastSeq > last && !mine
  if (news) await fetchEntries(job.id, last)
  if (job.lastSeq > last || known?.head !== job.head) {
    await local.transaction('rw', local.jobs, async () => {
      const { quarantine } = (await local.jobs.get(job.id)) ?? {}
      await local.jobs.put({
        id: job.id,
        lastSeq: job.lastSeq,
        head: job.head,
        ...(quarantine ? { quarantine } : {}),
      })
    })
  }
  return (await setAside(known, job.id, job.quarantine)) || news
}

/** Takes out what was set aside for everyone, and in again what was released. */
async function setAside(known: LocalJob | undefined, job: string, now: SetAside[]): Promise<boolean> {
  if (JSON.stringify(known?.quarantine ?? []) === JSON.stringify(now)) return false
  const out = new Set(now.map((aside) => aside.id))
  await local.transaction('rw', local.entries, local.jobs, async () => {
    await local.entries
      .where('jobId')
      .equals(job)
      .modify((entry) => {
        if (out.has(entry.id)) entry.state = 'out'
        else if (entry.state === 'out') entry.state = 'sent'
      })
    await local.jobs.update(job, { quarantine: now })
  })
  return true
}

type Page = Schemas['SinceOutBody']

async function fetchEntries(job: string, after: number): Promise<void> {
  for (let more = true; more;) {
    const page = (await (await read(`/api/jobs/${job}/entries?after=${after}`, SLOW)).json()) as Page
    // Whose it is, the server says: what an older program let in may not say it of itself.
    const kept = page.entries.map(({ id, areaId = '', bytes }): LocalEntry => ({
      id,
      jobId: job,
      areaId,
      bytes,
      state: 'sent',
      notBefore: 0,
      faults: [],
      ...(isJSON(bytes) ? {} : { odd: true }),
    }))
    after = page.entries.at(-1)?.seq ?? after
    more = page.more
    await local.transaction('rw', local.entries, local.jobs, async () => {
      // What this device set aside under the same id stays for a person to look at.
      const aside = new Set(await local.entries.where('state').equals('aside').primaryKeys())
      await local.entries.bulkPut(kept.filter((entry) => !aside.has(entry.id)))
      await local.jobs.put({ ...(await local.jobs.get(job)), id: job, lastSeq: after })
    })
  }
}

async function fetchNames(): Promise<void> {
  const people = (await (await read('/api/people', QUICK)).json()) as { names: Record<string, string> }
  const mine = new Set(await local.names.where('waiting').above(0).primaryKeys())
  await local.names.bulkPut(
    Object.entries(people.names)
      .filter(([id]) => !mine.has(id))
      .map(([id, name]) => ({ id, name, waiting: 0 as const })),
  )
}

/** Work that is done again and again by one tab at a time, by itself: none waits for another. */
interface Lane {
  name: string
  work: () => Promise<void>
  wait: number
  timer: number
}

const lane = (name: string, work: () => Promise<void>): Lane => ({ name, work, wait: EVERY, timer: 0 })

const lanes = [
  lane('names', async () => {
    if (await deliverNames(delivered)) delivered()
  }),
  lane('entries', async () => {
    try {
      const any = await deliverEntries(delivered)
      const news = await fetchOthers()
      shutOut.value = false
      if (news) await fetchNames()
      if (news) changed()
      else if (any) delivered()
      if (reach.value !== 'reached') {
        tryAllAgain()
        void askSession()
      }
      reach.value = 'reached'
    } catch (error) {
      reach.value = shutOut.value && !(error instanceof Unreached) ? 'shut' : 'unreached'
      throw error
    }
  }),
  lane('photos', async () => {
    if (await deliverPhotos(delivered)) delivered()
  }),
]

async function tick(lane: Lane): Promise<void> {
  if (document.visibilityState === 'visible') {
    try {
      await navigator.locks.request(`dusha-${lane.name}`, lane.work)
      lane.wait = EVERY
    } catch (error) {
      if (!(error instanceof Unreached)) console.warn(error)
      lane.wait = Math.min(lane.wait * 2, SLOWEST)
    }
  }
  window.clearTimeout(lane.timer)
  lane.timer = window.setTimeout(() => void tick(lane), lane.wait)
}

/** Delivers and asks now. */
export function soon(): void {
  tryAllAgain()
  for (const lane of lanes) {
    window.clearTimeout(lane.timer)
    lane.wait = EVERY
    void tick(lane)
  }
}

/** Begins to deliver and ask, at once and then by a timer. */
export function startSync(): void {
  for (const lane of lanes) void tick(lane)
  void askToPersist().then((will) => (persists.value = will))
  window.addEventListener('online', soon)
  document.addEventListener('visibilitychange', soon)
}
