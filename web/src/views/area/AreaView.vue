<script setup lang="ts">
// One wet area: the stage that is shown, and in it the step under way.
import { computed, nextTick, ref, shallowRef, watch, type Component } from 'vue'
import { useRouter } from 'vue-router'
import type { Schemas } from '../../core/core'
import { useBook, type Look } from '../../data/book'
import { askJob } from '../../data/folded'
import { answersFor } from '../../data/pin'
import { setAlarms } from '../../data/alarms'
import { now as theTime } from '../../data/clock'
import { version } from '../../data/sync'
import { useClock } from '../../data/useClock'
import { useHere } from '../../data/useHere'
import AppFrame from '../../parts/AppFrame.vue'
import PlainSpine from '../../parts/PlainSpine.vue'
import { say } from '../../words/words'
import LoadingLine from '../../parts/LoadingLine.vue'
import BedStep from '../detail/BedStep.vue'
import CoatStep from '../coat/CoatStep.vue'
import PlanStep from '../plan/PlanStep.vue'
import AcceptStep from '../prepare/AcceptStep.vue'
import CheckStep from '../prepare/CheckStep.vue'
import SurveyStep from '../survey/SurveyStep.vue'
import SprayStep from '../test/SprayStep.vue'
import SignStep from '../test/SignStep.vue'
import TestPlanStep from '../test/TestPlanStep.vue'
import TestStep from '../test/TestStep.vue'
import { provideArea, type Step } from './useArea'

const props = defineProps<{ job: string; area: string; stage?: string }>()
const book = useBook()
const router = useRouter()
const now = useClock()
const look = shallowRef<Look | null>(null)
const busy = ref(false)

/** The view for what a step is there for; what a person says is done, line by line, has none of its own. */
const views: Record<string, Component> = {
  survey: SurveyStep,
  plan: PlanStep,
  accept: AcceptStep,
  place: BedStep,
  plan_test: TestPlanStep,
  test: TestStep,
  spray_test: SprayStep,
  sign: SignStep,
}
const viewOf = (step: Step) =>
  step.coat && /^(lay|embed)$/.test(step.does) ? CoatStep : (views[step.does] ?? CheckStep)

let asked = 0
let answered = 0
let looking: { version: number; done: Promise<void> } | null = null

/** Looks again; what is being asked of the same entries already is waited for. */
function load(): Promise<void> {
  if (looking?.version !== version.value) {
    const mine = { version: version.value, done: lookNow().finally(() => looking === mine && (looking = null)) }
    looking = mine
  }
  return looking.done
}
async function lookNow(): Promise<void> {
  const mine = ++asked
  if (look.value) await nextTick() // the drawing is asked first: the eye is there
  const got = await book.look(props.job, props.area, theTime())
  if (mine < answered) return // a later look is shown already
  answered = mine
  look.value = got
  ring(got) // also when another place was gone to meanwhile
}

/** What runs here rings wherever one goes. */
function ring(l: Look): void {
  const timers = l.batches.filter((b) => b.live).flatMap((b) => b.timers.map((timer) => ({ b, timer })))
  setAlarms(
    l.id,
    timers.map(({ b, timer }) => ({
      due: Date.parse(timer.due),
      key: `alarm.${timer.name}`,
      args: { n: b.number, area: l.name },
    })),
  )
}

watch([() => props.job, () => props.area], () => void lookNow())
watch(version, () => void load(), { immediate: true })

// A time that comes due changes what may be done: look again when it does.
const dueTimes = computed(() => {
  const l = look.value
  if (!l) return []
  const times = [
    l.next.until,
    ...(l.tide ? [l.tide.opens, l.tide.closing, l.tide.shuts] : []),
    l.test?.next_at ?? '',
    ...l.batches.filter((b) => b.live).flatMap((b) => b.timers.map((t) => t.due)),
  ]
  return times
    .filter(Boolean)
    .map((time) => Date.parse(time))
    .sort((a, b) => a - b)
})
let lookedAt = theTime().getTime()
watch(now, (at) => {
  const due = dueTimes.value.some((time) => time > lookedAt && time <= at.getTime())
  if (due || at.getTime() - lookedAt > 60_000) {
    lookedAt = at.getTime()
    void lookNow()
  }
})

const shownStage = computed(() => {
  const stages = look.value?.stages ?? []
  return (
    stages.find((s) => s.id === props.stage) ?? stages.find((s) => s.id === look.value?.next.stage) ?? stages.at(-1)
  )
})
/** The step in view stays, also when it is finished, until another is gone to. */
const chosenStep = useHere('step', '')
const shownStep = computed<Step | undefined>(() => {
  const steps = (shownStage.value?.steps ?? []) as Step[]
  return (
    steps.find((s) => s.id === chosenStep.value) ?? steps.find((s) => s.id === look.value?.next.step) ?? steps.at(-1)
  )
})

watch(shownStep, (step) => (chosenStep.value = step?.id ?? ''))

/** What does not fit of the entry that was made last: it is said at once. */
const fresh = ref<Schemas['LogbookDeviation'][]>([])
const against = async (entry: string) =>
  (await askJob(props.job, 'logbook.deviations', { area: props.area })).deviations.filter((d) => d.entry === entry)

/** What is being kept, or waits until it can be. */
const pending = new Set<string>()
let line: Promise<void> = Promise.resolve()

/** A place was gone to since the last entry began to be kept. */
let gone = false
function go(stage: string): void {
  gone = true
  chosenStep.value = ''
  void router.replace(`/job/${props.job}/area/${props.area}/${stage}`)
}

const nameOf = (person: string) => book.names[person] || look.value?.job.people.find((p) => p.id === person)?.role || ''

provideArea({
  job: props.job,
  area: props.area,
  look: look as never, // views are mounted once it is there
  now,
  minute: computed(() => new Date(Math.floor(now.value.getTime() / 60_000) * 60_000).toISOString()),
  busy,
  fresh,
  go,
  show(step) {
    gone = true
    chosenStep.value = step
  },
  goOn() {
    if (!gone) go(look.value!.next.stage)
  },
  nameOf,
  async record(kind, body, said, mend) {
    const what = JSON.stringify([kind, body, mend])
    if (pending.has(what)) return false // a second tap
    pending.add(what)
    const before = line
    let over = (): void => undefined
    line = new Promise((resolve) => (over = resolve))
    await before // another entry is still being kept: this one is not lost for it
    busy.value = true
    gone = false
    try {
      const by = await book.who(look.value!.job)
      if (!by) return false
      const who = (body as { person?: string } | null)?.person ?? by
      if (!(await answersFor(kind, who, nameOf(who)))) return false
      const had = look.value!.deviation_count
      const id = await book.record({ kind, body, jobId: props.job, areaId: props.area, by, say: said, ...mend })
      await load()
      fresh.value = look.value!.deviation_count > had ? await against(id) : []
      return true
    } finally {
      busy.value = false
      pending.delete(what)
      over()
    }
  },
})
</script>

<template>
  <component
    :is="viewOf(shownStep)"
    v-if="look && shownStage && shownStep"
    :key="`${area}.${shownStep.id}`"
    :step="shownStep"
    :stage="shownStage"
  />
  <AppFrame v-else>
    <template #spine><PlainSpine :job="job" /></template>
    <template #title
      ><h1>{{ say('loading') }}</h1></template
    >
    <LoadingLine />
  </AppFrame>
</template>
