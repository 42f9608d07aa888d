// Due times that ring wherever one is in the page, also after a reload: kept by area, and set by
// whoever looks at it.
import { useLocalStorage } from '@vueuse/core'

export interface Alarm {
  /** ms */
  due: number
  /** wording key of what is due, with its values */
  key: string
  args: Record<string, unknown>
}

/** All alarms, by area, as any tab of this page set them. */
export const alarms = useLocalStorage<Record<string, Alarm[]>>('alarms', {})

/** Sets the alarms of an area in the place of those it had. */
export function setAlarms(area: string, list: Alarm[]): void {
  const all = { ...alarms.value, [area]: list }
  if (!list.length) delete all[area]
  alarms.value = all
}
