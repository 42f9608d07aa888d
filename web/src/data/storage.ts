// Room on the device.

/** Asks the browser to keep what is here also when the device runs full; tells whether it will. */
export async function askToPersist(): Promise<boolean> {
  return (await navigator.storage?.persisted?.()) || (await navigator.storage?.persist?.()) || false
}

/** How full the device is for this page, 0 to 1. */
export async function fullness(): Promise<number> {
  const { usage = 0, quota = 0 } = (await navigator.storage?.estimate?.()) ?? {}
  return quota ? usage / quota : 0
}
