<script setup lang="ts">
// What can be done now across the areas of a job, soonest to shut first. Under the waterline
// hangs what has to wait, at the depth of its waiting time.
import { computed } from 'vue'
import AppFrame from '../../parts/AppFrame.vue'
import BackLink from '../../parts/BackLink.vue'
import PlainSpine from '../../parts/PlainSpine.vue'
import LoadingLine from '../../parts/LoadingLine.vue'
import { moment, say, span } from '../../words/words'
import NowRow from './NowRow.vue'
import { useJob, type AreaLine } from './useJob'

const props = defineProps<{ job: string }>()
const { job, now, at, line, lines } = useJob(() => props.job)

const doable = computed(() => lines(job.value?.board.now ?? []))
const waits = computed(() => lines(job.value?.board.waits ?? []))
/** Dry work that fills a wait: what is still to cut, area by area. */
const toCut = computed(() => (job.value?.areas ?? []).filter((area) => area.turn?.to_cut))
const soonest = computed(() => waits.value.find((area) => area.turn?.until)?.turn?.until)

/** The marks of depth: hours, and how far down they lie. */
const marks = [
  { hours: 2, key: 'board.depth.2h' },
  { hours: 6, key: 'board.depth.6h' },
  { hours: 24, key: 'board.depth.1d' },
  { hours: 72, key: 'board.depth.3d' },
]

/** How deep a wait hangs, per cent of the water: by the logarithm of its hours. */
function depth(hours: number): number {
  const shallow = 15
  if (hours < 2) return 4 + ((shallow - 4) * Math.max(0, hours)) / 2
  return Math.min(58, shallow + 12 * Math.log(hours / 2))
}

const hoursTo = (until: string) => (Date.parse(until) - now.value.getTime()) / 3_600_000

function why(area: AreaLine): string {
  const turn = area.turn!
  if (area.tide && area.tide.confirm.length && !area.tide.confirmed) return say('board.wait.touch')
  return turn.does === 'test' ? say('board.wait.reading') : ''
}
</script>

<template>
  <AppFrame bare :crew="job ?? undefined">
    <template #spine
      ><PlainSpine :job="props.job" place="now" :areas="job?.areas.filter((area) => !area.away) ?? []"
    /></template>
    <template #title
      ><h1>{{ say('board.title') }}</h1></template
    >
    <template #line>
      <BackLink :to="`/job/${props.job}`" :name="job?.name ?? ''" /> · {{ say('board.line') }}
    </template>
    <div v-if="job" class="board">
      <div class="above scroll">
        <p v-if="!job.areas.length" class="nothing">{{ say('job.empty') }}</p>
        <p v-else-if="!doable.length" class="nothing">
          {{ soonest ? say('board.nothing', { until: soonest }) : say('board.nothing.at_all') }}
        </p>
        <ol>
          <li v-for="(area, i) in doable" :key="area.id">
            <NowRow
              :area="area"
              :job="props.job"
              :now="at"
              :first="i === 0"
              :crew="job.crews.find((each) => each.crew === area.planned?.crew)?.name"
              :past="(area.turn?.past_of ?? []).map((id) => line(id)?.name ?? '')"
            />
          </li>
        </ol>
        <section v-if="toCut.length" class="dry">
          <h2 class="sub">{{ say('board.cut') }}</h2>
          <router-link
            v-for="area in toCut"
            :key="area.id"
            class="outline narrow"
            :to="`/job/${props.job}/cut/${area.id}`"
            >{{
              say('board.cut.of', {
                area: area.name,
                n: area.turn!.to_cut,
              })
            }}</router-link
          >
        </section>
      </div>
      <section class="below" :aria-label="say('board.waits')">
        <p v-if="waits.length" class="not-yet small">{{ say('board.not_yet') }}</p>
        <p v-else class="not-yet small">{{ say('board.no_waits') }}</p>
        <span
          v-for="mark in marks"
          :key="mark.hours"
          class="mark"
          :style="{ top: `${depth(mark.hours)}%` }"
          aria-hidden="true"
          >{{ say(mark.key) }}</span
        >
        <ol class="hung" :style="{ '--n': Math.max(4, waits.length) }">
          <li v-for="area in waits" :key="area.id" :style="{ '--deep': `${depth(hoursTo(area.turn!.until))}%` }">
            <router-link :to="`/job/${props.job}/area/${area.id}`" class="hang">
              <strong class="when">{{ moment(area.turn!.until) }}</strong>
              <strong>{{ area.turn!.title }}</strong>
              <span>{{ area.name }}</span>
              <span class="why">{{ why(area) }}</span>
              <span class="visually-hidden">{{ span(hoursTo(area.turn!.until) * 3.6e6) }}</span>
            </router-link>
          </li>
        </ol>
      </section>
    </div>
    <LoadingLine v-else />
  </AppFrame>
</template>

<style scoped>
.board {
  height: 100%;
  display: grid;
  grid-template-rows: minmax(0, 59fr) minmax(0, 41fr);
}
.above {
  padding: 0 24px;
}
.nothing {
  padding: 48px 24px;
  font-size: 34px;
  font-weight: 720;
  letter-spacing: -0.02em;
}
.dry {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 14px;
  padding: 14px 0;
}
.below {
  position: relative;
  border-top: 4px solid var(--water9);
  background: linear-gradient(
    var(--d0) 0 15%,
    var(--d1) 15% 28.2%,
    var(--d2) 28.2% 44.8%,
    var(--d3) 44.8% 58%,
    var(--d4) 58%
  );
  color: var(--ink);
  overflow: auto hidden;
}
.not-yet {
  position: absolute;
  right: 24px;
  top: 8px;
  color: var(--ink);
}
.mark {
  position: absolute;
  left: 0;
  padding: 0 0 0 14px;
  border-bottom: 2px solid var(--water9);
  font-size: 15px;
  font-weight: 600;
  line-height: 20px;
  transform: translateY(-100%);
}
.hung {
  display: grid;
  grid-template-columns: repeat(var(--n), minmax(200px, 1fr));
  position: absolute;
  inset: 0 24px 0 92px;
}
.hung li {
  position: relative;
  height: 100%;
}
.hung li::before {
  content: '';
  position: absolute;
  left: 8px;
  top: 0;
  height: var(--deep);
  border-inline-start: 2.4px solid var(--water9);
}
.hung li::after {
  content: '';
  position: absolute;
  left: 3px;
  top: var(--deep);
  width: 12px;
  height: 12px;
  background: var(--water9);
  transform: translateY(-50%) rotate(45deg);
}
.hang {
  position: absolute;
  left: 26px;
  right: 8px;
  top: calc(var(--deep) - 20px);
  display: grid;
  min-height: 64px;
  line-height: 1.2;
  color: inherit;
  text-decoration: none;
}
.when {
  font-size: 28px;
  font-weight: 720;
  letter-spacing: -0.02em;
}
.why {
  font-size: 16px;
}
:root.narrow .board {
  display: block;
  height: auto;
  min-height: 100%;
}
:root.narrow .above {
  padding: 0 16px;
}
:root.narrow .below {
  overflow: visible;
  background: var(--d0);
  padding: 36px 16px 16px;
}
:root.narrow .not-yet {
  left: 16px;
  right: auto;
}
:root.narrow .mark {
  display: none;
}
:root.narrow .hung {
  position: static;
  display: block;
}
:root.narrow .hung li {
  height: auto;
  padding-block: 8px;
}
:root.narrow .hung li::before {
  height: 100%;
}
:root.narrow .hung li::after {
  top: 26px;
}
:root.narrow .hang {
  position: static;
  padding-inline-start: 28px;
}
</style>
