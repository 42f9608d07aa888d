<script setup lang="ts">
// The build-up as a section: layer on layer, from the base up, each coat of it to be seen. Touched to be changed, dragged to
// lie elsewhere.
import { ref } from 'vue'
import { known, say } from '../../words/words'
import DragHandle from './DragHandle.vue'
import type { Layer, System } from './useEditor'
import { placeOn, useDragOrder } from './useDragOrder'

const props = defineProps<{ system: System; chosen: string }>()
const emit = defineEmits<{ touch: [layer: string]; layIn: [before: string]; move: [layer: string, before: string] }>()
const { held, over, take, drag, drop } = useDragOrder((from, to) =>
  emit('move', from, placeOn(props.system.layers, from, to)),
)

/** The gaps between the layers stand open: touched, something is laid in there. */
const open = ref(false)
function layIn(before: string): void {
  open.value = false
  emit('layIn', before)
}
/** What lies right over a layer; '': nothing. */
const above = (id: string) => props.system.layers[props.system.layers.findIndex((each) => each.id === id) + 1]?.id ?? ''
const roleOf = (of: Layer) => props.system.products.find((each) => each.key === of.product)?.role ?? ''
const placesOf = (of: Layer) => [...new Set(of.where.map((each) => say(`editor.on.${each.on}`)))].join(', ')
/** What is laid into it or strewn on it. */
const carried = (of: Layer) =>
  (of.carries ?? []).map((each) =>
    say(`product.${props.system.products.find((product) => product.key === each.product)?.role}`),
  )
function amountOf(of: Layer): string {
  const figure = of.coats[0]?.target?.figure
  if (figure?.says) return figure.says
  const name = figure?.of?.split('.')[1] ?? ''
  return name && known(`sheet.${name}`) ? say(`sheet.${name}`) : ''
}
const colour = (of: Layer) =>
  ['membrane', 'sheet'].includes(roleOf(of)) ? 'film' : roleOf(of) === 'primer' ? 'primer' : 'other'
</script>

<template>
  <section>
    <h2 class="sub">{{ say('editor.section') }}</h2>
    <button class="lay" :aria-expanded="open" @click="open = !open">
      {{ say(open ? 'editor.lay_in.shut' : 'editor.lay_in') }}
    </button>
    <p v-if="open" class="small" role="status">{{ say('editor.lay_in.where') }}</p>
    <ol>
      <template v-for="each in system.layers.toReversed()" :key="each.id">
        <li v-if="open">
          <button class="gap" @click="layIn(above(each.id))">{{ say('editor.lay_in.here') }}</button>
        </li>
        <li
          class="line"
          :class="{ held: held === each.id, over: over === each.id && held !== each.id }"
          :data-place="each.id"
        >
          <button
            class="row layer"
            :class="[colour(each), { chosen: chosen === each.id }]"
            :aria-pressed="chosen === each.id"
            @click="emit('touch', each.id)"
          >
            <span class="body" :style="{ '--coats': each.coats.length }" aria-hidden="true" />
            <span class="grow">
              <strong>{{ say(`product.${roleOf(each)}`) }}</strong>
              <span class="small">{{ [placesOf(each), ...carried(each)].join(' · ') }}</span>
              <span v-if="each.in" class="small">{{ say('editor.optional.is') }}</span>
            </span>
            <span class="small">{{
              [say('editor.coats.n', { n: each.coats.length }), amountOf(each)].filter(Boolean).join(' · ')
            }}</span>
          </button>
          <DragHandle @take="(event) => take(event, each.id)" @drag="drag" @drop="drop" />
        </li>
      </template>
      <li v-if="open">
        <button class="gap" @click="layIn(system.layers[0]?.id ?? '')">{{ say('editor.lay_in.here') }}</button>
      </li>
    </ol>
    <p class="base small">{{ say('editor.base') }}</p>
  </section>
</template>

<style scoped>
.lay,
.gap {
  width: 100%;
  min-height: 56px;
  border: 2.5px dashed var(--edge);
  text-align: center;
  font-weight: 700;
}
.gap {
  border-color: var(--water7);
  background: var(--water1);
}
.line {
  display: flex;
}
.line .row {
  flex: 1;
  min-width: 0;
}
.held {
  opacity: 0.5;
}
.over {
  box-shadow: inset 0 0 0 3px var(--ink);
}
.layer {
  align-items: stretch;
  min-height: calc(44px + 20px * var(--coats, 1));
  padding-block: 0;
}
.layer > :not(.body) {
  align-self: center;
}
.body {
  flex: none;
  width: 120px;
  border: 2px solid var(--ink);
  border-block-width: 0 2px;
  background-color: var(--stone3);
}
:root.phone .body {
  width: 64px;
}
li:first-child .body {
  border-top-width: 2px;
}
.body,
.film .body,
.primer .body {
  background-image: repeating-linear-gradient(
    0deg,
    transparent 0 calc(100% / var(--coats) - 1.5px),
    var(--edge) calc(100% / var(--coats) - 1.5px) calc(100% / var(--coats))
  );
}
.film .body {
  background-color: var(--water3);
}
.primer .body {
  background-color: var(--water1);
}
.layer .small {
  display: block;
}
.base {
  padding: 8px 12px;
  background:
    radial-gradient(circle at 4px 4px, var(--edge) 1px, transparent 1.4px) 0 0 / 9px 9px,
    var(--sunk);
}
</style>
