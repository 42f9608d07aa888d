// Times are those of the place where the work is, wherever the device is.
import { expect, test } from '@playwright/test'
import { dayOf, lastTime, offsetOf, setZone } from '../web/src/words/zone'

test('a clock time typed is the last one that was', () => {
  setZone('Europe/Berlin')
  const at = (text: string) => new Date(text)
  for (const [now, hours, minutes, want] of [
    ['2026-03-04T14:00:00Z', 14, 30, '2026-03-04T13:30:00.000Z'],
    ['2026-03-04T23:10:00Z', 23, 55, '2026-03-04T22:55:00.000Z'], // after midnight there: yesterday's
    ['2026-03-04T14:00:00Z', 15, 1, '2026-03-04T14:01:00.000Z'], // the minute that is just beginning
    ['2026-03-04T14:00:00Z', 16, 0, '2026-03-03T15:00:00.000Z'],
    ['2026-03-29T02:30:00Z', 1, 30, '2026-03-29T00:30:00.000Z'], // summer time began at 02:00
    ['2026-03-29T10:00:00Z', 23, 0, '2026-03-28T22:00:00.000Z'],
    ['2026-10-25T09:00:00Z', 8, 0, '2026-10-25T07:00:00.000Z'],
  ] as const)
    expect(lastTime(hours, minutes, at(now)).toISOString(), `${hours}:${minutes} at ${now}`).toBe(want)
})

test('days and offsets are of the zone, an unknown one is the device’s', () => {
  setZone('Pacific/Auckland')
  expect(dayOf(new Date('2026-03-04T12:00:00Z'))).toBe('2026-03-05')
  expect(offsetOf(new Date('2026-03-04T12:00:00Z'))).toBe(780)
  setZone('America/New_York')
  expect(offsetOf(new Date('2026-07-04T12:00:00Z'))).toBe(-240)
  setZone('Nowhere/Land')
  expect(offsetOf(new Date('2026-03-04T12:00:00Z'))).toBeCloseTo(-new Date('2026-03-04T12:00:00Z').getTimezoneOffset())
})
