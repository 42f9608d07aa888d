// Delivers what waits and asks for what others kept. Whether there is a connection is
// judged by the last answer, never by the browser's flag.
import { ref } from 'vue'
import { client } from './client'
import { local, type LocalEntry, type LocalJob, type SetAside } from './local'
import { isJSON } from './text'

const EVERY = 1500
const SLOWEST = 15_000
const AT_ONCE = 100

/** reached: the last answer came · unreached: none came · unknown: not asked yet */
export const reach = ref<'unknown' | 'reached' | 'unreached'>('unknown')
/** ms to add to this device's clock to have the server's, 0 when they agree well enough */
export const clockOffset = ref(0)
/** counts changes of the local copy; views read again when it moves */
export const version = ref(0)

const channel = new BroadcastChannel('dusha')
channel.onmessage = () => version.value++

/** Says that the local copy changed, here and in other tabs. */
export function changed(): void {
  version.value++
  channel.postMessage('changed')
}

const CLOCK_SLACK = 2000

function learnClock(serverNow: string): void {
  const offset = Date.parse(serverNow) - Date.now()
  clockOffset.value = Math.abs(offset) > CLOCK_SLACK ? Math.round(offset) : 0
}

async function deliverNames(): Promise<void> {
  for (const person of await local.names.where('waiting').equals(1).toArray()) {
    await client.PUT('/api/people/{person}', { params: { path: { person: person.id } }, body: { name: person.name } })
    await local.names.update(person.id, { waiting: 0 })
  }
}

async function deliverPhotos(): Promise<void> {
  for (const photo of await local.photos.where('waiting').equals(1).toArray()) {
    const answer = await fetch(`/api/jobs/${photo.jobId}/photos/${photo.id}`, {
      method: 'PUT',
      headers: { 'Content-Type': photo.jpeg.type || 'image/jpeg' },
      body: photo.jpeg,
    })
    if (answer.status >= 500) throw new Error('not delivered')
    if (answer.status === 404) continue // its job is not there yet
    await local.photos.update(photo.id, { waiting: 0 })
  }
}

async function deliverEntries(): Promise<boolean> {
  const due = (await local.entries.where('state').equals('waiting').sortBy('id')).filter(
    (entry) => entry.notBefore <= Date.now(),
  )
  const byJob = Map.groupBy(due, (entry) => entry.jobId)
  for (const [job, entries] of byJob) await deliverBatch(job, entries.slice(0, AT_ONCE))
  return due.length > 0
}

async function deliverBatch(job: string, entries: LocalEntry[]): Promise<void> {
  // The exact texts go out, never texts made again from objects.
  const { data, error } = await client.POST('/api/jobs/{job}/entries', {
    params: { path: { job } },
    body: { entries: [] },
    bodySerializer: () => `{"entries":[${entries.map((entry) => entry.bytes).join(',')}]}`,
  })
  if (error ?? !data) throw new Error('not delivered')
  learnClock(data.now)
  await local.transaction('rw', local.entries, async () => {
    for (const [i, result] of data.results.entries()) {
      const entry = entries[i]!
      const kept = result.status < 300
      await local.entries.update(entry.id, { state: kept ? 'sent' : 'aside', faults: result.faults })
    }
  })
}

async function fetchOthers(): Promise<boolean> {
  const { data } = await client.GET('/api/jobs')
  if (!data) throw new Error('no answer')
  learnClock(data.now)
  let news = false
  for (const job of data.jobs) {
    const known = await local.jobs.get(job.id)
    if (job.lastSeq > (known?.lastSeq ?? 0)) {
      await fetchJob(job.id, known?.lastSeq ?? 0)
      news = true
    }
    if (await setAside(known, job.id, job.quarantine)) news = true
  }
  return news
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

async function fetchJob(job: string, after: number): Promise<void> {
  for (let more = true; more;) {
    const { data } = await client.GET('/api/jobs/{job}/entries', { params: { path: { job }, query: { after } } })
    if (!data) throw new Error('no answer')
    // Whose it is, the server says: what an older program let in may not say it of itself.
    const kept = data.entries.map(({ id, areaId = '', bytes }): LocalEntry => ({
      id,
      jobId: job,
      areaId,
      bytes,
      state: 'sent',
      notBefore: 0,
      faults: [],
      ...(isJSON(bytes) ? {} : { odd: true }),
    }))
    after = data.entries.at(-1)?.seq ?? after
    more = data.more
    await local.transaction('rw', local.entries, local.jobs, async () => {
      // What this device set aside under the same id stays for a person to look at.
      const aside = new Set(await local.entries.where('state').equals('aside').primaryKeys())
      await local.entries.bulkPut(kept.filter((entry) => !aside.has(entry.id)))
      const { quarantine } = (await local.jobs.get(job)) ?? {}
      await local.jobs.put({ id: job, lastSeq: after, ...(quarantine ? { quarantine } : {}) })
    })
  }
}

async function fetchNames(): Promise<void> {
  const { data } = await client.GET('/api/people')
  if (!data) throw new Error('no answer')
  const mine = new Set(await local.names.where('waiting').equals(1).primaryKeys())
  await local.names.bulkPut(
    Object.entries(data.names)
      .filter(([id]) => !mine.has(id))
      .map(([id, name]) => ({ id, name, waiting: 0 as const })),
  )
}

async function round(): Promise<void> {
  await deliverNames()
  const delivered = await deliverEntries()
  await deliverPhotos() // of jobs that are there by now
  const news = await fetchOthers()
  if (news) await fetchNames()
  if (delivered || news) changed()
}

let wait = EVERY
let timer = 0

async function tick(): Promise<void> {
  if (document.visibilityState === 'visible') {
    try {
      // One tab delivers at a time.
      await navigator.locks.request('dusha-outbox', round)
      reach.value = 'reached'
      wait = EVERY
    } catch {
      reach.value = 'unreached'
      wait = Math.min(wait * 2, SLOWEST)
    }
  }
  timer = window.setTimeout(() => void tick(), wait)
}

function soon(): void {
  window.clearTimeout(timer)
  wait = EVERY
  void tick()
}

/** Begins to deliver and ask, at once and then by a timer. */
export function startSync(): void {
  void tick()
  window.addEventListener('online', soon)
  document.addEventListener('visibilitychange', soon)
}
