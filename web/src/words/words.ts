// All words of the page, by key. The core gives keys and values; how they are said and how
// numbers are written stands here and in en.json alone.
import type { Fault } from '../core/core'
import catalogue from './en.json'
import units from './units.json'

const words: Record<string, string> = catalogue
type Args = Record<string, unknown>

const decimals = (digits: number) =>
  new Intl.NumberFormat('en-GB', {
    minimumFractionDigits: digits,
    maximumFractionDigits: digits,
    useGrouping: false,
    signDisplay: 'negative',
  })
const plain = new Intl.NumberFormat('en-GB', { maximumFractionDigits: 3, useGrouping: false, signDisplay: 'negative' })

export function clock(at: Date | string): string {
  return new Date(at).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })
}

export function day(at: Date | string): string {
  return new Date(at).toLocaleDateString('en-GB', { weekday: 'short', day: 'numeric', month: 'short' })
}

/** A clock time, with its weekday when that is not today, and its date when it is far off. */
export function moment(at: Date | string, now = new Date()): string {
  const when = new Date(at)
  if (when.toDateString() === now.toDateString()) return clock(when)
  const far = Math.abs(when.getTime() - now.getTime()) > 6 * 86_400_000
  const thisYear = when.getFullYear() === now.getFullYear()
  const date = when.toLocaleDateString('en-GB', {
    ...(far ? { day: 'numeric', month: 'short' } : { weekday: 'short' }),
    ...(thisYear ? {} : { year: 'numeric' }),
  })
  return `${date} ${clock(when)}`
}

/** A stretch of time as h and min. */
export function span(ms: number): string {
  const minutes = Math.max(0, Math.round(ms / 60_000))
  const hours = Math.floor(minutes / 60)
  return hours > 0 ? `${hours} h ${String(minutes % 60).padStart(2, '0')}` : `${minutes} min`
}

/** m:ss, for a running count. */
export function countdown(ms: number): string {
  const seconds = Math.max(0, Math.ceil(ms / 1000))
  return `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`
}

const letter = (id: string) => id.split('.').slice(1).join(' ').toUpperCase()

/** The name of a surface, junction, corner, fitting or piece, from its id. */
export function place(id: string): string {
  const [kind, a = '', b = ''] = id.split('.')
  switch (kind) {
    case 'band':
      return place(id.slice('band.'.length))
    case 'floor':
      return say('place.floor')
    case 'wall':
      return say('place.wall', { letter: letter(id) })
    case 'floor_wall':
      return say(b === '1' ? 'place.floor_wall' : 'place.floor_wall_right', { letter: a.toUpperCase() })
    case 'wall_wall':
      return say('place.wall_wall', { a: a.toUpperCase(), b: b.toUpperCase() })
    case 'threshold':
      return say('place.threshold', { letter: a.toUpperCase() })
    case 'corner':
      return say('place.corner', { a: a.toUpperCase(), b: b.toUpperCase() })
    case 'pipe':
      return say('place.pipe', { n: a })
    case 'drain':
      return say('place.drain')
    default:
      return id
  }
}

const formats: Record<string, (value: unknown) => string> = {
  length: (v) => `${decimals(2).format(Number(v) / 1000)} m`,
  m: (v) => decimals(2).format(Number(v) / 1000),
  mm: (v) => `${plain.format(Number(v))} mm`,
  film: (v) => decimals(1).format(Number(v)),
  film2: (v) => decimals(2).format(Number(v)),
  kg: (v) => `${decimals(2).format(Number(v))} kg`,
  kg1: (v) => `${decimals(1).format(Number(v))} kg`,
  area: (v) => `${decimals(2).format(Number(v))} m²`,
  number: (v) => plain.format(Number(v)),
  temp: (v) => `${plain.format(Number(v))} °C`,
  clock: (v) => moment(String(v)),
  hhmm: (v) => clock(String(v)),
  weekday: (v) => new Date(String(v)).toLocaleDateString('en-GB', { weekday: 'short' }),
  hours: (v) => span(Number(v) * 3_600_000),
  whole: (v) => decimals(0).format(Number(v)),
  load: (v) => decimals(2).format(Number(v)),
  rate: (v) => decimals(3).format(Number(v)),
  place: (v) => place(String(v)),
  letter: (v) => String(v).toUpperCase(),
  list: (v) => (Array.isArray(v) ? v.join(', ') : String(v)),
}

/** Says a key with its values: "{mm:length}" writes a value in a format. */
export function say(key: string, args: Args = {}): string {
  const sentence = words[key]
  if (sentence === undefined) return `⟦${key}⟧`
  return sentence.replace(/\{(\w+)(?::(\w+))?\}/g, (_, name: string, format?: string) => {
    const value = args[name]
    if (value === undefined || value === null) return ''
    const write = format ? formats[format] : undefined
    if (write) return write(value)
    return typeof value === 'number' || typeof value === 'string' ? String(value) : ''
  })
}

export const known = (key: string) => key in words

/** The wording of a question, by its id: walls and pipes share theirs. */
export function questionKey(id: string): string {
  const pipe = /^pipes\.\d+\.(\w+)$/.exec(id)
  if (pipe) return `ask.pipes.${pipe[1]!}`
  return /^walls\.\w\.height$/.test(id) ? 'ask.walls.height' : `ask.${id}`
}

/** The name of the field at fault, in the trade's words. */
export function fieldName(field: string): string {
  const [, part = ''] = field.split('.')
  const args = { wall: part.toUpperCase(), pipe: part }
  for (const key of [`${questionKey(field)}.short`, `field.${field}`]) if (known(key)) return say(key, args)
  return field
}

/** What is wrong, with the field named first. */
export function sayFault(fault: Fault): string {
  return `${fieldName(fault.field)}: ${say(`fault.${fault.key}`, fault.args)}`
}

const unitNames: Record<string, string> = units.names
const unitDigits: Record<string, number> = units.digits

/** A value with its unit, written as finely as the unit is worked to. */
export function quantity(value: number, unit: string): string {
  if (unit === 'h') return span(value * 3_600_000)
  const text = unit in unitDigits ? decimals(unitDigits[unit]!).format(value) : plain.format(value)
  const name = unitNames[unit] ?? unit
  return name ? `${text} ${name}` : text
}

export function unitName(unit: string): string {
  return unitNames[unit] ?? unit
}
