// The hours of a week as they are typed: stretch by stretch, each with its days.
import type { Schemas } from '../../core/core'

export type Shift = Schemas['LogbookShift']

const numbers = (typed: Record<string, string>) => (typed.hours ?? '').split(' ').filter(Boolean)

export function typedWeek(shifts: readonly Shift[]): Record<string, string> {
  const typed: Record<string, string> = { hours: shifts.map((_, i) => String(i + 1)).join(' ') }
  shifts.forEach((shift, i) => {
    typed[`hours.${i + 1}.days`] = shift.days.join(' ')
    typed[`hours.${i + 1}.from`] = shift.from
    typed[`hours.${i + 1}.to`] = shift.to
  })
  return typed
}

export const readWeek = (typed: Record<string, string>): Shift[] =>
  numbers(typed).map((n) => ({
    days: (typed[`hours.${n}.days`] ?? '').split(' ').filter(Boolean).map(Number),
    from: typed[`hours.${n}.from`] ?? '',
    to: typed[`hours.${n}.to`] ?? '',
  }))

export const stretches = numbers
