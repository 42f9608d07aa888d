// What views read and write: the entries of a job, and the one way to add to them.
import { createGlobalState } from '@vueuse/core'
import { computed, reactive, ref, shallowRef, watch } from 'vue'
import { call, type Schemas } from '../core/core'
import { clockOffset, now as theTime } from './clock'
import { askJob } from './folded'
import { newId, withOffset } from './ids'
import { local, type LocalEntry, type SetAside } from './local'
import { keep } from './storage'
import { changed, outbox, version } from './sync'
import { wellFormed } from './text'
import { languageOf, speak } from '../words/language'
import { currency } from '../words/words'
import { setZone } from '../words/zone'

export type Job = Schemas['SiteBoard']
export type Sheet = Schemas['SheetSheet']
export type Look = Schemas['SiteLook']

/** How long an entry can be taken back before it is delivered, ms. */
export const UNDO_FOR = 10_000
/** After this rest the person is asked again, ms. */
const SHIFT_REST = 30 * 60_000

export interface Recorded {
  ids: string[]
  /** wording key of what was kept, with its values */
  key: string
  args: Record<string, unknown>
  until: number
}

/** The people of a job, as far as asking who is at work needs them. */
export type Crew = Pick<Job, 'id' | 'people'>

export interface AskingWho {
  job: Crew
  answer: (person: string | null) => void
}

export interface Recording {
  kind: string
  body: unknown
  jobId: string
  areaId?: string
  corrects?: string
  reason?: string
  /** what the ledge says was kept */
  say?: { key: string; args?: Record<string, unknown> }
  by?: string
}

