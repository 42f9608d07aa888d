<script setup lang="ts">
// Our own reference patterns of a base's profile, 1 (smooth) to 9 (open), to hold beside it.
import { grains } from '../drawing/shapes'

defineProps<{ chosen: string; label: string }>()
const emit = defineEmits<{ pick: [grade: string] }>()
const TILE = 16
const tiles = [0, 1, 2].flatMap((y) => [0, 1, 2].map((x) => `translate(${x * TILE} ${y * TILE})`))
</script>

<template>
  <div class="grades" role="radiogroup" :aria-label="label">
    <button
      v-for="grade in 9"
      :key="grade"
      role="radio"
      :aria-checked="chosen === String(grade)"
      :class="{ chosen: chosen === String(grade) }"
      @click="emit('pick', String(grade))"
    >
      <svg viewBox="0 0 48 48" width="72" height="72" aria-hidden="true">
        <path v-for="tile in tiles" :key="tile" :d="grains(grade)" :transform="tile" />
      </svg>
      <strong>{{ grade }}</strong>
    </button>
  </div>
</template>

<style scoped>
.grades {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 8px;
}
button {
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 4px;
  border: 1.5px solid var(--line);
  font-size: 23px;
}
.chosen {
  outline: 3px solid var(--ink);
}
path {
  fill: var(--ink);
}
</style>
