// Four digits keep the wrong finger off a hold. They are held against what this device knows of them,
// and against the server where it answers; they stand in no entry, and prove nothing of who it was.
import { shallowRef } from 'vue'
import { local, type LocalPin } from './local'
import { ask, faultsOf, Unreached } from './outbox'
import { session } from './session'
import type { Fault } from '../core/core'

const ROUNDS = 600_000
const WRONG_IN_A_ROW = 5
const REST = 60_000
const QUICK = 10_000

/** Whose digits are asked; answered with whether they were right. */
export interface AskingPin {
  person: string
  name: string
  answer: (right: boolean) => void
}
export const askingPin = shallowRef<AskingPin | null>(null)

/** Kinds of entries that somebody answers for: a hold, a signature. */
const ANSWERED_FOR = new Set(['accepted', 'signed', 'overridden'])

/** Asks for the digits of who answers for an entry, where devices are paired; true where none are asked. */
export async function answersFor(kind: string, person: string, name: string): Promise<boolean> {
  if (!ANSWERED_FOR.has(kind) || !session.value?.shut) return true
  const right = await new Promise<boolean>((answer) => (askingPin.value = { person, name, answer }))
  askingPin.value = null
  return right
}

const fault = (key: string, args: Record<string, unknown> = {}): Fault => ({ field: 'pin', key, args })

async function hashed(digits: string, salt: Uint8Array<ArrayBuffer>): Promise<string> {
  const key = await crypto.subtle.importKey('raw', new TextEncoder().encode(digits), 'PBKDF2', false, ['deriveBits'])
  const bits = await crypto.subtle.deriveBits({ name: 'PBKDF2', hash: 'SHA-256', salt, iterations: ROUNDS }, key, 256)
  return Array.from(new Uint8Array(bits), (byte) => byte.toString(16).padStart(2, '0')).join('')
}

/** What the server says of them; nothing where it does not answer, or knows no digits. */
async function byServer(person: string, digits: string, first: boolean): Promise<Fault[] | null> {
  try {
    const answer = await ask(`/api/people/${person}/pin`, QUICK, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ pin: digits, first }),
    })
    if (answer.ok) return []
    return answer.status === 422 || answer.status === 429 ? faultsOf(answer) : null
  } catch (error) {
    if (error instanceof Unreached) return null
    throw error
  }
}

/** Whether this device knows digits of a person. */
export const knowsPin = async (person: string): Promise<boolean> => !!(await local.pins.get(person))

/**
 * Holds digits against a person's, or sets them where they were typed twice; what is wrong, nothing where
 * they are right.
 */
export async function checkPin(person: string, digits: string, twice: boolean, now = Date.now()): Promise<Fault[]> {
  if (!/^[0-9]{4}$/.test(digits)) return [fault('pin.four_digits')]
  const kept = await local.pins.get(person)
  if (kept && kept.restsUntil > now) return [fault('pin.rests', { until: new Date(kept.restsUntil).toISOString() })]
  const fits = !!kept && kept.hash === (await hashed(digits, kept.salt))
  // What was set here without a signal is set there too.
  const said = await byServer(person, digits, twice || fits)
  // They were taken away there, for who forgot them.
  if (said?.some((fault) => fault.key === 'pin.not_set')) {
    await local.pins.delete(person)
    return said
  }
  // The server goes before: digits that were set elsewhere count here from now on.
  if (said ? !said.length : fits || !kept) {
    const salt = fits ? kept.salt : crypto.getRandomValues(new Uint8Array(16))
    const hash = fits ? kept.hash : await hashed(digits, salt)
    await local.pins.put({ person, salt, hash, wrong: 0, restsUntil: 0 })
    return []
  }
  if (kept) await local.pins.put(tried(kept, now))
  return said ?? [fault('pin.wrong')]
}

/** After five wrong ones in a row a minute passes, twice as long after each more. */
function tried(kept: LocalPin, now: number): LocalPin {
  const wrong = kept.wrong + 1
  const over = wrong - WRONG_IN_A_ROW
  return { ...kept, wrong, restsUntil: over < 0 ? 0 : now + REST * 2 ** Math.min(over, 6) }
}
