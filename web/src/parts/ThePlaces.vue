<script setup lang="ts">
// The two places that look across all areas of a job.
import { say } from '../words/words'

defineProps<{ job: string; place?: 'now' | 'waits' }>()
</script>

<template>
  <nav class="places" :aria-label="say('places.label')">
    <router-link :to="`/job/${job}/now`" class="place" :class="{ here: place === 'now' }">
      <svg viewBox="0 0 40 28" width="40" height="28" aria-hidden="true">
        <path d="M8 2h9v9H8zM23 2h9v9h-9z" class="solid" />
        <path d="M2 15h36M15 19h10v8H15z" class="line" />
      </svg>
      <strong>{{ say('now.label') }}</strong>
    </router-link>
    <router-link :to="`/job/${job}/waits`" class="place" :class="{ here: place === 'waits' }">
      <svg viewBox="0 0 40 28" width="40" height="28" aria-hidden="true">
        <path d="M2 25c9 0 8-21 15-21s7 21 21 21M20 1v26" class="line" />
      </svg>
      <strong>{{ say('waits.label') }}</strong>
    </router-link>
  </nav>
</template>

<style scoped>
.places {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
  padding: 0 10px;
}
.place {
  min-height: 76px;
  display: grid;
  place-items: center;
  align-content: center;
  gap: 4px;
  border: 2.5px solid var(--ink);
  color: inherit;
  text-decoration: none;
}
.place.here {
  background: var(--lime);
  border-color: var(--lime-edge);
  color: var(--lime-ink);
}
.solid {
  fill: currentColor;
}
.line {
  fill: none;
  stroke: currentColor;
  stroke-width: 2.4;
}
:root.lying .places {
  grid-template-columns: 1fr;
}
:root.slim .place svg {
  display: none;
}
:root.slim .places {
  gap: 4px;
  padding: 0;
}
:root.narrow .place {
  min-width: 58px;
  min-height: 56px;
  grid-auto-flow: column;
  gap: 8px;
}
</style>
