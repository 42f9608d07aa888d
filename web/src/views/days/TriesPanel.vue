<script setup lang="ts">
// Beside the days: times to give to others, what changed since the accepted plan, what cannot be laid out, what if, and what is
// taken along.
import { computed, shallowRef } from 'vue'
import { call, type Schemas } from '../../core/core'
import { useBook, type Job } from '../../data/book'
import { now as theTime } from '../../data/clock'
import { fileName, saveFile } from '../../data/files'
import { askJob } from '../../data/folded'
import { newId } from '../../data/ids'
import { say } from '../../words/words'
import { dayOf, offsetOf, timeOfPlace } from '../../words/zone'
import { TRIES, type Days, type Suppose, type useDays } from './useDays'

const props = defineProps<{
  job: Job
  days: Days
  plan: ReturnType<typeof useDays>
  crews: readonly { id: string; name: string }[]
}>()
const book = useBook()
const SAID = 3
const DAY = 24 * 60 * 60_000
const shown = computed(() => props.days.changes.slice(0, SAID))
const tell = computed(() => [...new Set(props.days.changes.filter((each) => each.tell).map((each) => each.title))])

type Try = { key: string; args: Record<string, unknown>; area?: string; step?: string; back: Suppose }
const sayTry = (each: Pick<Try, 'key' | 'args'>) => say(`days.try.${each.key}`, each.args)
const suppose = props.plan.suppose
/** What is supposed now, each with the way back. */
const tries = computed<Try[]>(() => {
  const s = suppose.value
  const named = Object.entries(TRIES).flatMap(([key, change]) => {
    const field = Object.keys(change)[0] as keyof Suppose
    return s[field] ? [{ key, args: {}, back: { [field]: 0 } }] : []
  })
  const each = <K extends 'heater' | 'rain' | 'split' | 'held'>(
    key: K,
    args: (of: NonNullable<Suppose[K]>[number]) => object,
  ) =>
    (s[key] ?? []).map((of) => ({
      key,
      args: args(of) as Record<string, unknown>,
      ...('area' in of ? { area: of.area } : {}),
      ...('step' in of ? { step: of.step } : {}),
      back: { [key]: (s[key] as unknown[]).filter((other) => other !== of) },
    }))
  return [
    ...named,
    ...each('heater', ({ name, K }) => ({ name, k: K })),
    ...each('rain', ({ from }) => ({ at: from })),
    ...each('split', ({ name, title }) => ({ name, title })),
    ...each('held', ({ title, start }) => ({ title, at: start })),
  ]
})
/** What may be tried. */
const offered = computed(() => {
  const tomorrow = dayOf(new Date(theTime().getTime() + DAY))
  const from = timeOfPlace(`${tomorrow}T00:00`)!
  const rain = { from: from.toISOString(), to: new Date(from.getTime() + DAY).toISOString() }
  const all: { key: string; args: Record<string, unknown>; change: Suppose }[] = [
    ...Object.entries(TRIES).map(([key, change]) => ({ key, args: {}, change })),
    { key: 'rain', args: { at: rain.from }, change: { rain: [rain] } },
  ]
  return all.filter((each) => !tries.value.some((now) => now.key === each.key))
})

const mends = shallowRef<Schemas['SiteMend'][] | null>(null)
async function mend(): Promise<void> {
  const asked = { ...props.plan.asked(), ...props.plan.supposed(), most_nodes: 50 }
  mends.value = (await askJob(props.job.id, 'schedule.mend', asked)).mends
}
function take(of: Schemas['SiteMend']): void {
  mends.value = null
  if (of.try === 'split') return void props.plan.split(of)
  const change = TRIES[of.try]
  if (change) return void props.plan.set(change)
  void props.plan.warm(of, props.plan.warmth(of.area) + Number(of.try.split('_')[1]))
}

/** What is supposed becomes true: the core says by which entries. */
async function keep(each: Try): Promise<void> {
  const by = await book.who(props.job)
  if (!by) return
  const name = each.key === 'rain' ? say('days.keep.rain_from') : say('crews.new', { n: props.job.crews.length + 1 })
  const { entries } = await askJob(props.job.id, 'schedule.keep', {
    ...props.plan.asked(),
    ...props.plan.supposed(),
    keep: { what: each.key, area: each.area ?? '', step: each.step ?? '', id: newId(), name },
  })
  const kept = { key: 'days.keep.kept', args: { what: sayTry(each) } }
  await book.recordAll(
    entries.map(({ kind, area, body }) => ({
      kind,
      jobId: props.job.id,
      ...(area ? { areaId: area } : {}),
      by,
      body,
      say: kept,
    })),
  )
  await props.plan.set(each.back)
}
async function coolAgain(area: string): Promise<void> {
  const by = await book.who(props.job)
  if (!by) return
  const said = { key: 'days.warmed.dropped' }
  await book.record({ kind: 'area.warmed', jobId: props.job.id, areaId: area, by, body: { K: 0 }, say: said })
}

async function save(format: 'csv' | 'ics'): Promise<void> {
  const now = theTime()
  const { text } = await call('schedule.table', {
    format,
    rows: [...props.days.rows],
    crews: Object.fromEntries(props.crews.map((each) => [each.id, each.name])),
    heads: ['start', 'end', 'area', 'step', 'crew', 'minutes', 'hold'].map((head) => say(`days.head.${head}`)),
    offset_min: offsetOf(now),
    now: now.toISOString(),
  })
  saveFile(fileName([props.job.name, say('days.title')], format), format === 'csv' ? 'text/csv' : 'text/calendar', text)
}
const paper = (crew: string) => `/api/jobs/${props.job.id}/days/${crew}/days.pdf`
</script>

