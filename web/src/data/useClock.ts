import { useIntervalFn } from '@vueuse/core'
import { ref, type Ref } from 'vue'
import { now as theTime } from './clock'

/** What time it is, moved each second. */
export function useClock(): Ref<Date> {
  const now = ref(theTime())
  useIntervalFn(() => (now.value = theTime()), 1000)
  return now
}
