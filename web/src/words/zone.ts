// Times are those of the place where the work is: the job's zone, wherever the device is.
import { ref } from 'vue'

/** The zone of the job that is open (IANA); undefined is the device's. */
export const zone = ref<string | undefined>()

/** Sets the zone, where this device knows it. */
export function setZone(name: string | undefined): void {
  try {
    new Intl.DateTimeFormat('en-GB', { timeZone: name })
    zone.value = name || undefined
  } catch {
    zone.value = undefined
  }
}

/** A day as it is kept, 2006-01-02, by the clock of the place. */
export const dayOf = (at: Date): string => at.toLocaleDateString('sv-SE', { timeZone: zone.value })

/** Minutes east of Greenwich, at a moment. */
export function offsetOf(at: Date): number {
  const whole = new Date(Math.floor(at.getTime() / 1000) * 1000)
  const there = whole.toLocaleString('sv-SE', { timeZone: zone.value }).replace(' ', 'T')
  return Math.round((Date.parse(`${there}Z`) - whole.getTime()) / 60_000)
}

const MINUTE = 60_000
const DAY = 24 * 60 * MINUTE

/** The moment at which the clock of the place shows what was typed as a day and a time, yyyy-mm-ddThh:mm. */
export function timeOfPlace(typed: string): Date | null {
  const plain = Date.parse(`${typed}Z`)
  if (Number.isNaN(plain)) return null
  // The offset of that moment, not of now.
  const guess = new Date(plain - offsetOf(new Date(plain)) * MINUTE)
  return new Date(plain - offsetOf(guess) * MINUTE)
}

/** The last moment before now (and a little) at which the clock of the place showed a time. */
export function lastTime(hours: number, minutes: number, now: Date): Date {
  const two = (n: number) => String(n).padStart(2, '0')
  const on = (day: string) => timeOfPlace(`${day}T${two(hours)}:${two(minutes)}`) ?? now
  const today = on(dayOf(now))
  return today.getTime() <= now.getTime() + MINUTE ? today : on(dayOf(new Date(now.getTime() - DAY)))
}
