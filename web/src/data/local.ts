// The page's own copy of its jobs: every entry as the text it was made with, what is
// still to be delivered, and what is being typed.
import Dexie, { type EntityTable } from 'dexie'
import type { Fault, Schemas } from '../core/core'

export interface LocalEntry {
  id: string
  jobId: string
  areaId: string
  bytes: string
  /** waiting: to be delivered · sent: the server has it · aside: it was refused · out: set aside for everyone */
  state: 'waiting' | 'sent' | 'aside' | 'out'
  /** not delivered before this time, so that it can be undone; ms */
  notBefore: number
  faults: Fault[]
  /** what it was recorded with, by one press: delivered and taken back together */
  act?: string
  /** it is no JSON: an older program let it in */
  odd?: true
}

export interface LocalJob {
  id: string
  lastSeq: number
  /** the server's receipt of the last entry: another one at this number is another book */
  head?: string
  /** what of it was set aside for everyone; number 0 is the whole job */
  quarantine?: SetAside[]
}

/** An entry or a job that nobody reads any more, and why. */
export type SetAside = Schemas['ApiAside']

/** A form as it is being typed, by what it belongs to. */
export interface Draft {
  key: string
  typed: Record<string, string>
}

export interface PersonName {
  id: string
  name: string
  /** 1 until the server has it, 2 where it was refused */
  waiting: 0 | 1 | 2
  faults?: Fault[]
}

/** A photo as the camera gave it, made smaller; 1 until the server has it, 2 where it was refused. */
export interface LocalPhoto {
  id: string
  jobId: string
  jpeg: Blob
  waiting: 0 | 1 | 2
  faults?: Fault[]
}

/** The key of this installation, and under which id it was paired. */
export interface DeviceKey {
  id: 'own'
  pair: CryptoKeyPair
  device?: string
}

/** What this device knows of a person's four digits. */
export interface LocalPin {
  person: string
  salt: Uint8Array<ArrayBuffer>
  hash: string
  /** tries in a row */
  wrong: number
  /** none is looked at before; ms */
  restsUntil: number
}

export const local = new Dexie('dusha') as Dexie & {
  entries: EntityTable<LocalEntry, 'id'>
  jobs: EntityTable<LocalJob, 'id'>
  drafts: EntityTable<Draft, 'key'>
  names: EntityTable<PersonName, 'id'>
  photos: EntityTable<LocalPhoto, 'id'>
  keys: EntityTable<DeviceKey, 'id'>
  pins: EntityTable<LocalPin, 'person'>
}

local.version(1).stores({
  entries: 'id, jobId, state',
  jobs: 'id',
  drafts: 'key',
  names: 'id, waiting',
})
local.version(2).stores({ photos: 'id, waiting' })
local.version(3).stores({ keys: 'id', pins: 'person' })
