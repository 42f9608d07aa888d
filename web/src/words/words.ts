// All words of the page, by key. The core gives keys and values; how they are said and how
// numbers are written stands here and in the language's file alone.
import { useLocalStorage } from '@vueuse/core'
import { computed, ref } from 'vue'
import type { Fault } from '../core/core'
import { now as theTime } from '../data/clock'
import { catalogue, tag } from './language'
import named from './places.json'
import units from './units.json'
import { dayOf, zone } from './zone'

type Args = Record<string, unknown>

/** Made once each: a drawing of many readings says as many numbers. */
const made = new Map<string, Intl.NumberFormat>()
function writer(least: number, most: number): Intl.NumberFormat {
  const name = `${tag.value} ${least} ${most}`
  let format = made.get(name)
  if (!format) {
    format = new Intl.NumberFormat(tag.value, {
      minimumFractionDigits: least,
      maximumFractionDigits: most,
      useGrouping: false,
      signDisplay: 'negative',
    })
    made.set(name, format)
  }
  return format
}

/** A number with so many decimals, and with three at most. */
export const fixed = (value: number, digits: number) => writer(digits, digits).format(value)
const plain = (value: number) => writer(0, 3).format(value)

export function clock(at: Date | string): string {
  return new Date(at).toLocaleTimeString(tag.value, { hour: '2-digit', minute: '2-digit', timeZone: zone.value })
}

export function day(at: Date | string): string {
  return new Date(at).toLocaleDateString(tag.value, {
    weekday: 'short',
    day: 'numeric',
    month: 'short',
    timeZone: zone.value,
  })
}

/** A clock time, with its weekday when that is not today, and its date when it is far off. */
export function moment(at: Date | string, now = theTime()): string {
  const when = new Date(at)
  if (dayOf(when) === dayOf(now)) return clock(when)
  const far = Math.abs(when.getTime() - now.getTime()) > 6 * 86_400_000
  const thisYear = dayOf(when).slice(0, 4) === dayOf(now).slice(0, 4)
  const date = when.toLocaleDateString(tag.value, {
    ...(far ? { day: 'numeric', month: 'short' } : { weekday: 'short' }),
    ...(thisYear ? {} : { year: 'numeric' }),
    timeZone: zone.value,
  })
  return `${date} ${clock(when)}`
}

/** A stretch of time as h and min. */
export function span(ms: number): string {
  const minutes = Math.max(0, Math.round(ms / 60_000))
  const hours = Math.floor(minutes / 60)
  // From three days on nobody counts in hours.
  if (hours >= 72) return hours % 24 ? `${Math.floor(hours / 24)} d ${hours % 24} h` : `${hours / 24} d`
  return hours > 0 ? `${hours} h ${String(minutes % 60).padStart(2, '0')}` : `${minutes} min`
}

/** m:ss, for a running count. */
export function countdown(ms: number): string {
  const seconds = Math.max(0, Math.ceil(ms / 1000))
  return `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`
}

/** How an id of the core is named: its tokens, and the wording that takes what stands at $. */
const places = (named as [string, string][]).map(([pattern, key]) => ({ tokens: pattern.split('.'), key }))

/** The name of a surface, junction, corner, fitting or piece, from its id. */
export function place(id: string): string {
  if (id.startsWith('band.')) return place(id.slice('band.'.length))
  const parts = id.split('.')
  for (const { tokens, key } of places) {
    if (tokens.length !== parts.length) continue
    if (!tokens.every((token, i) => token.startsWith('$') || token === parts[i])) continue
    const args = tokens.flatMap((token, i) => {
      const name = token.slice(1)
      return token.startsWith('$') ? [[name, name === 'n' ? parts[i]! : parts[i]!.toUpperCase()]] : []
    })
    return say(key, Object.fromEntries(args) as Args)
  }
  return id
}

