import { computed, ref, type WritableComputedRef } from 'vue'

/**
 * A sentence that is being written here: it outlives a closed sheet, Back and a reload, and is let go of when it is
 * set empty, which whoever keeps it does. `of` says which sentence of this page it is.
 */
export function keptText(of: string, first = ''): WritableComputedRef<string> {
  const key = `text.${location.pathname}.${of}`
  const text = ref(localStorage.getItem(key) ?? first)
  return computed({
    get: () => text.value,
    set(now) {
      text.value = now
      try {
        if (now) localStorage.setItem(key, now)
        else localStorage.removeItem(key)
      } catch {
        // No room: it stands on the screen still.
      }
    },
  })
}
