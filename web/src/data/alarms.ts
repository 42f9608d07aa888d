// Due times that ring wherever one is in the page, also after a reload: kept by area, and set by
// whoever looks at it.
import { ref } from 'vue'

const KEPT = 'alarms'

export interface Alarm {
  /** ms */
  due: number
  /** wording key of what is due, with its values */
  key: string
  args: Record<string, unknown>
}

const read = () => JSON.parse(localStorage.getItem(KEPT) ?? '{}') as Record<string, Alarm[]>

/** All alarms, by area. */
export const alarms = ref(read())

/** Sets the alarms of an area in the place of those it had. */
export function setAlarms(area: string, list: Alarm[]): void {
  const all = { ...read(), [area]: list }
  if (!list.length) delete all[area]
  alarms.value = all
  localStorage.setItem(KEPT, JSON.stringify(all))
}

// Another tab set its own.
window.addEventListener('storage', ({ key }) => {
  if (key === KEPT) alarms.value = read()
})
