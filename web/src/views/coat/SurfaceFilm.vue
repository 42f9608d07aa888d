<script setup lang="ts">
// Per surface: readings, mean and least against the target, in words and as a bar.
import { computed } from 'vue'
import { say } from '../../words/words'
import type { Coat } from '../area/useArea'

const props = defineProps<{ coat: Coat; surfaces?: Coat['surfaces'] }>()

type Surface = Coat['surfaces'][number]

function word(surface: Surface): string {
  if (surface.film.n === 0) return say('coat.no_readings')
  if (surface.below)
    return say(`coat.below.${surface.below}`, { target: props.coat.target_mm, least: props.coat.least_mm })
  return say('coat.reaches', { target: props.coat.target_mm })
}
/** What falls short comes first. */
const shown = computed(() =>
  [...(props.surfaces ?? props.coat.surfaces)].sort((a, b) => Number(!a.below) - Number(!b.below)),
)
const height = (surface: Surface) => Math.min(1.4, (surface.film.mean_mm ?? 0) / props.coat.target_mm) * 22
</script>

<template>
  <section>
    <p class="small">{{ say('coat.asked', { target: coat.target_mm, least: coat.least_mm }) }}</p>
    <ul>
      <li v-for="surface in shown" :key="surface.surface" class="row film" :class="{ thin: surface.below }">
        <svg viewBox="0 0 36 36" width="40" height="40" aria-hidden="true">
          <rect
            x="4"
            :y="34 - height(surface)"
            width="28"
            :height="height(surface)"
            :fill="surface.below ? 'var(--amber3)' : 'var(--water4)'"
            stroke="var(--ink)"
            stroke-width="2"
          />
          <path d="M0 12h36" stroke="var(--ink)" stroke-width="2" stroke-dasharray="4 3" />
          <path d="M2 34h32" stroke="var(--ink)" stroke-width="2" />
        </svg>
        <span class="grow">
          <h2 class="sub">{{ say('drawing.surface', { surface: surface.surface }) }}</h2>
          <span v-if="surface.film.n" class="small">
            {{
              surface.film.mean_mm === null
                ? ''
                : say('coat.mean', { mean: surface.film.mean_mm, least: surface.film.least_mm })
            }}
            ·
            {{ surface.film.n === 1 ? say('coat.readings.one') : say('coat.readings', { n: surface.film.n }) }}
          </span>
        </span>
        <strong class="word">{{ word(surface) }}</strong>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.film {
  min-height: 56px;
  padding: 5px 8px;
}
.film.thin {
  background: var(--amber1);
  border-inline-start: 8px solid var(--amber7);
}
.word {
  text-align: end;
  max-width: 150px;
  line-height: 1.15;
}
</style>
