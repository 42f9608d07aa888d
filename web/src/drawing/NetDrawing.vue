<script setup lang="ts">
// Writes a display list as SVG: tap areas, a walk by the arrow keys, and a twin in words.
import { computed, nextTick, ref, useId } from 'vue'
import { call, Refusal, type Schemas } from '../core/core'
import { askJob } from '../data/folded'
import { version } from '../data/sync'
import { fieldName, say } from '../words/words'
import { grains, inPx, linesOf, pathOf } from './shapes'
import { useLegend } from './legend'
import ZoomKeys from './ZoomKeys.vue'
import type { Net } from './net'
import { useDrawing } from './useDrawing'
import { useZoom } from './useZoom'

type Item = Schemas['DrawItem']
type Say = Schemas['DrawSay']
type Spot = Schemas['DrawSpot']

const props = defineProps<{
  input: Net
  name: string
  taps?: string[]
  mini?: boolean
  spots?: boolean
  /** a survey that is being typed: drawn from its answers, without its area going to and fro */
  survey?: { form: string; typed: Record<string, string> } | null
  /** walls laid one after the other, drawn until they close */
  run?: Schemas['WetareaRun'] | null
}>()
const emit = defineEmits<{ pick: [id: string, of: string[]]; spot: [spot: Spot]; beside: [] }>()

const host = ref<HTMLElement>()
const { zoom, centre, near, far, whole, shift, follow, pointers } = useZoom()
const seen = () => ({ ...props.input, zoom: zoom.value, ...(centre.value ? { centre: centre.value } : {}) })
const { drawing } = useDrawing(
  host,
  () => JSON.stringify([seen(), props.survey, props.run, version.value]),
  (view) => {
    if (props.run) return call('draw.run', { run: props.run, view, asking: props.input.asking ?? '' })
    const { job, cut, coat, ...shown } = seen()
    return props.survey
      ? askJob(job, 'draw.survey', { ...props.survey, ...shown, view })
      : askJob(job, 'draw.net', { ...shown, ...(cut ? { cut } : {}), ...(coat ? { coat } : {}), view })
  },
  props.mini,
)
/** As it is written: in px, so that a line is as wide as it says. */
const shown = computed(() => (drawing.value ? inPx(drawing.value) : null))
const canZoom = computed(() => !props.mini && !props.run)
const svg = ref<SVGSVGElement>()
const focused = ref('')

const outline = (points: number[][]) => pathOf({ points, closed: true })

/** Wording of the drawing, with the question of a dimension named. */
function sentence(what: Say): string {
  const args = { ...what.args }
  if (typeof args.question === 'string') args.question = fieldName(args.question)
  let text = say(what.key, args)
  if (args.bedded === true) text += `, ${say('twin.bedded')}`
  if (args.laid === true && args.film === 'thin') text += `, ${say('twin.thin')}`
  else if (args.laid === true) text += `, ${say('twin.laid')}`
  else if (args.laid === false) text += `, ${say('twin.open')}`
  return text
}

const words = (item: Item) => (item.say ? say(item.say.key, item.say.args) : '')
const taps = computed(() => (shown.value?.taps ?? []).filter((tap) => !props.taps || props.taps.includes(tap.kind)))

/** What was touched, and of a pile what lies in it. */
function take(id: string): void {
  emit('pick', id, taps.value.find((tap) => tap.id === id)?.of ?? [])
}

/** One stop for the tab key; the arrow keys walk on from it. */
const stop = computed(() => (taps.value.some((tap) => tap.id === focused.value) ? focused.value : taps.value[0]?.id))

function reach(id: string, key: string): string {
  const ways = { ArrowLeft: 'left', ArrowRight: 'right', ArrowUp: 'up', ArrowDown: 'down' } as const
  const way = ways[key as keyof typeof ways]
  for (let at = id, steps = 0; steps < 50; steps++) {
    at = drawing.value?.taps.find((tap) => tap.id === at)?.walk[way] ?? ''
    if (!at) return ''
    if (taps.value.some((tap) => tap.id === at)) return at
  }
  return ''
}

/** + and − bring the drawing nearer and farther, 0 shows all of it, Shift and arrows move it. */
function zoomKey(event: KeyboardEvent): boolean {
  if (!canZoom.value || !drawing.value) return false
  const ways: Record<string, [number, number]> = {
    ArrowLeft: [-1, 0],
    ArrowRight: [1, 0],
    ArrowUp: [0, -1],
    ArrowDown: [0, 1],
  }
  const way = event.shiftKey ? ways[event.key] : undefined
  if (event.key === '+' || event.key === '=') near(drawing.value.box)
  else if (event.key === '-') far(drawing.value.box)
  else if (event.key === '0') whole()
  else if (way) shift(drawing.value.box, ...way)
  else return false
  return true
}

