<script setup lang="ts">
// The bucket in section, filled to the true height of this batch; layers in pouring order.
import { computed } from 'vue'
import type { Schemas } from '../core/core'
import { fixed, say } from '../words/words'

type Weighing = Schemas['MixingWeighing']

const props = defineProps<{ litres: number; parts: Weighing[]; poured: boolean }>()

const WIDE = 640
const TOP = 120
const FLOOR = 590
const rise = computed(() => (FLOOR - TOP) / props.litres)
const level = (litres: number) => FLOOR - litres * rise.value
/** The bucket's inner half width at a height: it widens upwards. */
const half = (y: number) => 168 + ((FLOOR - y) / (FLOOR - TOP)) * 22
const MIDDLE = 250

const layers = computed(() => {
  let below = 0
  return props.parts.map((part, i) => {
    const layer = { part, y: level(part.reaches_L), bottom: level(below), number: i + 1 }
    below = part.reaches_L
    return layer
  })
})
const shape = (y: number, bottom: number) =>
  `M${MIDDLE - half(bottom)} ${bottom}L${MIDDLE - half(y)} ${y}H${MIDDLE + half(y)}L${MIDDLE + half(bottom)} ${bottom}Z`
const free = computed(() => Math.floor(props.litres - (props.parts.at(-1)?.reaches_L ?? 0)))
const marks = computed(() => {
  const step = props.litres > 24 ? 5 : 4
  return Array.from({ length: Math.ceil(props.litres / step) - 1 }, (_, i) => (i + 1) * step).filter(
    (l) => l < props.litres,
  )
})
/** The boxes of what the scale shows stand apart even where levels lie close. */
const boxes = computed(() => {
  let lowest = FLOOR + 40
  return layers.value.map((layer) => {
    const y = Math.min(layer.y, lowest - 62)
    lowest = y
    return { y, at: layer.y, text: fixed(layer.part.scale_kg, 2) }
  })
})
/** Layers too thin for their number get it in the free space above, with a line down. */
const THIN = 104
const isThin = (layer: { y: number; bottom: number }) => layer.bottom - layer.y < THIN
const aloft = computed(() =>
  layers.value
    .filter(isThin)
    .reverse()
    .map((layer, i) => ({ layer, y: TOP + 92 + i * 104 })),
)
const freeAt = computed(() => {
  const under = aloft.value.at(-1)?.y ?? TOP
  return (under + (layers.value.at(-1)?.y ?? FLOOR)) / 2 + 12
})
const kg = (value: number) => fixed(value, 2)
</script>

