<script setup lang="ts">
import { say } from '../words/words'
</script>

<template>
  <router-link to="/" class="mark" :aria-label="say('job.back')">
    <svg viewBox="0 0 46 46" width="44" height="44" aria-hidden="true">
      <g fill="none" stroke="var(--ink)" stroke-width="2.4">
        <path d="M16 16V4h14v12M16 30v12h14V30M16 16H4v14h12M30 16h6a7 7 0 0 1 0 14h-6" />
        <path d="M16 16h14v14H16z" fill="var(--lime)" />
      </g>
    </svg>
    <strong>{{ say('app.name') }}</strong>
  </router-link>
</template>

<style scoped>
.mark {
  display: flex;
  align-items: center;
  gap: 10px;
  min-width: 56px;
  min-height: 56px;
  color: inherit;
  text-decoration: none;
}
strong {
  font-size: 24px;
  font-weight: 720;
}
:root.phone strong,
:root.lying strong {
  position: absolute;
  width: 1px;
  height: 1px;
  overflow: hidden;
  clip-path: inset(50%);
}
</style>
