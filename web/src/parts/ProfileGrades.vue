<script setup lang="ts">
// Our own reference patterns of a base's profile, 1 (smooth) to 9 (open), to hold beside it.
import { grains } from '../drawing/shapes'
import OneOf from './OneOf.vue'

defineProps<{ chosen: string; label: string }>()
const emit = defineEmits<{ pick: [grade: string] }>()
const GRADES = ['1', '2', '3', '4', '5', '6', '7', '8', '9']
const TILE = 16
const tiles = [0, 1, 2].flatMap((y) => [0, 1, 2].map((x) => `translate(${x * TILE} ${y * TILE})`))
</script>

<template>
  <OneOf
    v-slot="{ option }"
    class="grades"
    look="plain"
    :options="GRADES"
    :picked="chosen"
    :label="label"
    @pick="(grade) => emit('pick', grade)"
  >
    <svg viewBox="0 0 48 48" width="72" height="72" aria-hidden="true">
      <path v-for="tile in tiles" :key="tile" :d="grains(Number(option))" :transform="tile" />
    </svg>
    <strong>{{ option }}</strong>
  </OneOf>
</template>

<style scoped>
.grades {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 8px;
}
.grades :deep(button) {
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 4px;
  border: 1.5px solid var(--line);
  font-size: 23px;
}
.grades :deep([aria-checked='true']) {
  outline: 3px solid var(--ink);
}
path {
  fill: var(--ink);
}
</style>
