<script setup lang="ts">
// A signature is a drawn line: by finger, pen or mouse. Without a pointer a cross is made.
import { computed, ref } from 'vue'
import { say } from '../words/words'

type Stroke = [number, number][]
const strokes = defineModel<Stroke[]>({ required: true })
const field = ref<SVGSVGElement>()
const drawing = ref(false)
const SIDE = 1000
const MOST = 3900

const points = computed(() => strokes.value.reduce((sum, stroke) => sum + stroke.length, 0))

function at(event: PointerEvent): [number, number] {
  const box = field.value!.getBoundingClientRect()
  const share = (x: number, from: number, size: number) =>
    Math.round(Math.min(1, Math.max(0, (x - from) / size)) * SIDE)
  return [share(event.clientX, box.left, box.width), share(event.clientY, box.top, box.height)]
}
function begin(event: PointerEvent): void {
  field.value!.setPointerCapture(event.pointerId)
  drawing.value = true
  strokes.value = [...strokes.value, [at(event)]]
}
function move(event: PointerEvent): void {
  if (!drawing.value || points.value > MOST) return
  strokes.value = [...strokes.value.slice(0, -1), [...strokes.value.at(-1)!, at(event)]]
}
function cross(): void {
  strokes.value = [
    [
      [300, 250],
      [700, 750],
    ],
    [
      [700, 250],
      [300, 750],
    ],
  ]
}
const path = (stroke: Stroke) =>
  stroke.map(([x, y], i) => `${i ? 'L' : 'M'}${x * 0.4} ${y * 0.16}`).join('') + (stroke.length === 1 ? 'h1' : '')
</script>

<template>
  <div class="sign">
    <svg
      ref="field"
      viewBox="0 0 400 160"
      preserveAspectRatio="none"
      role="img"
      :aria-label="say('sign.field')"
      @pointerdown="begin"
      @pointermove="move"
      @pointerup="drawing = false"
      @pointercancel="drawing = false"
    >
      <path d="M20 128h360" class="base" />
      <path v-for="(stroke, i) in strokes" :key="i" :d="path(stroke)" class="stroke" />
    </svg>
    <div class="acts">
      <button class="outline narrow" @click="strokes = []">{{ say('sign.clear') }}</button>
      <button class="outline narrow" @click="cross">{{ say('sign.cross') }}</button>
    </div>
  </div>
</template>

<style scoped>
.sign {
  display: grid;
  gap: 8px;
}
svg {
  width: 100%;
  height: 160px;
  border: 2.5px solid var(--ink);
  touch-action: none;
  background: var(--sheet);
}
.base {
  stroke: var(--line);
  stroke-width: 1.5px;
}
.stroke {
  fill: none;
  stroke: var(--ink);
  stroke-width: 3px;
  vector-effect: non-scaling-stroke;
  stroke-linejoin: round;
  stroke-linecap: round;
}
.acts {
  display: flex;
  gap: 10px;
}
</style>
