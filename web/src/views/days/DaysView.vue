<script setup lang="ts">
// Waits with the crews placed: each working day a line, the areas as lanes, each crew's path hopping between their tides. Below
// each day the same in words. What is touched is opened beside it: what holds it, and where else it could lie.
import { computed, ref, shallowRef, watch } from 'vue'
import { useBook } from '../../data/book'
import PlainDrawing from '../../drawing/PlainDrawing.vue'
import AppFrame from '../../parts/AppFrame.vue'
import BackLink from '../../parts/BackLink.vue'
import LoadingLine from '../../parts/LoadingLine.vue'
import MitreButton from '../../parts/MitreButton.vue'
import OneOf from '../../parts/OneOf.vue'
import PlainSpine from '../../parts/PlainSpine.vue'
import TheLedge from '../../parts/TheLedge.vue'
import TwoSides from '../../parts/TwoSides.vue'
import { frame } from '../../theme/useFrame'
import { heldOf } from '../../words/held'
import { say } from '../../words/words'
import { useJob } from '../now/useJob'
import DayLines from './DayLines.vue'
import DayPanel from './DayPanel.vue'
import TriesPanel from './TriesPanel.vue'
import { AHEAD, MINE, useDays, type Row } from './useDays'

const props = defineProps<{ job: string }>()
const book = useBook()
const { job, at } = useJob(() => props.job)
const plan = useDays(() => props.job)
const { days } = plan
const touched = ref('')
const row = computed(() => days.value?.rows.find((each) => each.id === touched.value) ?? null)
const touch = (id: string) => (touched.value = touched.value === id ? '' : id)

const crews = computed(() => {
  const own = (job.value?.crews ?? []).map((each) => ({ id: each.crew, name: each.name }))
  const more = [...new Set((days.value?.rows ?? []).map((each) => each.crew).filter((id) => id.startsWith('more.')))]
  return [...own, ...more.map((id) => ({ id, name: say('days.try.crew') }))]
})
/** Whose days are shown: as it was picked last on this device, else on a phone the crew's of who is at work; '': all. */
const whose = computed(() => {
  const last = plan.draft.typed.value.whose ?? MINE
  if (last !== MINE || frame.value !== 'phone' || !job.value)
    return crews.value.some(({ id }) => id === last) ? last : ''
  const me = book.working(job.value)
  return job.value.crews.find((each) => me && each.members?.includes(me))?.crew ?? ''
})
const rows = computed(() =>
  (days.value?.rows ?? []).filter((each) => !whose.value || each.crew === whose.value || (!each.hands && !whose.value)),
)
/** What is drawn is sent to be drawn once it stays. */
const drawn = shallowRef<readonly Row[]>([])
watch(rows, (now) => (drawn.value = now), { immediate: true })

const standing = computed(() => {
  const of = days.value
  if (!of) return ''
  if (!of.found) return of.proven ? say('days.not_any', { n: AHEAD }) : say('days.not_found', { n: of.nodes })
  if (!of.rows.length) return ''
  if (of.proven) return say('days.proven')
  if (of.end_proven) return say('days.end_proven')
  return say('days.best', { n: of.nodes, bound: of.bound })
})

/** A step that was dragged along its tide is held there; the rest gives way. */
async function drop(id: string, was: string, now: string): Promise<void> {
  const of = days.value?.rows.find((each) => each.id === id)
  if (!of) return
  await plan.hold(of, new Date(Date.parse(of.start) + Date.parse(now) - Date.parse(was)))
  touched.value = id
}

async function accept(): Promise<void> {
  const of = days.value
  if (!of?.end || !job.value) return
  const by = await book.who(job.value)
  if (!by) return
  const starts = of.rows.map((row) => {
    const { area, step, part, crew, start, end, shuts } = row
    return {
      area,
      step,
      ...(part ? { part } : {}),
      ...(crew ? { crew } : {}),
      start,
      end,
      ...(shuts ? { shuts } : {}),
      held: heldOf(row),
    }
  })
  const body = { end: of.end, starts }
  await book.record({ kind: 'schedule.accepted', jobId: props.job, by, body, say: { key: 'days.kept' } })
}
</script>

