// One clock for all: this device's, with what has to be added to have the server's. The answer
// that took the least time tells it best; it is kept over reloads, since without a signal nobody
// tells it anew.
import { StorageSerializers, useLocalStorage } from '@vueuse/core'
import { ref } from 'vue'

/** Clocks that agree so well are one, ms. */
const SLACK = 2000

interface Learnt {
  offset: number
  trip: number
  /** by this device, when it was learnt */
  at: number
}

const kept = useLocalStorage<Learnt | null>('clock', null, { serializer: StorageSerializers.object })

const counted = (offset: number) => (Math.abs(offset) > SLACK ? Math.round(offset) : 0)

/** ms to add to this device's clock to have the server's, 0 when they agree well enough */
export const clockOffset = ref(counted(kept.value?.offset ?? 0))

/** How long the best answer is believed before a worse one may take its place, ms. */
const BELIEVED = 10 * 60_000

/** Learns from an answer that left at `sent` and came at `got`, by this device. */
export function learnClock(serverNow: string, sent: number, got: number): void {
  const server = Date.parse(serverNow)
  if (Number.isNaN(server)) return
  const trip = got - sent
  const offset = server - (sent + trip / 2)
  const learnt = kept.value
  const aged = learnt === null || got - learnt.at > BELIEVED || got < learnt.at
  // Further off than both answers leave room for: this device's clock was set anew.
  const moved = learnt !== null && Math.abs(offset - learnt.offset) > (trip + learnt.trip) / 2 + SLACK
  if (!aged && !moved && trip >= learnt.trip) return
  kept.value = { offset, trip, at: got }
  clockOffset.value = counted(offset)
}

/** What time it is. */
export const now = (): Date => new Date(Date.now() + clockOffset.value)