export const useBook = createGlobalState(() => {
  const waiting = ref(0)
  const aside = shallowRef<LocalEntry[]>([])
  const last = ref<Recorded | null>(null)
  const names = shallowRef<Record<string, string>>({})
  const askingWho = shallowRef<AskingWho | null>(null)

  async function count(): Promise<void> {
    waiting.value = await local.entries.where('state').equals('waiting').count()
    aside.value = await local.entries.where('state').equals('aside').toArray()
    const all = await local.names.toArray()
    names.value = Object.fromEntries(all.map((person) => [person.id, person.name]))
  }
  watch([version, outbox], () => void count(), { immediate: true })

  /** Folds all jobs of the local copy, newest first. */
  async function jobs(now: Date): Promise<Job[]> {
    const out = new Set((await asideJobs()).map((job) => job.id))
    const ids = [...new Set((await local.entries.orderBy('jobId').uniqueKeys()) as string[])]
      .filter((id) => !out.has(id))
      .sort()
      .reverse()
    const folded = await Promise.allSettled(
      ids.map((id) => askJob(id, 'logbook.job', { now: now.toISOString(), lean: true })),
    )
    // One that cannot be folded hides none of the others.
    return folded.flatMap((job) => (job.status === 'fulfilled' && job.value.name !== '' ? [job.value] : []))
  }

  /** What of a job was set aside for everyone. */
  async function setAside(jobId: string): Promise<SetAside[]> {
    return (await local.jobs.get(jobId))?.quarantine ?? []
  }

  /** Whole jobs that were set aside for everyone. */
  async function asideJobs(): Promise<SetAside[]> {
    const jobs = await local.jobs.toArray()
    return jobs.flatMap((job) => (job.quarantine ?? []).filter((aside) => aside.seq === 0))
  }

  /** Says times and costs as a job does. */
  function speakAs(job: Pick<Job, 'time_zone' | 'papers'>): void {
    setZone(job.time_zone)
    currency.value = job.papers.currency
  }

  /** Folds one job; its waits as if the areas were some K warmer from now on. */
  async function job(jobId: string, now: Date, warmer = 0): Promise<Job> {
    const job = await askJob(jobId, 'logbook.job', { now: now.toISOString(), warmer_K: warmer, lean: true })
    speakAs(job)
    return job
  }

  /** The data sheets of a job: its own, then the samples that ship. */
  async function sheets(jobId: string): Promise<Sheet[]> {
    return (await askJob(jobId, 'sheet.library', {})).sheets
  }

  async function look(jobId: string, area: string, now: Date): Promise<Look> {
    const look = await askJob(jobId, 'logbook.look', { area, now: now.toISOString(), lean: true })
    speakAs(look.job)
    return look
  }

  /** Rises when somebody else is at work. */
  const shift = ref(0)

  /** The person who is at work, "" while nobody said so or after a rest. */
  function working(job: Crew, now = new Date()): string {
    const kept = JSON.parse(sessionStorage.getItem(`who.${job.id}`) ?? 'null') as { person: string; at: number } | null
    // Looking at the shift has who looks on follow it.
    const here =
      shift.value >= 0 &&
      kept &&
      now.getTime() - kept.at < SHIFT_REST &&
      job.people.some((person) => person.id === kept.person)
    return here ? kept.person : ''
  }

  /** The person at work: asked at the first entry of a shift and after a rest. */
  async function who(job: Crew): Promise<string | null> {
    const here = working(job)
    if (!here) return askWho(job)
    setWho(job.id, here)
    return here
  }

  /** Asks who is at work, whoever was. */
  async function askWho(job: Crew): Promise<string | null> {
    const person = await new Promise<string | null>((answer) => (askingWho.value = { job, answer }))
    askingWho.value = null
    if (person) setWho(job.id, person)
    return person
  }

  function setWho(jobId: string, person: string): void {
    sessionStorage.setItem(`who.${jobId}`, JSON.stringify({ person, at: Date.now() }))
    shift.value++
    void speak(languageOf(person))
  }

  /** Writes an entry to the local copy; it is delivered once it can no longer be undone. */
  async function record(r: Recording): Promise<string> {
    return (await recordAll([r]))[0]!
  }

  /** Writes the entries of one press: delivered, and taken back, together. */
  async function recordAll(list: Recording[]): Promise<string[]> {
    const now = new Date() // by this device, whose offset stands beside it
    const said = list.find((r) => r.say)?.say
    const entries: LocalEntry[] = []
    for (const r of list) {
      const id = newId(now.getTime())
      const entry: Record<string, unknown> = {
        id,
        jobId: r.jobId,
        kind: r.kind,
        at: withOffset(now),
        by: r.by,
        body: wellFormed(r.body),
      }
      if (r.areaId) entry.areaId = r.areaId
      if (r.corrects) Object.assign(entry, { corrects: r.corrects, reason: r.reason?.toWellFormed() })
      if (clockOffset.value) entry.clockOffset = clockOffset.value
      await call('logbook.check', { entry }) // what was typed stays in its draft when this refuses
      entries.push({
        id,
        jobId: r.jobId,
        areaId: r.areaId ?? '',
        bytes: JSON.stringify(entry),
        state: 'waiting',
        notBefore: said ? now.getTime() + UNDO_FOR : 0,
        faults: [],
        ...(list.length > 1 ? { act: entries[0]?.id ?? id } : {}),
      })
    }
    await keep(() => local.entries.bulkPut(entries)) // where there is no room it stays in its draft
    const ids = entries.map((entry) => entry.id)
    last.value = said ? { ids, key: said.key, args: said.args ?? {}, until: theTime().getTime() + UNDO_FOR } : null
    changed()
    return ids
  }

  /** Takes the last press back, while nothing of it has left the device. */
  async function undo(): Promise<void> {
    const recorded = last.value
    last.value = null
    if (!recorded) return
    await local.transaction('rw', local.entries, async () => {
      const entries = await local.entries.bulkGet(recorded.ids)
      if (entries.every((entry) => entry?.state === 'waiting')) await local.entries.bulkDelete(recorded.ids)
    })
    changed()
  }

  const canUndo = computed(() => last.value !== null)

  async function keepName(person: string, name: string): Promise<void> {
    await keep(() => local.names.put({ id: person, name: name.toWellFormed(), waiting: 1 }))
    changed()
  }

  return reactive({
    waiting,
    aside,
    last,
    canUndo,
    names,
    askingWho,
    jobs,
    job,
    setAside,
    asideJobs,
    sheets,
    look,
    who,
    askWho,
    working,
    setWho,
    record,
    recordAll,
    undo,
    keepName,
  })
})
