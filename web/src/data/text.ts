// A text that was cut or pasted in the middle of a character holds half of it, which no other
// program can keep.

/** The same value with every text in it well formed. */
export function wellFormed<T>(value: T): T {
  if (typeof value === 'string') return value.toWellFormed() as T
  if (Array.isArray(value)) return value.map(wellFormed) as T
  if (value !== null && typeof value === 'object')
    return Object.fromEntries(Object.entries(value).map(([name, each]) => [name, wellFormed(each as unknown)])) as T
  return value
}

export function isJSON(text: string): boolean {
  try {
    JSON.parse(text)
    return true
  } catch {
    return false
  }
}
