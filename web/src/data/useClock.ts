import { onScopeDispose, ref, type Ref } from 'vue'
import { now as theTime } from './clock'

/** What time it is, moved each second. */
export function useClock(): Ref<Date> {
  const now = ref(theTime())
  const timer = window.setInterval(() => (now.value = theTime()), 1000)
  onScopeDispose(() => window.clearInterval(timer))
  return now
}
