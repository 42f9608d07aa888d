import { ref } from 'vue'

/** What is waited for: the calculator itself, entries that are read, or anything else that takes a blink. */
export const loading = ref<{ what: 'core' | 'entries' | ''; n: number }>({ what: 'core', n: 0 })

/** Says what is waited for until it is there. */
export async function whileLoading<T>(n: number, work: Promise<T>): Promise<T> {
  const before = loading.value
  if (before.what !== 'core') loading.value = { what: 'entries', n }
  try {
    return await work
  } finally {
    if (loading.value.what === 'entries') loading.value = before
  }
}
