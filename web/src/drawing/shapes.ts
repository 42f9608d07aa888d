// What the writers of display lists share.
import type { Schemas } from '../core/core'

/**
 * A drawing in px instead of mm. At one unit a px lines keep their width by themselves, which
 * a browser paints much faster than lines that must not scale.
 */
export function inPx(d: Schemas['DrawDrawing']): Schemas['DrawDrawing'] {
  const px = d.mm_per_px
  const round = (v: number) => Math.round(v * 100) / 100
  const at = (p: number[]): [number, number] => [round((p[0]! - d.box.x) / px), round((p[1]! - d.box.y) / px)]
  return {
    ...d,
    box: { x: 0, y: 0, width: round(d.box.width / px), height: round(d.box.height / px) },
    items: d.items.map((item) => ({
      ...item,
      at: at(item.at),
      ...(item.points ? { points: item.points.map(at) } : {}),
      ...(item.radius ? { radius: round(item.radius / px) } : {}),
      ...(item.step ? { step: item.step / px } : {}),
    })),
    taps: d.taps.map((tap) => ({ ...tap, outline: tap.outline.map(at) })),
  }
}

/** The path of a list of points. */
export const pathOf = (item: { points?: number[][] | undefined; closed?: boolean | undefined }) =>
  (item.points ?? []).map((p, i) => `${i ? 'L' : 'M'}${p[0]} ${p[1]}`).join('') + (item.closed ? 'Z' : '')

/** Grains of a profile of the base in a tile of 16 px: the rougher, the more and the larger. */
export function grains(grade: number): string {
  const places = [
    [4, 4],
    [12, 12],
    [12, 4],
    [4, 12],
    [8, 8],
  ].slice(0, grade < 4 ? 1 + grade : 5)
  const r = 0.5 + 0.3 * grade
  return places.map(([x, y]) => `M${x! - r} ${y!}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0z`).join('')
}

/** Separate stretches, each a pair of points, as one path. */
export function linesOf(item: { points?: number[][] }): string {
  const points = item.points ?? []
  let d = ''
  for (let i = 0; i + 1 < points.length; i += 2)
    d += `M${points[i]![0]} ${points[i]![1]}L${points[i + 1]![0]} ${points[i + 1]![1]}`
  return d
}

const HOUR = 60 * 60_000
const STEP = 5 * 60_000

/** The time that lies at a place of a plan of the days: its day's name lies above it, its hours stand over it. */
export function dropTime(items: readonly Schemas['DrawItem'][], x: number, y: number): string {
  const day = items.findLast((item) => item.style === 'days_day' && item.at[1]! <= y)
  if (!day) return ''
  const below = items.filter((item) => item.style === 'axis_hour' && item.at[1]! > day.at[1]!)
  const hours = below.filter((item) => item.at[1] === below[0]!.at[1]).slice(1) // the first stands aside of its line
  const [one, two] = [hours[0], hours.at(-1)]
  if (!one || !two || one === two) return ''
  const hourOf = (item: Schemas['DrawItem']) => Number(item.say?.args?.h)
  const hour = hourOf(one) + ((x - one.at[0]!) / (two.at[0]! - one.at[0]!)) * (hourOf(two) - hourOf(one))
  const noon = Date.parse(String(day.say?.args?.at))
  const at = noon + (Math.min(24, Math.max(0, hour)) - 12) * HOUR
  return new Date(Math.round(at / STEP) * STEP).toISOString()
}