function walk(event: KeyboardEvent, id: string): void {
  if (event.altKey || event.ctrlKey || event.metaKey) return
  if (zoomKey(event)) return event.preventDefault()
  if (event.key === 'Enter' || event.key === ' ') {
    event.preventDefault()
    take(id)
  } else if (event.key.startsWith('Arrow')) {
    event.preventDefault()
    const to = reach(id, event.key)
    if (!to) return
    focused.value = to
    const outline = drawing.value?.taps.find((tap) => tap.id === to)?.outline
    if (outline && drawing.value) follow(drawing.value.box, outline)
    void nextTick(() => svg.value?.querySelector<SVGElement>(`[data-tap="${CSS.escape(to)}"]`)?.focus())
  }
}

/** A touch on a surface means the spot where spots are taken, else the surface. */
async function touch(event: MouseEvent, id: string): Promise<void> {
  if (pointers.dragged()) return
  focused.value = id
  const kind = taps.value.find((tap) => tap.id === id)?.kind
  if (props.spots && kind === 'surface') await spotAt(event)
  else take(id)
}

async function spotAt(event: MouseEvent): Promise<void> {
  if (!props.spots || !svg.value || !drawing.value || pointers.dragged()) return
  const at = new DOMPoint(event.clientX, event.clientY).matrixTransform(svg.value.getScreenCTM()!.inverse())
  try {
    const { box, mm_per_px: mm } = drawing.value
    const { job, area } = props.input
    emit('spot', await askJob(job, 'draw.place', { area, x: box.x + at.x * mm, y: box.y + at.y * mm }))
  } catch (error) {
    if (!(error instanceof Refusal)) throw error
    emit('beside')
  }
}

// Patterns are named by instance: several drawings of different scale stand on one page.
const uid = useId()
const looks = computed(() => ({
  ...Object.fromEntries(
    ['one-way', 'across', 'thin', 'mesh', 'patch'].map((name) => [`--${name}`, `url(#${name}-${uid})`]),
  ),
}))
/** Distance of the dots that show the scale, px. */
const dots = computed(() => shown.value?.items.find((item) => item.kind === 'dots')?.step)
/** A tile of dots begins half a step before a whole one. */
const dotsFrom = computed(() => {
  const step = dots.value ?? 0
  const { box, mm_per_px: mm } = drawing.value!
  return [-box.x / mm - step / 2, -box.y / mm - step / 2]
})
/** The pattern of a profile of the base, 1 to 9. */
function filling(style: string): Record<string, string> | undefined {
  const grade = /^profile_(\d)$/.exec(style)?.[1]
  return grade ? { fill: `url(#profile-${grade}-${uid})` } : undefined
}
if (!props.mini) useLegend(drawing, 'net', () => looks.value)
const asking = computed(() => props.input.asking ?? '')
defineExpose({ svg })
const plates = computed(() => {
  // The text on the plate that is asked stands on lime in both themes.
  const items = shown.value?.items ?? []
  return new Set(items.flatMap((item, i) => (item.style === 'plate_asked' ? [i + 1] : [])))
})
</script>

