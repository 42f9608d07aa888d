<script setup lang="ts">
// The verdict of a water test, and under it the levels it comes from.
import type { Schemas } from '../../core/core'
import PlainDrawing from '../../drawing/PlainDrawing.vue'
import { say } from '../../words/words'
import VerdictHead from './VerdictHead.vue'

defineProps<{ test: NonNullable<Schemas['SiteLook']['test']>; now: string }>()
</script>

<template>
  <div class="chart scroll">
    <VerdictHead :test="test" />
    <div class="levels">
      <p class="small">{{ say('levels.label') }}</p>
      <PlainDrawing :label="say('levels.label')" :input="{ kind: 'levels', test, now }" />
    </div>
  </div>
</template>

<style scoped>
.chart {
  height: 100%;
  display: grid;
  grid-template-rows: auto minmax(180px, 1fr);
  gap: 8px;
}
.levels {
  min-height: 0;
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
}
:root.phone .chart,
:root.low .chart {
  height: auto;
  grid-template-rows: auto 260px;
}
</style>
