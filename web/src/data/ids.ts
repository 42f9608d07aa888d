/** A UUIDv7 made on the device: the time in ms, then chance. */
export function newId(now = Date.now()): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16))
  for (let i = 0; i < 6; i++) bytes[i] = Math.floor(now / 2 ** (8 * (5 - i))) & 0xff
  bytes[6] = 0x70 | (bytes[6]! & 0x0f)
  bytes[8] = 0x80 | (bytes[8]! & 0x3f)
  const hex = Array.from(bytes, (byte) => byte.toString(16).padStart(2, '0')).join('')
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-${hex.slice(12, 16)}-${hex.slice(16, 20)}-${hex.slice(20)}`
}

/** A time with this device's offset, as entries carry it. */
export function withOffset(at: Date): string {
  const minutes = -at.getTimezoneOffset()
  const sign = minutes < 0 ? '-' : '+'
  const two = (n: number) => String(Math.floor(Math.abs(n))).padStart(2, '0')
  const local = new Date(at.getTime() + minutes * 60_000).toISOString().slice(0, 23)
  return `${local}${sign}${two(minutes / 60)}:${two(minutes % 60)}`
}
