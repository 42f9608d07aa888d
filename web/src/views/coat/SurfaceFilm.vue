<script setup lang="ts">
// Per surface: the verdict in one word, its numbers, and how much more to lay where.
import { computed, ref, shallowRef } from 'vue'
import type { Schemas } from '../../core/core'
import { useLatest } from '../../data/useLatest'
import { askJob } from '../../data/folded'
import ExplainSlip from '../../parts/ExplainSlip.vue'
import { quantity, say } from '../../words/words'
import ReasonSheet from '../../parts/ReasonSheet.vue'
import { useArea, type Coat } from '../area/useArea'

const props = defineProps<{ coat: Coat; mayLay?: boolean }>()
const emit = defineEmits<{ topUp: [surface: string] }>()

type Surface = Coat['surfaces'][number]
const opened = ref('')
const figure = shallowRef<Schemas['FigureFigure'] | null>(null)

const order = ['thin', 'not known', 'thick', 'too few', 'enough']
/** What falls short comes first. */
const shown = computed(() =>
  [...props.coat.surfaces].sort((a, b) => order.indexOf(a.film.verdict) - order.indexOf(b.film.verdict)),
)
const height = (surface: Surface) => Math.min(1.4, (surface.film.mean_mm ?? 0) / props.coat.target_mm) * 22
const fill = (surface: Surface) =>
  ({ enough: 'var(--water4)', thin: 'var(--amber3)', thick: 'var(--plum3)' })[surface.film.verdict] ?? 'none'
/** How strongly it is said to be enough. */
function strength(surface: Surface): string {
  const { strength: how, about, more_places: places, n } = surface.film
  if (how === 'shown') return say(about ? 'film.shown.about' : 'film.shown', { n })
  if (how !== 'by_rule') return ''
  return places ? say('film.by_rule.more', { n: places }) : say('film.by_rule')
}
const low = computed(() => props.coat.surfaces.some((surface) => surface.film.verdict === 'not known'))
const explaining = ref(false)
/** What decides of a coat that no comb accepts. */
function otherwise(surface: Surface): string {
  const { mass, look: seen, film } = surface
  if (mass) {
    const says = say('film.by.mass', { perM2: mass.kg_m2, asked: mass.asked_kg_m2, least: mass.least_kg_m2 })
    return mass.missing_kg > 0.0005 && surface.laid
      ? `${says} · ${say('film.by.mass.missing', { kg: mass.missing_kg })}`
      : says
  }
  if (props.coat.by === 'dry_film')
    return say('film.by.dry', { n: film.n, asked: surface.asked, mean: film.mean_mm ?? 0 })
  if (!seen) return say('film.by.look.none')
  return seen.fine ? say('film.by.look.fine', { at: seen.at }) : say('film.by.look.not', { note: seen.note })
}
const numbers = (surface: Surface) => (props.coat.by !== 'comb' ? otherwise(surface) : combed(surface))
const combed = (surface: Surface) =>
  [
    surface.film.mean_mm === null ? '' : say('coat.mean', { mean: surface.film.mean_mm, least: surface.film.least_mm }),
    say('film.readings', { n: surface.film.n, asked: surface.asked }),
    strength(surface),
    surface.film.n && surface.unread.share > 0.05 ? say('film.unread', { m2: surface.unread.m2 }) : '',
    ...(surface.film.n ? surface.unread.fittings.map((fitting) => say('film.unread.fitting', { fitting })) : []),
  ]
    .filter(Boolean)
    .join(' · ')
const { look, job, area, record } = useArea()
const asked = useLatest(
  () => [opened.value, props.coat],
  async () =>
    opened.value ? askJob(job, 'film.figures', { area, step: props.coat.step, surface: opened.value }) : null,
)
const figures = computed(() => asked.value?.figures ?? [])
async function explain(given: { reason: string; person: string }): Promise<void> {
  const body = { step: props.coat.step, why: given.reason, person: given.person }
  if (await record('film.explained', body, { key: 'film.explain.kept' })) explaining.value = false
}
const more = (surface: Surface) =>
  surface.top_up ? say(`film.more.${surface.top_up.part}.${surface.top_up.state}`, { ...surface.top_up }) : ''
</script>

<template>
  <section>
    <p v-if="coat.by === 'comb'" class="small">
      {{ say('coat.asked', { target: coat.target_mm, least: coat.least_mm }) }}
    </p>
    <ul>
      <li v-for="surface in shown" :key="surface.surface">
        <button
          class="row film"
          :class="surface.film.verdict.replace(' ', '-')"
          :aria-expanded="opened === surface.surface"
          @click="opened = opened === surface.surface ? '' : surface.surface"
        >
          <svg viewBox="0 0 36 36" width="40" height="40" aria-hidden="true">
            <rect
              x="4"
              :y="34 - Math.max(height(surface), 4)"
              width="28"
              :height="Math.max(height(surface), 4)"
              :fill="fill(surface)"
              stroke="var(--ink)"
              stroke-width="2"
              :stroke-dasharray="['too few', 'not known'].includes(surface.film.verdict) ? '4 3' : undefined"
            />
            <path d="M0 12h36" stroke="var(--ink)" stroke-width="2" stroke-dasharray="4 3" />
            <path d="M2 34h32" stroke="var(--ink)" stroke-width="2" />
          </svg>
          <span class="grow">
            <strong class="name">{{ say('drawing.surface', { surface: surface.surface }) }}</strong>
            <span class="small">
              {{ numbers(surface) }}
            </span>
          </span>
          <strong class="word">{{
            surface.laid ? say(`film.says.${surface.film.verdict}`) : say('film.not_laid')
          }}</strong>
        </button>
        <div v-if="surface.top_up" class="said more">
          <p>{{ more(surface) }}</p>
          <button v-if="mayLay" class="outline narrow" @click="emit('topUp', surface.surface)">
            {{ say('film.top_up.act') }}
          </button>
        </div>
        <ul v-if="opened === surface.surface" class="numbers">
          <li v-for="each in figures" :key="each.name">
            <button class="row" @click="figure = each">
              <span class="grow">{{ say(each.name, each.args) }}</span>
              <strong>{{ quantity(each.value, each.unit) }}</strong>
            </button>
          </li>
          <li v-if="!figures.length" class="row">{{ say('coat.no_readings') }}</li>
        </ul>
      </li>
    </ul>
    <p v-if="coat.consumption?.asks_why" class="said">
      {{ say('film.consumption', { ...coat.consumption }) }}
    </p>
    <p v-if="coat.explained">{{ say('film.explained', { note: coat.explained.note }) }}</p>
    <button v-else-if="low" class="outline narrow" @click="explaining = true">{{ say('film.explain') }}</button>
    <ReasonSheet
      v-if="explaining"
      :title="say('film.explain.title')"
      :sub="say('film.says.not known')"
      :line="coat.consumption ? say('film.mass_low', { mm: coat.consumption.wft_from_mass_mm }) : ''"
      :keep="say('film.explain')"
      :people="look.job.people"
      @close="explaining = false"
      @keep="explain"
    />
    <ExplainSlip v-if="figure" :figure="figure" @close="figure = null" />
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
.film.thick {
  border-inline-start: 8px solid var(--plum7);
}
.name {
  display: block;
  font-size: 20px;
}
.word {
  text-align: end;
  max-width: 150px;
  line-height: 1.15;
  font-size: 20px;
}
.more {
  display: grid;
  gap: 8px;
  justify-items: start;
}
.numbers {
  padding-inline-start: 20px;
}
</style>