/** The name of an answer of a choice: as its question words it, else in general. */
export function optionName(option: string, question = ''): string {
  const own = `option.${questionKey(question).slice('ask.'.length)}.${option}`
  if (known(own)) return say(own)
  if (known(`option.${option}`)) return say(`option.${option}`)
  return place(/^[a-z]{1,2}$/.test(option) ? `wall.${option}` : option)
}

/** Whether lengths and areas are said in feet and inches. */
const system = useLocalStorage<'metric' | 'imperial'>('units', 'metric')
export const imperial = computed({
  get: () => system.value === 'imperial',
  set: (is) => (system.value = is ? 'imperial' : 'metric'),
})

const MM_PER_INCH = 25.4
const SIXTEENTHS = 16

/** A length in feet, inches and sixteenths: 7' 10 1/2". */
export function feet(mm: number): string {
  const parts = Math.round((Math.abs(mm) / MM_PER_INCH) * SIXTEENTHS)
  let [over, of] = [parts % SIXTEENTHS, SIXTEENTHS]
  while (over && over % 2 === 0) [over, of] = [over / 2, of / 2]
  const inches = Math.floor(parts / SIXTEENTHS)
  const whole = inches >= 12 ? `${Math.floor(inches / 12)}' ${inches % 12}` : String(inches)
  const fraction = over ? `${whole === '0' ? '' : ' '}${over}/${of}` : ''
  return `${mm < 0 ? '-' : ''}${fraction && whole === '0' ? '' : whole}${fraction}"`
}
const FT2_PER_M2 = 10.7639104167

/** A sum of areas or lengths as a number and its unit, in the units that are chosen. */
export const areaFact = (m2: number) =>
  imperial.value ? { value: fixed(m2 * FT2_PER_M2, 1), unit: 'ft²' } : { value: fixed(m2, 2), unit: 'm²' }
export const lengthFact = (mm: number) =>
  imperial.value ? { value: fixed(mm / MM_PER_INCH / 12, 1), unit: 'ft' } : { value: fixed(mm / 1000, 2), unit: 'm' }

/** An amount of money that is kept in cents. */
export const money = (cents: number): string => `${cash.value.format(cents / 100)} ${currency.value}`.trimEnd()

/** The currency of the job that is open (ISO 4217). */
export const currency = ref('')
const cash = computed(() => new Intl.NumberFormat(tag.value, { minimumFractionDigits: 2, maximumFractionDigits: 2 }))

const formats: Record<string, (value: unknown) => string> = {
  length: (v) => (imperial.value ? feet(Number(v)) : `${fixed(Number(v) / 1000, 2)} m`),
  m: (v) => (imperial.value ? feet(Number(v)) : fixed(Number(v) / 1000, 2)),
  mm: (v) => (imperial.value ? feet(Number(v)) : `${plain(Number(v))} mm`),
  film: (v) => fixed(Number(v), 1),
  film2: (v) => fixed(Number(v), 2),
  kg: (v) => `${fixed(Number(v), 2)} kg`,
  kg1: (v) => `${fixed(Number(v), 1)} kg`,
  area: (v) => (imperial.value ? `${fixed(Number(v) * FT2_PER_M2, 1)} ft²` : `${fixed(Number(v), 2)} m²`),
  number: (v) => plain(Number(v)),
  temp: (v) => `${plain(Number(v))} °C`,
  clock: (v) => moment(String(v)),
  hhmm: (v) => clock(String(v)),
  day: (v) => {
    const date = { weekday: 'short', day: 'numeric', month: 'short', timeZone: zone.value } as const
    return new Date(String(v)).toLocaleDateString(tag.value, date)
  },
  weekday: (v) => new Date(String(v)).toLocaleDateString(tag.value, { weekday: 'short', timeZone: zone.value }),
  hours: (v) => span(Number(v) * 3_600_000),
  whole: (v) => fixed(Number(v), 0),
  load: (v) => fixed(Number(v), 2),
  rate: (v) => fixed(Number(v), 3),
  place: (v) => place(String(v)),
  option: (v) => optionName(String(v)),
  product: (v) => say(`product.${String(v)}`),
  cut_state: (v) => say(`cut_state.${String(v)}`),
  money: (v) => money(Number(v)),
  unit: (v) => (unitName(String(v)) ? ` ${unitName(String(v))}` : ''),
  letter: (v) => String(v).toUpperCase(),
  word: (v) => (typeof v === 'string' && v ? say(v) : ''),
  field: (v) => fieldName(String(v)),
  list: (v) => (Array.isArray(v) ? v.join(say('language.comma')) : String(v)),
}

