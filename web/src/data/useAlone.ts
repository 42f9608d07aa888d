import { onScopeDispose, ref, watch, type Ref } from 'vue'

/**
 * Whether this tab alone works on something: `mine`, or `elsewhere` where another tab does. Who is
 * second is told and may take it over; the first is told then.
 */
export function useAlone(key: () => string): { place: Ref<'mine' | 'elsewhere'>; takeOver: () => void } {
  const place = ref<'mine' | 'elsewhere'>('mine')
  let letGo: (() => void) | undefined

  function hold(name: string, steal: boolean): void {
    let over = false
    const held = navigator.locks.request(name, steal ? { steal } : { ifAvailable: true }, (lock) => {
      if (over) return
      place.value = lock ? 'mine' : 'elsewhere'
      if (!lock) return
      return new Promise<void>((resolve) => (letGo = resolve))
    })
    held.catch(() => (place.value = 'elsewhere')) // another tab took it over
    letGo = () => (over = true)
  }

  watch(
    key,
    (name) => {
      letGo?.()
      hold(name, false)
    },
    { immediate: true },
  )
  onScopeDispose(() => letGo?.())
  return { place, takeOver: () => hold(key(), true) }
}
