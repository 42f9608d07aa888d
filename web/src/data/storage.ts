// Room on the device.
import { ref } from 'vue'
import { Refusal } from '../core/core'

/** The last thing that was to be kept found no room. */
export const isFull = ref(false)

const foundNoRoom = (error: unknown): boolean =>
  error instanceof Error &&
  (/Quota/.test(`${error.name} ${error.message}`) || ('inner' in error && foundNoRoom(error.inner)))

/** Writes to the local copy; where there is no room it is refused, and the head says so. */
export async function keep<T>(write: () => PromiseLike<T>): Promise<T> {
  try {
    const written = await write()
    isFull.value = false
    return written
  } catch (error) {
    if (!foundNoRoom(error)) throw error
    isFull.value = true
    throw new Refusal([{ field: 'device', key: 'device.full' }])
  }
}

/** Asks the browser to keep what is here also when the device runs full; tells whether it will. */
export async function askToPersist(): Promise<boolean> {
  return (await navigator.storage?.persisted?.()) || (await navigator.storage?.persist?.()) || false
}

/** How full the device is for this page, 0 to 1. */
export async function fullness(): Promise<number> {
  const { usage = 0, quota = 0 } = (await navigator.storage?.estimate?.()) ?? {}
  return quota ? usage / quota : 0
}