<template>
  <div ref="host" class="drawing" :class="{ mini }">
    <svg
      ref="svg"
      class="net"
      :viewBox="`0 0 ${shown?.box.width ?? 1} ${shown?.box.height ?? 1}`"
      :data-mm-per-px="drawing?.mm_per_px"
      :style="looks"
      :role="mini ? 'img' : 'group'"
      :aria-label="mini ? name : say('net.label', { name })"
      @click="spotAt"
      @pointerdown="canZoom && drawing && pointers.down($event, drawing.box, drawing.mm_per_px)"
      @pointermove="pointers.move($event)"
      @pointerup="pointers.up($event)"
      @pointercancel="pointers.up($event)"
    >
      <defs>
        <pattern
          v-if="dots"
          :id="`dots-${uid}`"
          patternUnits="userSpaceOnUse"
          :x="dotsFrom[0]"
          :y="dotsFrom[1]"
          :width="dots"
          :height="dots"
        >
          <circle :cx="dots / 2" :cy="dots / 2" r="1.5" style="fill: var(--line)" />
        </pattern>
        <pattern :id="`one-way-${uid}`" patternUnits="userSpaceOnUse" width="26" height="11">
          <rect width="26" height="11" fill="var(--water1)" />
          <path d="M2 5H19" class="p-stroke" />
        </pattern>
        <pattern :id="`across-${uid}`" patternUnits="userSpaceOnUse" width="26" height="26">
          <rect width="26" height="26" fill="var(--water1)" />
          <path d="M2 5H19M13 9V24" class="p-stroke" />
        </pattern>
        <pattern :id="`thin-${uid}`" patternUnits="userSpaceOnUse" width="12" height="12" patternTransform="rotate(45)">
          <rect width="12" height="12" fill="var(--amber1)" />
          <rect width="3" height="12" fill="var(--amber3)" />
        </pattern>
        <pattern
          :id="`patch-${uid}`"
          patternUnits="userSpaceOnUse"
          width="14"
          height="14"
          patternTransform="rotate(-45)"
        >
          <rect width="1.6" height="14" style="fill: var(--edge)" />
        </pattern>
        <pattern
          v-for="grade in 9"
          :id="`profile-${grade}-${uid}`"
          :key="grade"
          patternUnits="userSpaceOnUse"
          width="16"
          height="16"
        >
          <path :d="grains(grade)" style="fill: var(--edge)" />
        </pattern>
        <pattern :id="`mesh-${uid}`" patternUnits="userSpaceOnUse" width="6" height="6">
          <rect width="6" height="6" fill="var(--stone3)" />
          <circle cx="3" cy="3" r="1" style="fill: var(--edge)" />
        </pattern>
      </defs>
      <template v-for="(item, i) in shown?.items ?? []" :key="i">
        <template v-if="item.kind === 'path'">
          <path :d="pathOf(item)" :class="`s-${item.style}`" :style="filling(item.style)" />
          <path
            v-if="item.style === 'chosen'"
            :d="pathOf(item)"
            class="s-chosen-in"
            style="stroke: var(--lime); stroke-width: 5px"
          />
          <path
            v-if="item.style === 'dimension_asked'"
            :d="pathOf(item)"
            style="stroke: var(--lime); stroke-width: 2px"
          />
        </template>
        <path v-else-if="item.kind === 'lines'" :d="linesOf(item)" :class="`s-${item.style}`" />
        <rect
          v-else-if="item.kind === 'dots'"
          :x="shown!.box.x"
          :y="shown!.box.y"
          :width="shown!.box.width"
          :height="shown!.box.height"
          :style="{ fill: `url(#dots-${uid})` }"
        />
        <circle
          v-else-if="item.kind === 'disc'"
          :cx="item.at[0]"
          :cy="item.at[1]"
          :r="item.radius ?? 0"
          :class="`s-${item.style}`"
        />
        <text
          v-else
          :x="item.at[0]"
          :y="item.at[1]"
          :text-anchor="item.anchor as 'middle'"
          :class="`s-${item.style}`"
          :style="
            plates.has(i) || (item.style === 'number' && shown?.items[i - 1]?.style === 'number_next')
              ? { fill: 'var(--lime-ink)' }
              : undefined
          "
          aria-hidden="true"
        >
          {{ words(item) }}
        </text>
      </template>
      <template v-if="!mini">
        <path
          v-for="tap in taps"
          :key="tap.id"
          :d="outline(tap.outline)"
          class="tap"
          role="button"
          :data-tap="tap.id"
          :tabindex="tap.id === stop ? 0 : -1"
          :aria-label="sentence(tap.label)"
          :aria-pressed="input.selected?.includes(tap.id) || tap.id === `ask.${asking}`"
          @click.stop="touch($event, tap.id)"
          @keydown="walk($event, tap.id)"
          @focus="focused = tap.id"
        />
      </template>
    </svg>
    <ZoomKeys
      v-if="canZoom && drawing && drawing.box.width > 1"
      :zoom="zoom"
      @near="near(drawing.box)"
      @far="far(drawing.box)"
      @whole="whole"
      @shift="(x, y) => shift(drawing!.box, x, y)"
    />
    <section v-if="!mini && drawing" class="visually-hidden" :aria-label="say('twin.heading')">
      <ul>
        <li v-for="(line, i) in drawing.twin" :key="i">{{ sentence(line) }}</li>
      </ul>
    </section>
  </div>
</template>

<style scoped>
/* A layer of its own: a digit typed beside it does not paint the drawing again. */
.drawing:not(.mini) {
  contain: layout paint style;
  will-change: transform;
}
.drawing {
  width: 100%;
  height: 100%;
  min-height: 0;
  position: relative;
}
</style>
