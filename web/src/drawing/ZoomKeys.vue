<script setup lang="ts">
// Buttons for the view of a drawing; the arrows come when there is something to move to.
import { say } from '../words/words'

defineProps<{ zoom: number }>()
const emit = defineEmits<{ near: []; far: []; whole: []; shift: [x: number, y: number] }>()
const ways = [
  { name: 'net.left', way: [-1, 0], d: 'M16 5L7 14l9 9' },
  { name: 'net.up', way: [0, -1], d: 'M5 17l9-9 9 9' },
  { name: 'net.down', way: [0, 1], d: 'M5 10l9 9 9-9' },
  { name: 'net.right', way: [1, 0], d: 'M12 5l9 9-9 9' },
] as const
</script>

<template>
  <div class="view" role="group" :aria-label="say('net.tools')">
    <template v-if="zoom > 1">
      <button v-for="w in ways" :key="w.name" :aria-label="say(w.name)" @click="emit('shift', w.way[0], w.way[1])">
        <svg viewBox="0 0 28 28" width="24" height="24" aria-hidden="true"><path :d="w.d" /></svg>
      </button>
      <button @click="emit('whole')">{{ say('net.whole') }}</button>
      <button :aria-label="say('net.zoom_out')" @click="emit('far')">
        <svg viewBox="0 0 28 28" width="24" height="24" aria-hidden="true"><path d="M5 14h18" /></svg>
      </button>
    </template>
    <button :aria-label="say('net.zoom_in')" @click="emit('near')">
      <svg viewBox="0 0 28 28" width="24" height="24" aria-hidden="true"><path d="M5 14h18M14 5v18" /></svg>
    </button>
  </div>
</template>

<style scoped>
.view {
  position: absolute;
  inset: auto 0 0 auto;
  display: flex;
  background: var(--sheet);
}
button {
  min-width: 56px;
  height: 56px;
  display: grid;
  place-items: center;
  border: 1.5px solid var(--ink);
  border-inline-start: 0;
  font-weight: 650;
}
button:first-child {
  border-inline-start: 1.5px solid var(--ink);
}
path {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2.6;
}
@media print {
  .view {
    display: none;
  }
}
</style>