const rules = computed(() => new Intl.PluralRules(tag.value))
const formOf = (n: number) => rules.value.select(n)

/** Says a key with its values: "{mm:length}" writes a value in a format. A key that counts n
 * things may stand for each plural form of the language (CLDR): "key.one", "key.few"; without one for all. */
export function say(key: string, args: Args = {}): string {
  const words = catalogue.value
  const form = typeof args.n === 'number' ? words[`${key}.${formOf(args.n)}`] : undefined
  const sentence = form ?? words[key]
  if (sentence === undefined) return `⟦${key}⟧`
  return sentence.replace(/\{(\w+)(?::(\w+))?\}/g, (_, name: string, format?: string) => {
    const value = args[name]
    if (value === undefined || value === null) return ''
    const write = format ? formats[format] : undefined
    if (write) return write(value)
    return typeof value === 'number' || typeof value === 'string' ? String(value) : ''
  })
}

/** The word of a name that may be a system's own; of its own what it calls it. */
export const sayName = (group: string, name: string): string =>
  !known(`${group}.${name}`) ? name.replaceAll('_', ' ') : say(`${group}.${name}`)

/** Names of more signs stand in smaller letters at the head of a screen. */
export const LONG = 24

export const known = (key: string) => key in catalogue.value

/** Lists of a form: their items share the wording of their questions. */
const listed =
  /^(pipes|zones|openings|niches|boxes|stations|drains|fittings|lines|levels|patches|packs|stock)\.(\d+)\.(.+)$/

/** The wording of a question, by its id: walls and the items of a list share theirs. */
export function questionKey(id: string): string {
  const item = listed.exec(id)
  if (item) return `ask.${item[1]!}.${item[3]!}`
  const wall = /^walls\.[a-z]+\.(\w+)$/.exec(id)
  return wall ? `ask.walls.${wall[1]!}` : `ask.${id}`
}

/** The item of a list that a question belongs to: "niches.1" of "niches.1.width". */
export function itemOf(id: string): string {
  const item = listed.exec(id)
  return item ? `${item[1]!}.${item[2]!}` : ''
}

/** The name of the field at fault, in the trade's words. */
export function fieldName(field: string): string {
  const inFile = /^sheets\.(\d+)\.(?:numbers\.)?(.+)$/.exec(field)
  if (inFile) return `${say('field.sheet_of_file', { n: inFile[1]! })}, ${fieldName(inFile[2]!)}`
  if (field.startsWith('recipe.')) return `${say('field.recipe')}, ${field.slice('recipe.'.length)}`
  const [whole, part = ''] = field.split('.')
  if ((whole === 'sheet' || whole === 'companions') && known(`product.${part}`)) return say(`product.${part}`)
  const args = { wall: part.toUpperCase(), pipe: part, n: part }
  for (const key of [
    `${questionKey(field)}.short`,
    `field.${field}`,
    `sheet.${field}`,
    field,
    `field.${whole}.${part}`,
  ])
    if (known(key)) return say(key, args)
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
  if (unit === 'mm' && value >= 1) return formats.mm!(value) // films stay in mm
  if (unit === 'm2') return formats.area!(value)
  const text = unit in unitDigits ? fixed(value, unitDigits[unit]!) : plain(value)
  return text + formats.unit!(unit)
}

export function unitName(unit: string): string {
  return unitNames[unit] ?? unit
}
