import { onScopeDispose, ref, type Ref } from 'vue'

/** The time by this device's clock, moved each second. */
export function useClock(): Ref<Date> {
  const now = ref(new Date())
  const timer = window.setInterval(() => (now.value = new Date()), 1000)
  onScopeDispose(() => window.clearInterval(timer))
  return now
}
