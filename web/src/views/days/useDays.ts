// The plan of the days: a first one at once, then a second worker looks for one that ends sooner. What is supposed is kept in
// the draft, and changes nothing but what is drawn.
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue'
import type { Schemas } from '../../core/core'
import { Refusal } from '../../core/core'
import { searchDays, stopSearch, type Plan } from '../../core/searches'
import { now as theTime } from '../../data/clock'
import { askJob } from '../../data/folded'
import { sayRefusal } from '../../data/refusal'
import { version } from '../../data/sync'
import { useDraft } from '../../data/useDraft'
import { say } from '../../words/words'
import { dayOf, timeOfPlace } from '../../words/zone'

export type Days = Schemas['SiteDays']
export type Row = Schemas['SiteRow']
export type Held = { area: string; step: string; part: number; start: string; title: string }
/** What is supposed beside what is known. */
export interface Suppose {
  more_crews?: number
  more_people?: number
  longer_min?: number
  weekends?: boolean
  heater?: { area: string; K: number; name: string }[]
  rain?: { from: string; to: string }[]
  split?: { area: string; step: string; name: string; title: string }[]
  held?: Held[]
}

/** What may be tried of people and hours, by its name. */
export const TRIES: Record<string, Suppose> = {
  crew: { more_crews: 1 },
  people: { more_people: 1 },
  longer: { longer_min: 120 },
  weekends: { weekends: true },
}

/** What a row is called: of a step that is laid in stretches with which of them it is. */
export const titleOf = (row: Pick<Row, 'title' | 'part' | 'parts'>) =>
  row.parts > 1 ? say('days.title.part', { title: row.title, n: row.part, of: row.parts }) : row.title

/** Nobody's days were picked on this device: a phone shows those of who is at work, anything larger all. */
export const MINE = 'mine'

/** Days that are looked ahead. */
export const AHEAD = 28
const DAY = 24 * 60 * 60_000

/** The midnights of the place from today on. */
export function midnights(from: Date, days: number): string[] {
  const noon = timeOfPlace(`${dayOf(from)}T12:00`)!
  return Array.from({ length: days + 1 }, (_, n) => {
    const day = dayOf(new Date(noon.getTime() + n * DAY))
    return timeOfPlace(`${day}T00:00`)!.toISOString()
  })
}

