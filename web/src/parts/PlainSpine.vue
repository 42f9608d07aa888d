<script setup lang="ts">
// The spine where no area is open: bare mesh.
import TheMark from './TheMark.vue'
</script>

<template>
  <div class="plain">
    <TheMark />
    <div class="mesh" aria-hidden="true" />
  </div>
</template>

<style scoped>
.plain {
  height: 100%;
  display: flex;
  flex-direction: column;
  gap: 18px;
  padding: 20px 14px 14px;
}
.mesh {
  flex: 1;
  width: 42px;
  margin-inline-start: 1px;
  border: 1.5px solid var(--edge);
  background:
    linear-gradient(90deg, transparent 11px, var(--stone3) 11px 30px, transparent 30px),
    radial-gradient(circle at 4px 4px, var(--edge) 1.1px, transparent 1.4px) 1px 0 / 7px 7px,
    var(--sheet);
}
@media (max-width: 759px) {
  .plain {
    flex-direction: row;
    padding: 6px 14px;
    align-items: center;
  }
  .mesh {
    width: auto;
    height: 42px;
  }
}
</style>
