import { shallowRef, watch, type ShallowRef } from 'vue'

/**
 * What is asked again whenever its key changes: the last answer stays until the next one is there, and one that
 * was overtaken is dropped, with what it threw.
 */
export function useLatest<T>(key: () => unknown, ask: () => Promise<T>): ShallowRef<T | null> {
  const answer = shallowRef<T | null>(null)
  watch(
    key,
    async (_now, _before, onCleanup) => {
      let latest = true
      onCleanup(() => (latest = false))
      try {
        const given = await ask()
        if (latest) answer.value = given
      } catch (error) {
        if (latest) throw error
      }
    },
    { immediate: true },
  )
  return answer
}
