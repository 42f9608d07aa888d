<script setup lang="ts">
// Writes a drawing in px as SVG: a tide, the levels of a test, the scale that decides, a section,
// a shelf. The arrow keys walk through its twin in words, which is read out and shown below it.
import { computed, ref, useId } from 'vue'
import { call, type Schemas } from '../core/core'
import { now } from '../data/clock'
import { say } from '../words/words'
import { offsetOf } from '../words/zone'
import { useLegend } from './legend'
import { dropTime, pathOf } from './shapes'
import { useDrawing } from './useDrawing'

type Ask =
  | ({ kind: 'tide' } & Pick<Schemas['DrawTideInputs'], 'tide' | 'now' | 'hours' | 'mini'>)
  | ({ kind: 'levels' } & Pick<Schemas['DrawLevelsInputs'], 'test' | 'now'>)
  | ({ kind: 'scale' } & Pick<Schemas['DrawScaleInputs'], 'judged' | 'limit_mm_per_h' | 'finding'>)
  | ({ kind: 'section' } & Pick<Schemas['DrawSectionInputs'], 'layers'>)
  | ({ kind: 'film' } & Pick<Schemas['DrawFilmInputs'], 'film'>)
  | ({ kind: 'shelf' } & Pick<Schemas['DrawShelfInputs'], 'lines' | 'lit'>)
  | ({ kind: 'days' } & Pick<Schemas['DrawDaysInputs'], 'rows' | 'crews' | 'now' | 'lit' | 'chain'>)
  | ({ kind: 'rolls' } & Pick<Schemas['DrawRollsInputs'], 'work' | 'wants' | 'lit' | 'next'>)

/** grow: as high as what is drawn; else it fills its host. */
const props = defineProps<{ input: Ask; label: string; mini?: boolean; grow?: boolean }>()
const emit = defineEmits<{ pick: [id: string]; drop: [id: string, from: string, to: string] }>()

const at = ref(-1)

function made(view: Schemas['DrawView']): Promise<Schemas['DrawDrawing']> {
  const { kind, ...input } = props.input
  const offset_min = offsetOf(now())
  if (kind === 'tide') return call('draw.tide', { ...(input as Schemas['DrawTideInputs']), offset_min, view })
  if (kind === 'levels') return call('draw.levels', { ...(input as Schemas['DrawLevelsInputs']), offset_min, view })
  if (kind === 'days') return call('draw.days', { ...(input as Schemas['DrawDaysInputs']), offset_min, view })
  if (kind === 'section') return call('draw.section', { ...(input as Schemas['DrawSectionInputs']), view })
  if (kind === 'film') return call('draw.film', { ...(input as Schemas['DrawFilmInputs']), view })
  if (kind === 'shelf') return call('draw.shelf', { ...(input as Schemas['DrawShelfInputs']), view })
  if (kind === 'rolls') return call('draw.rolls', { ...(input as Schemas['DrawRollsInputs']), view })
  return call('draw.scale', { ...(input as Schemas['DrawScaleInputs']), view })
}

const host = ref<HTMLElement>()
const svg = ref<SVGSVGElement>()
defineExpose({ svg })
const { drawing, box } = useDrawing(host, () => JSON.stringify(props.input), made)
const twin = computed(() => (drawing.value?.twin ?? []).map((line) => say(line.key, line.args)))

function walk(event: KeyboardEvent): void {
  if (event.altKey || event.ctrlKey || event.metaKey) return
  const here = drawing.value?.twin[at.value]?.id
  if (here && (event.key === 'Enter' || event.key === ' ')) {
    event.preventDefault()
    return emit('pick', here)
  }
  if (!event.key.startsWith('Arrow')) return
  event.preventDefault()
  const step = event.key === 'ArrowRight' || event.key === 'ArrowDown' ? 1 : -1
  at.value = Math.min(twin.value.length - 1, Math.max(0, at.value + step))
}

/** What is dragged over a plan of the days, and where it was taken. */
let taken: { id: string; x: number; y: number } | null = null
const FAR = 12
function take(event: PointerEvent, id: string): void {
  if (props.input.kind !== 'days') return
  taken = { id, x: event.clientX, y: event.clientY }
  ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
}
/** Put down somewhere else: the times that lie where it was taken, and there. */
function put(event: PointerEvent): void {
  const from = taken
  taken = null
  if (!from || !svg.value || Math.abs(event.clientX - from.x) < FAR) return
  dragged = true
  const rect = svg.value.getBoundingClientRect()
  const timeAt = (x: number, y: number) => dropTime(drawing.value?.items ?? [], x - rect.left, y - rect.top)
  const [was, now] = [timeAt(from.x, from.y), timeAt(event.clientX, event.clientY)]
  if (was && now) emit('drop', from.id, was, now)
}
/** What was dragged is not touched too. */
let dragged = false
function pick(id: string): void {
  if (!dragged) emit('pick', id)
  dragged = false
}