<template>
  <AppFrame :crew="job ?? undefined">
    <template #spine
      ><PlainSpine :job="props.job" place="waits" :areas="job?.areas.filter((area) => !area.away) ?? []"
    /></template>
    <template #title
      ><h1>{{ say('days.title') }}</h1></template
    >
    <template #line
      ><BackLink :to="`/job/${props.job}/waits`" :name="say('waits.title')" /> · {{ say('days.line') }}</template
    >
    <div v-if="plan.noCrew.value" class="none">
      <p class="said">{{ say('days.no_crew') }}</p>
      <router-link class="outline" :to="`/job/${props.job}/crews`">{{ say('days.set_crews') }}</router-link>
    </div>
    <TwoSides v-else-if="days && job" width="420px" :phone="touched ? 'side-alone' : 'list-first'">
      <section>
        <p v-if="days.end" class="end" role="status">
          <strong>{{ say('days.end', { at: days.end }) }}</strong>
        </p>
        <p v-if="!days.rows.length && days.found" class="said">{{ say('days.none_left') }}</p>
        <p class="standing" role="status">
          <span>{{ standing }}</span>
          <span v-if="plan.searching.value" class="small">{{ say('days.searching') }}</span>
          <button v-if="plan.searching.value" class="outline narrow" @click="plan.stop">{{ say('days.stop') }}</button>
          <button v-else-if="!days.proven" class="outline narrow" @click="plan.lookOn">{{ say('days.go_on') }}</button>
        </p>
        <p v-if="plan.broken.value" class="said" role="alert">{{ say('days.broken.none') }}</p>
      </section>
      <OneOf
        v-if="crews.length > 1"
        v-slot="{ option }"
        class="wrapped"
        look="outline narrow"
        :options="['', ...crews.map((each) => each.id)]"
        :picked="whose"
        :label="say('days.whose')"
        @pick="(id: string) => plan.draft.type('whose', id)"
      >
        {{ crews.find((each) => each.id === option)?.name ?? say('days.all_crews') }}
      </OneOf>
      <PlainDrawing
        v-if="drawn.length && frame !== 'phone'"
        grow
        :label="say('days.drawing')"
        :input="{ kind: 'days', rows: [...drawn], crews, now: at, lit: touched, chain: [...days.chain] }"
        @pick="touch"
        @drop="drop"
      />
      <DayLines :rows="rows" :chain="days.chain" :crews="crews" :touched="touched" @touch="touch" />
      <template #side>
        <button v-if="touched && frame !== 'desk' && frame !== 'lying'" class="outline narrow" @click="touched = ''">
          {{ say('days.title') }}
        </button>
        <DayPanel v-if="row" :key="touched" :job="job" :row="row" :days="days" :plan="plan" :crews="crews" />
        <TriesPanel v-else :job="job" :days="days" :plan="plan" :crews="crews" />
      </template>
    </TwoSides>
    <LoadingLine v-else-if="!plan.why.value" />
    <template #ledge>
      <TheLedge :error="plan.noCrew.value ? '' : plan.why.value">
        <template #facts>{{
          plan.tried.value
            ? say('days.accept.supposed')
            : days?.accepted
              ? say('days.accepted.end', { at: days.accepted })
              : say('days.accepted.none')
        }}</template>
        <template #outline>
          <router-link class="outline" :to="`/job/${props.job}/crews`">{{ say('days.crews') }}</router-link>
        </template>
        <template #mitre>
          <MitreButton
            :label="say('days.accept')"
            :line="say('days.accept.line')"
            :disabled="!days?.found || !days.rows.length || plan.tried.value || plan.broken.value"
            @click="accept"
          />
        </template>
      </TheLedge>
    </template>
  </AppFrame>
</template>

<style scoped>
.none {
  display: grid;
  gap: 16px;
  padding: 24px;
  justify-items: start;
}
.end strong {
  font-size: 34px;
  font-weight: 720;
  letter-spacing: -0.02em;
  line-height: 1.1;
}
.standing {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 16px;
}
</style>
