import { ref, watch, type Ref } from 'vue'

/** What is shown at this place of the browser's history: a reload, Back and Forward come to the same again. */
export function useHere<T extends string = string>(name: string, first: NoInfer<T>): Ref<T> {
  const state = () => (history.state ?? {}) as Record<string, T>
  const here = ref(state()[name] ?? first) as Ref<T>
  watch(here, (now) => history.replaceState({ ...state(), [name]: now }, ''), { flush: 'sync' })
  return here
}