<template>
  <section class="panel">
    <p>{{ say('days.touch') }}</p>
    <template v-if="days.promises.length">
      <h2 class="sub">{{ say('days.promises') }}</h2>
      <p v-for="each in days.promises" :key="each.area + each.what" class="promise">
        <span>{{ say(`days.promise.${each.water ? 'water' : each.what ? 'what' : 'done'}`, { ...each }) }}</span>
        <strong>{{ say(each.early === each.late ? 'days.promise.sure' : 'days.promise', { ...each }) }}</strong>
      </p>
    </template>
    <template v-if="days.changes.length">
      <h2 class="sub">{{ say('days.changes') }}</h2>
      <p v-for="each in shown" :key="each.area + each.step">
        {{ say(each.crew ? 'days.change.crew' : 'days.change', { ...each }) }}
      </p>
      <p v-if="days.changes.length > SAID" class="small">
        {{ say('days.change.more', { n: days.changes.length - SAID }) }}
      </p>
      <p v-if="tell.length" class="said">{{ say('days.tell', { names: tell }) }}</p>
    </template>
    <p v-if="days.first && days.first !== days.accepted" class="small">
      {{ say('days.accepted.first', { at: days.first }) }}
    </p>
    <template v-if="days.left.length">
      <h2 class="sub">{{ say('days.left') }}</h2>
      <router-link
        v-for="each in days.left"
        :key="each.area + each.title"
        :to="`/job/${job.id}/area/${each.area}`"
        class="row"
      >
        <span class="grow">
          <strong>{{ each.name }}{{ each.title ? `, ${each.title}` : '' }}</strong>
          <span class="small">{{ say(each.key, each.args ?? {}) }}</span>
        </span>
      </router-link>
      <v-text-field
        v-if="days.left.some((each) => each.key === 'schedule.left.climate_not_read') || days.supposed.length"
        :model-value="plan.draft.typed.value.indoors ?? ''"
        :label="say('days.indoors')"
        inputmode="decimal"
        maxlength="5"
        autocomplete="off"
        @change="(event: Event) => plan.draft.type('indoors', (event.target as HTMLInputElement).value)"
      />
    </template>
    <p v-if="days.supposed.length" class="said">
      {{ say('days.supposed', { temp: plan.draft.typed.value.indoors, names: days.supposed }) }}
    </p>
    <div v-for="each in days.warmed" :key="each.area" class="try">
      <span>{{ say('days.warmed', { name: each.name, k: each.K }) }}</span>
      <span
        ><button class="outline narrow" @click="coolAgain(each.area)">{{ say('days.warmed.drop') }}</button></span
      >
    </div>
    <h2 class="sub">{{ say('days.tries') }}</h2>
    <div v-for="each in tries" :key="each.key + JSON.stringify(each.args)" class="try" role="status">
      <strong>{{ sayTry(each) }}</strong>
      <span v-if="days.end && plan.plain.value">{{
        days.end === plan.plain.value
          ? say('days.try.same', { at: days.end })
          : say('days.try.end', { at: days.end, before: plan.plain.value })
      }}</span>
      <span class="wrapped">
        <button class="outline narrow" @click="plan.set(each.back)">{{ say('days.try.drop') }}</button>
        <button v-if="each.key !== 'held'" class="outline narrow" @click="keep(each)">
          {{ say('days.try.keep') }}
        </button>
      </span>
    </div>
    <div class="wrapped">
      <button v-for="each in offered" :key="each.key" class="outline narrow" @click="plan.set(each.change)">
        {{ sayTry(each) }}
      </button>
      <button class="outline narrow" @click="mend">{{ say('days.mend') }}</button>
    </div>
    <template v-if="mends">
      <p v-if="!mends.length" class="said">{{ say('days.mend.none') }}</p>
      <button v-for="each in mends" :key="each.try + each.area" class="row" @click="take(each)">
        <span class="grow"
          ><strong>{{ say(`days.try.${each.try}`, { ...each }) }}</strong>
          <span class="small">{{
            say(each.sooner_h ? 'days.mend.line' : 'days.mend.found', { at: each.end, hours: each.sooner_h })
          }}</span></span
        >
      </button>
    </template>
    <h2 class="sub">{{ say('days.papers') }}</h2>
    <div class="wrapped">
      <template v-if="days.accepted">
        <a v-for="each in job.crews" :key="each.crew" class="outline narrow" :href="paper(each.crew)" target="_blank">{{
          say('days.card', { name: each.name })
        }}</a>
        <a class="outline narrow" :href="paper('all')" target="_blank">{{ say('days.week') }}</a>
      </template>
      <button class="outline narrow" @click="save('ics')">{{ say('days.ics') }}</button>
      <button class="outline narrow" @click="save('csv')">{{ say('days.csv') }}</button>
    </div>
    <p v-if="!days.accepted" class="small">{{ say('days.papers.need') }}</p>
  </section>
</template>

<style scoped>
.panel {
  display: grid;
  gap: 10px;
  grid-template-columns: minmax(0, 1fr);
}
.promise {
  display: grid;
}
.promise strong {
  font-size: 20px;
}
.try {
  display: grid;
  gap: 6px;
  padding: 8px 12px;
  border-inline-start: 8px solid var(--ink);
  background: var(--sunk);
}
.small {
  display: block;
}
</style>