const uid = useId()
const looks = Object.fromEntries(
  ['dots', 'waves', 'bars', 'crosses', 'bars-quiet'].map((n) => [`--${n}`, `url(#${n}-${uid})`]),
)
if (!props.mini) useLegend(drawing, 'flat', () => looks)
</script>

<template>
  <div ref="host" class="flat" :class="{ mini }" :style="grow ? { height: `${drawing?.box.height ?? 60}px` } : {}">
    <svg
      ref="svg"
      :viewBox="box"
      data-mm-per-px="0.25"
      :style="looks"
      :role="mini ? 'img' : 'group'"
      :aria-label="label"
      :tabindex="mini ? undefined : 0"
      @keydown="walk"
      @blur="at = -1"
    >
      <defs>
        <pattern :id="`dots-${uid}`" patternUnits="userSpaceOnUse" width="9" height="9">
          <rect width="9" height="9" fill="var(--sunk)" />
          <circle cx="4.5" cy="4.5" r="1.3" fill="var(--stone7)" />
        </pattern>
        <pattern :id="`waves-${uid}`" patternUnits="userSpaceOnUse" width="28" height="14">
          <rect width="28" height="14" fill="var(--water7)" />
          <path d="M0 7q7 -6 14 0t14 0" fill="none" stroke="var(--water4)" stroke-width="1.4" />
        </pattern>
        <pattern :id="`bars-${uid}`" patternUnits="userSpaceOnUse" width="12" height="12" patternTransform="rotate(45)">
          <rect width="12" height="12" fill="var(--amber3)" />
          <rect width="4" height="12" fill="var(--amber7)" />
        </pattern>
        <pattern
          :id="`bars-quiet-${uid}`"
          patternUnits="userSpaceOnUse"
          width="7"
          height="7"
          patternTransform="rotate(45)"
        >
          <rect width="7" height="7" fill="var(--sheet)" />
          <rect width="2" height="7" fill="var(--stone7)" />
        </pattern>
        <pattern :id="`crosses-${uid}`" patternUnits="userSpaceOnUse" width="10" height="10">
          <rect width="10" height="10" fill="var(--plum1)" />
          <path d="M2 2l6 6M8 2l-6 6" stroke="var(--plum7)" stroke-width="1.5" />
        </pattern>
      </defs>
      <template v-for="(item, i) in drawing?.items ?? []" :key="i">
        <path v-if="item.kind === 'path'" :d="pathOf(item)" :class="`t-${item.style}`" />
        <circle
          v-else-if="item.kind === 'disc'"
          :cx="item.at[0]"
          :cy="item.at[1]"
          :r="item.radius ?? 0"
          :class="`t-${item.style}`"
        />
        <text
          v-else
          :x="item.at[0]"
          :y="item.at[1]"
          :text-anchor="item.anchor as 'middle'"
          :class="`t-${item.style}`"
          aria-hidden="true"
        >
          {{ item.say ? say(item.say.key, item.say.args) : '' }}
        </text>
      </template>
      <path
        v-for="tap in drawing?.taps ?? []"
        :key="tap.id"
        :d="pathOf({ points: tap.outline, closed: true })"
        class="tap"
        :class="{ drags: input.kind === 'days' }"
        :data-tap="tap.id"
        @pointerdown="(event) => take(event, tap.id)"
        @pointerup="put"
        @pointercancel="taken = null"
        @click="pick(tap.id)"
      />
    </svg>
    <p v-if="at >= 0" class="twin-line">{{ twin[at] }}</p>
    <section v-if="!mini && drawing" class="visually-hidden" :aria-label="say('twin.of', { label })">
      <p aria-live="polite">{{ at >= 0 ? twin[at] : '' }}</p>
      <ul>
        <li v-for="(line, i) in twin" :key="i">{{ line }}</li>
      </ul>
    </section>
  </div>
</template>

<style scoped>
.flat {
  container-type: inline-size;
  position: relative;
  width: 100%;
  height: 100%;
  min-height: 0;
}
svg {
  display: block;
  width: 100%;
  height: 100%;
}
.flat .tap {
  fill: transparent;
  cursor: pointer;
}
.twin-line {
  position: absolute;
  inset: auto 0 0 0;
  padding: 6px 12px;
  background: var(--ink);
  color: var(--sheet);
}
</style>
