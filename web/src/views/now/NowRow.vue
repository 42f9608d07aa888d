<script setup lang="ts">
// One row of what can be done now: where, what, how long it is open, start by, and the way
// there.
import { computed } from 'vue'
import NetDrawing from '../../drawing/NetDrawing.vue'
import PlainDrawing from '../../drawing/PlainDrawing.vue'
import StateGlyph from '../../parts/StateGlyph.vue'
import { sayHeld } from '../../words/held'
import { moment, say, span } from '../../words/words'
import { layersOf } from '../jobs/layers'
import type { AreaLine } from './useJob'

const props = defineProps<{ area: AreaLine; job: string; now: string; first: boolean; past: string[]; crew?: string }>()

const turn = computed(() => props.area.turn!)
const left = computed(() => Date.parse(turn.value.start_by) - Date.parse(props.now))
const needs = computed(() => {
  if (turn.value.state === 'not_known') return ''
  const parts = []
  if (turn.value.kg) parts.push(say('board.kg', { kg: turn.value.kg }))
  if (turn.value.minutes) parts.push(say('board.minutes', { hours: turn.value.minutes / 60 }))
  return parts.join(' · ')
})
/** The title says what; this says why, or what else stands before it. */
const why = computed(() => {
  const args = turn.value.args ?? {}
  const plain = ['next.open', 'next.held'].includes(turn.value.why) && typeof args.why === 'string'
  return plain ? (args.why as string) : say(turn.value.why, args)
})
const state = computed(() => {
  if (turn.value.state === 'held') return 'held'
  if (turn.value.state === 'not_known') return 'not known'
  if (props.area.tide) return props.area.tide.state
  return turn.value.state === 'late' ? 'too late' : ''
})
const go = computed(() => say(`board.go.${state.value === 'not known' ? 'accept' : turn.value.does}`))
</script>

<template>
  <div class="now-row">
    <span class="net"
      ><NetDrawing v-if="area.surveyed" mini :name="area.name" :input="layersOf(props.job, area)"
    /></span>
    <div class="what">
      <h2>{{ turn.title }}</h2>
      <p>
        <strong>{{ area.name }}</strong>
      </p>
      <p class="small">{{ needs || why }}</p>
      <p v-if="area.planned" class="small">
        {{ say('board.planned', { at: area.planned.start, crew: crew ?? say('days.alone') }) }}
        <span v-if="area.planned.held">{{ sayHeld(area.planned.held) }}</span>
      </p>
      <p v-for="name in past" :key="name" class="past">{{ say('board.past_of', { area: name }) }}</p>
    </div>
    <div class="tide">
      <PlainDrawing
        v-if="area.tide"
        mini
        :label="say('tide.label', { name: area.name })"
        :input="{ kind: 'tide', tide: area.tide, now, hours: 7, mini: true }"
      />
    </div>
    <div class="by">
      <p class="state">
        <StateGlyph v-if="state && state !== 'held'" :state="state" />
        <strong>{{ state ? say(`board.state.${state}`) : say('board.any_time') }}</strong>
      </p>
      <template v-if="turn.start_by && state !== 'too late'">
        <p class="clock">{{ moment(turn.start_by) }}</p>
        <p class="small">
          {{ left > 0 ? say('wait.left', { left: span(left) }) : say('board.past_safe') }}
        </p>
      </template>
    </div>
    <router-link
      :to="`/job/${job}/area/${area.id}/${turn.stage}`"
      class="go"
      :class="{ 'first mitred': first }"
      :aria-label="`${go}: ${area.name}, ${turn.title}`"
    >
      <span class="face">{{ go }}</span>
    </router-link>
  </div>
</template>

<style scoped>
.now-row {
  display: grid;
  grid-template-columns: 122px minmax(0, 1fr) 216px 200px 132px;
  gap: 0 20px;
  align-items: center;
  min-height: 128px;
  padding: 8px 0;
  border-bottom: 1.5px solid var(--line);
}
.net {
  width: 122px;
  height: 108px;
}
.what {
  display: grid;
  gap: 4px;
}
.what h2 {
  font-size: 27px;
  font-weight: 720;
  letter-spacing: -0.01em;
}
.past {
  font-weight: 650;
  border-inline-start: 8px solid var(--amber7);
  padding-inline-start: 8px;
}
.tide {
  height: 104px;
}
.by {
  line-height: 1.15;
}
.state {
  display: flex;
  gap: 8px;
  align-items: center;
}
.clock {
  font-size: 46px;
  font-weight: 720;
  letter-spacing: -0.03em;
  line-height: 1.1;
}
.go {
  height: 80px;
  display: grid;
  place-items: center;
  border: 2.5px solid var(--ink);
  border-radius: 3px;
  font-size: 24px;
  font-weight: 720;
  color: inherit;
  text-decoration: none;
}
.go.first {
  border: 0;
  border-radius: 0;
  color: var(--lime-ink);
}
.first .face {
  display: grid;
  place-items: center;
  width: 100%;
  height: 100%;
  padding-inline-end: 22px;
}
:root.lying .now-row {
  grid-template-columns: 96px minmax(0, 1fr) 180px 170px 124px;
  column-gap: 14px;
}
:root.upright .now-row {
  grid-template: 'what by go' auto 'what tide go' auto / minmax(0, 1fr) 184px 124px;
  column-gap: 14px;
}
:root.upright .what {
  grid-area: what;
}
:root.upright .by {
  grid-area: by;
}
:root.upright .tide {
  grid-area: tide;
  height: 84px;
}
:root.upright .tide:empty {
  display: none;
}
:root.upright .go {
  grid-area: go;
}
:root.lying .net {
  width: 96px;
}
:root.upright .net {
  display: none;
}
:root.phone .now-row {
  grid-template-columns: minmax(0, 1fr) 132px;
  gap: 6px 12px;
}
:root.phone .net {
  display: none;
}
:root.phone .tide {
  order: 3;
  height: 64px;
  width: 184px;
}
:root.phone .tide:empty {
  display: none;
}
:root.phone .by {
  order: 1;
}
:root.phone .go {
  order: 4;
  height: 60px;
  grid-column: 2;
  font-size: 20px;
}
:root.phone .what h2 {
  font-size: 21px;
}
:root.phone .clock {
  font-size: 34px;
}
</style>
