<script setup lang="ts">
// What a row is dragged by. The keys of its panel move it too, so no tab stop is spent on it.
defineEmits<{ take: [event: PointerEvent]; drag: [event: PointerEvent]; drop: [] }>()
</script>

<template>
  <span
    class="handle"
    aria-hidden="true"
    @pointerdown="$emit('take', $event)"
    @pointermove="$emit('drag', $event)"
    @pointerup="$emit('drop')"
    @pointercancel="$emit('drop')"
  >
    <svg viewBox="0 0 24 30" width="24" height="30"><path d="M3 8h18M3 15h18M3 22h18" /></svg>
  </span>
</template>

<style scoped>
.handle {
  flex: none;
  width: 56px;
  min-height: 56px;
  display: grid;
  place-items: center;
  touch-action: none;
  cursor: grab;
}
path {
  fill: none;
  stroke: var(--edge);
  stroke-width: 3;
}
</style>
