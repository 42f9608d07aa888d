// A job looked at across its areas, again whenever an entry comes or a minute has passed.
import { computed, shallowRef, watch, type Ref } from 'vue'
import { useBook, type Job } from '../../data/book'
import { now as theTime } from '../../data/clock'
import { version } from '../../data/sync'
import { useClock } from '../../data/useClock'

export type AreaLine = Job['areas'][number]

export function useJob(id: () => string, warmer?: Ref<number>) {
  const book = useBook()
  const now = useClock()
  const job = shallowRef<Job | null>(null)
  const minute = computed(() => Math.floor(now.value.getTime() / 60_000) * 60_000)
  const at = computed(() => new Date(minute.value).toISOString())
  let asked = 0

  async function load(): Promise<void> {
    const mine = ++asked
    const got = await book.job(id(), theTime(), warmer?.value ?? 0)
    if (mine === asked) job.value = got
  }
  watch([id, version, minute, () => warmer?.value], () => void load(), { immediate: true })

  const line = (area: string) => job.value?.areas.find((each) => each.id === area)
  const lines = (ids: string[]) => ids.map(line).filter((each): each is AreaLine => each !== undefined)
  return { job, now, at, line, lines }
}
