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

/** The last moment before now (and a little) at which the clock of the place showed a time. */
export function lastTime(hours: number, minutes: number, now: Date): Date {
  const on = (day: string) => {
    const plain = Date.parse(`${day}T00:00:00Z`) + (hours * 60 + minutes) * MINUTE
    // The offset of that moment, which may differ from that of now.
    const guess = new Date(plain - offsetOf(now) * MINUTE)
    return new Date(plain - offsetOf(guess) * MINUTE)
  }
  const today = on(dayOf(now))
  return today.getTime() <= now.getTime() + MINUTE ? today : on(dayOf(new Date(now.getTime() - DAY)))
}