<template>
  <svg
    class="bucket"
    :viewBox="`0 0 ${WIDE} 620`"
    role="img"
    :aria-label="parts.map((p) => `${p.name} ${kg(p.kg)} kg, ${say('bucket.scale')} ${kg(p.scale_kg)}`).join('; ')"
  >
    <defs>
      <pattern id="liquid" patternUnits="userSpaceOnUse" width="26" height="17">
        <rect width="26" height="17" fill="var(--water1)" />
        <path d="M0 9q6.5-6 13 0t13 0" fill="none" stroke="var(--water4)" stroke-width="1.6" />
      </pattern>
      <pattern id="powder" patternUnits="userSpaceOnUse" width="11" height="11">
        <rect width="11" height="11" fill="var(--stone3)" />
        <circle cx="3" cy="3" r="1.2" fill="var(--edge)" />
        <circle cx="8.5" cy="8.5" r="1.2" fill="var(--edge)" />
      </pattern>
    </defs>
    <path
      :d="`M${MIDDLE - 178} ${TOP - 8}Q${MIDDLE} 0 ${MIDDLE + 178} ${TOP - 8}`"
      fill="none"
      stroke="var(--edge)"
      stroke-width="5"
    />
    <rect
      :x="MIDDLE - 44"
      y="28"
      width="88"
      height="17"
      rx="8"
      fill="var(--sunk)"
      stroke="var(--ink)"
      stroke-width="2"
    />
    <g v-for="layer in layers" :key="layer.part.part">
      <path
        :d="shape(layer.y, layer.bottom)"
        :fill="layer.part.kind === 'liquid' ? 'url(#liquid)' : 'url(#powder)'"
        stroke="var(--ink)"
        stroke-width="2.4"
        :stroke-dasharray="poured ? undefined : '9 6'"
      />
      <template v-if="!isThin(layer)">
        <text :x="MIDDLE - 140" :y="(layer.y + layer.bottom) / 2 - 26" class="name">
          {{ layer.number }} {{ layer.part.name }}
        </text>
        <text :x="MIDDLE - 142" :y="(layer.y + layer.bottom) / 2 + 44" class="mass">
          {{ kg(layer.part.kg) }}
          <tspan class="unit">kg</tspan>
        </text>
      </template>
    </g>
    <g v-for="each in aloft" :key="each.layer.part.part">
      <path
        :d="`M${MIDDLE + 120 + each.layer.number * 14} ${each.y - 26}V${(each.layer.y + each.layer.bottom) / 2}`"
        stroke="var(--ink)"
        stroke-width="1.5"
      />
      <circle
        :cx="MIDDLE + 120 + each.layer.number * 14"
        :cy="(each.layer.y + each.layer.bottom) / 2"
        r="5"
        fill="var(--ink)"
      />
      <text :x="MIDDLE - 150" :y="each.y - 62" class="name">{{ each.layer.number }} {{ each.layer.part.name }}</text>
      <text :x="MIDDLE - 152" :y="each.y" class="mass">
        {{ kg(each.layer.part.kg) }}
        <tspan class="unit">kg</tspan>
      </text>
    </g>
    <path
      :d="`M${MIDDLE - 200} ${TOP}h10L${MIDDLE - 168} ${FLOOR}h336L${MIDDLE + 190} ${TOP}h10`"
      fill="none"
      stroke="var(--ink)"
      stroke-width="6"
      stroke-linejoin="miter"
    />
    <text v-if="free > 0" :x="MIDDLE" :y="freeAt" text-anchor="middle" class="free">
      {{ say('bucket.free', { n: free }) }}
    </text>
    <g class="marks">
      <text :x="MIDDLE - 206" :y="TOP + 26" text-anchor="end">{{ say('bucket.litres') }}</text>
      <g v-for="mark in marks" :key="mark">
        <path :d="`M${MIDDLE - half(level(mark))} ${level(mark)}h14`" stroke="var(--ink)" stroke-width="2" />
        <text v-if="level(mark) > TOP + 34" :x="MIDDLE - half(level(mark)) - 14" :y="level(mark) + 6" text-anchor="end">
          {{ mark }}
        </text>
      </g>
    </g>
    <text :x="MIDDLE + 222" :y="(boxes.at(-1)?.y ?? TOP) - 34" class="free">{{ say('bucket.scale') }}</text>
    <g v-for="box in boxes" :key="box.text">
      <path
        :d="`M${MIDDLE + half(box.at) + 6} ${box.at}H${MIDDLE + 208}L${MIDDLE + 222} ${box.y}`"
        fill="none"
        stroke="var(--ink)"
        stroke-width="1.5"
      />
      <rect
        :x="MIDDLE + 222"
        :y="box.y - 24"
        width="150"
        height="48"
        rx="3"
        fill="var(--sunk)"
        stroke="var(--ink)"
        stroke-width="2"
      />
      <text :x="MIDDLE + 358" :y="box.y + 11" text-anchor="end" class="shows">{{ box.text }}</text>
    </g>
  </svg>
</template>

<style scoped>
.bucket {
  display: block;
  width: 100%;
  height: 100%;
}
text {
  fill: var(--ink);
  font-family: var(--face);
  font-size: 17px;
  font-variant-numeric: tabular-nums;
}
.name {
  font-size: 22px;
  font-weight: 700;
  paint-order: stroke;
  stroke: var(--sheet);
  stroke-width: 7px;
}
.mass {
  font-size: 76px;
  font-weight: 740;
  letter-spacing: -0.03em;
  paint-order: stroke;
  stroke: var(--sheet);
  stroke-width: 9px;
}
.unit {
  font-size: 32px;
  font-weight: 600;
  letter-spacing: 0;
}
.free {
  fill: var(--ink2);
}
.shows {
  font-size: 32px;
  font-weight: 650;
}
</style>
