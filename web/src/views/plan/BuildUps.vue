<script setup lang="ts">
// Two or three systems side by side, each as the section through its build-up, with what decides.
import type { Schemas } from '../../core/core'
import PlainDrawing from '../../drawing/PlainDrawing.vue'
import { money, quantity, say } from '../../words/words'

defineProps<{ options: readonly Schemas['ChoiceOption'][]; picked: string }>()
</script>

<template>
  <div class="beside">
    <article
      v-for="option in options"
      :key="`${option.system} ${option.sheet}`"
      :class="{ stopped: option.stops.length }"
    >
      <h2 class="sub">{{ option.of }}</h2>
      <p v-if="option.name !== option.of" class="small">{{ option.name }}</p>
      <p v-if="`${option.system} ${option.sheet}` === picked" class="small">{{ say('plan.picked') }}</p>
      <div class="section">
        <PlainDrawing
          :label="say('plan.section_of', { name: option.of })"
          :input="{ kind: 'section', layers: option.build }"
        />
      </div>
      <p v-for="stop in option.stops" :key="stop.key" class="stop">{{ say(`stop.${stop.key}`, stop.args) }}</p>
      <dl>
        <template v-if="option.hours">
          <dt class="small">{{ say('choice.hours') }}</dt>
          <dd>{{ quantity(option.hours.value, 'h') }}</dd>
        </template>
        <template v-if="option.cost_cents !== null">
          <dt class="small">{{ say('choice.cost') }}</dt>
          <dd>{{ money(option.cost_cents) }}</dd>
        </template>
        <dt class="small">{{ say('choice.layers') }}</dt>
        <dd>{{ option.layers }}</dd>
        <template v-if="option.tolerance_percent !== null">
          <dt class="small">{{ say('choice.tolerance') }}</dt>
          <dd>± {{ Math.round(option.tolerance_percent) }} %</dd>
        </template>
      </dl>
    </article>
  </div>
</template>

<style scoped>
.beside {
  height: 100%;
  overflow: auto;
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(200px, 100%), 1fr));
}
article {
  padding: 16px 18px;
  display: grid;
  gap: 10px;
  align-content: start;
}
article + article {
  border-inline-start: 1.5px solid var(--line);
}
.section {
  height: 300px;
}
.stop {
  padding-inline-start: 12px;
  border-inline-start: 5px solid var(--plum7);
}
.stopped .section {
  opacity: 0.45;
}
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 4px 14px;
  align-items: baseline;
}
dd {
  font-weight: 700;
  white-space: nowrap;
}
:root.phone .beside {
  grid-template-columns: minmax(0, 1fr);
}
:root.phone .section {
  height: 220px;
}
:root.phone article + article {
  border-inline: 0;
  border-block-start: 1.5px solid var(--line);
}
</style>