export function useDays(job: () => string) {
  const draft = useDraft(
    () => `days.${job()}`,
    () => ({ suppose: '{}', indoors: '', whose: MINE }),
  )
  const suppose = computed(() => JSON.parse(draft.typed.value.suppose ?? '{}') as Suppose)
  const days = shallowRef<Days | null>(null)
  /** The end without anything supposed. */
  const plain = ref('')
  const refused = shallowRef<Refusal | null>(null)
  const broken = ref(false)
  const searching = ref(false)
  let from: Plan['from'] = null
  let turn = 0

  const asked = () => {
    const now = theTime()
    const indoors = Number(draft.typed.value.indoors)
    return {
      now: now.toISOString(),
      midnights: midnights(now, AHEAD),
      most_nodes: 0,
      ...(draft.typed.value.indoors && Number.isFinite(indoors) ? { indoors_C: indoors } : {}),
    }
  }
  const supposed = () => ({
    ...suppose.value,
    heater: (suppose.value.heater ?? []).map(({ area, K }) => ({ area, K })),
    split: (suppose.value.split ?? []).map(({ area, step }) => ({ area, step })),
    held: (suppose.value.held ?? []).map(({ area, step, part, start }) => ({ area, step, part, start })),
  })

  function stop(): void {
    turn++
    if (searching.value) stopSearch()
    searching.value = false
  }

  async function look(): Promise<void> {
    stop()
    const mine = turn
    refused.value = null
    try {
      const got = await askJob(job(), 'schedule.plan', { ...asked(), ...supposed(), slacks: true })
      if (mine !== turn) return
      show(got)
      if (!Object.keys(suppose.value).length) plain.value = got.end ?? ''
      from = got.from
      if (from) await goOn(got)
    } catch (error) {
      if (!(error instanceof Refusal)) throw error
      if (mine === turn) refused.value = error
    }
  }

  function show(got: Days): void {
    broken.value = !got.found
    if (got.found || !days.value) days.value = got
  }

  /** Looks on in the second worker. */
  async function goOn(first: Days): Promise<void> {
    const mine = turn
    searching.value = true
    let best = first.end
    const shown = async (plan: Plan) => {
      const got = await askJob(job(), 'schedule.plan', { ...asked(), ...supposed(), plan, slacks: true })
      if (mine === turn) show(got)
    }
    let last: Plan | null = null
    try {
      await searchDays(
        first.problem,
        from,
        (plan) => {
          last = plan
          from = plan.from
          if (mine !== turn || !days.value) return
          if (plan.found && plan.starts.length && String(plan.end_min) !== best) {
            best = String(plan.end_min)
            void shown(plan)
          } else days.value = { ...days.value, nodes: plan.nodes, proven: plan.proven, end_proven: plan.end_proven }
        },
        () => mine !== turn,
      )
    } catch (error) {
      if (!(error instanceof Refusal)) throw error
      if (mine === turn) refused.value = error
    }
    if (mine !== turn) return
    searching.value = false
    const ended = last as Plan | null
    if (ended?.found) await shown(ended)
  }

  const lookOn = () => days.value && void goOn(days.value)
  const set = (change: Suppose) => {
    const next = Object.entries({ ...suppose.value, ...change }).filter(([, v]) => v && (!Array.isArray(v) || v.length))
    return draft.replace({ ...draft.typed.value, suppose: JSON.stringify(Object.fromEntries(next)) })
  }
  type Place = Pick<Row, 'area' | 'step' | 'part'>
  const others = (of: Place) =>
    (suppose.value.held ?? []).filter((each) => each.area !== of.area || each.step !== of.step || each.part !== of.part)
  /** A step is laid where somebody puts it; the rest gives way. */
  const hold = (row: Row, at: Date) => {
    const { area, step, part } = row
    return set({ held: [...others(row), { area, step, part, title: titleOf(row), start: at.toISOString() }] })
  }
  const release = (of: Place) => set({ held: others(of) })
  /** How much warmer an area is supposed to be, K. */
  const warmth = (area: string) => suppose.value.heater?.find((each) => each.area === area)?.K ?? 0
  const warm = ({ area, name }: Pick<Row, 'area' | 'name'>, K: number) =>
    set({ heater: [...(suppose.value.heater ?? []).filter((each) => each.area !== area), { area, K, name }] })
  /** A step is laid in two stretches. */
  const split = ({ area, step, name, title }: Pick<Row, 'area' | 'step' | 'name' | 'title'>) =>
    set({ split: [...(suppose.value.split ?? []), { area, step, name, title }] })
  /** Something is supposed that is not so yet; a step that is laid elsewhere by hand is part of the plan. */
  const tried = computed(() => Object.keys(suppose.value).some((each) => each !== 'held'))
  watch(
    [job, version, () => draft.typed.value.suppose, () => draft.typed.value.indoors, draft.ready],
    () => {
      if (draft.ready.value) void look()
    },
    { immediate: true },
  )
  onBeforeUnmount(stop)
  const why = computed(() => (refused.value ? sayRefusal(refused.value) : ''))
  const noCrew = computed(() => !!refused.value?.faults.some((each) => each.key === 'schedule.no_crew'))
  return {
    draft,
    suppose,
    set,
    hold,
    release,
    split,
    warm,
    warmth,
    tried,
    days,
    plain,
    broken,
    searching,
    stop,
    lookOn,
    why,
    noCrew,
    asked,
    supposed,
  }
}
