<script setup lang="ts">
// Which shape is measured: each drawn as it lies folded open.
import { say } from '../../words/words'

defineProps<{ form: string }>()
const emit = defineEmits<{ pick: [form: string] }>()

const shapes: { form: string; d: string }[] = [
  { form: 'rectangle', d: 'M18 20h28v20H18zM18 20V8h28v12M46 20h10v20H46M18 40v6h28v-6M18 20H8v20h10' },
  { form: 'room', d: 'M12 10h40v18H32v22H12z' },
  { form: 'basin', d: 'M6 12h52v8L34 44H18L6 30z M6 20h52' },
  { form: 'round_tank', d: 'M32 40a12 12 0 1 0 .1 0zM8 8h48v18H8z' },
  { form: 'box_tank', d: 'M14 18h26v26H14zM14 18l10-10h26L40 18M50 8v26L40 44' },
  { form: 'deck', d: 'M8 14h48v30H8z M8 8v42M8 14h48 M20 44v6M32 44v6M44 44v6' },
  { form: 'wall_run', d: 'M6 12h20v28H6zM26 12h16v28H26zM42 12h16v28H42z M6 46h52' },
  { form: 'sunken', d: 'M6 14h10v22h32V14h10 M16 24h32' },
]
</script>

<template>
  <div>
    <h2>{{ say('survey.shape') }}</h2>
    <p class="small">{{ say('survey.shape.line') }}</p>
  </div>
  <ul role="radiogroup" :aria-label="say('survey.shape')">
    <li v-for="shape in shapes" :key="shape.form" role="presentation">
      <button
        class="row"
        role="radio"
        :aria-checked="form === shape.form"
        :class="{ chosen: form === shape.form }"
        @click="emit('pick', shape.form)"
      >
        <svg viewBox="0 0 64 54" width="64" height="54" aria-hidden="true"><path :d="shape.d" /></svg>
        <span class="grow">
          <strong>{{ say(`form.${shape.form}`) }}</strong>
          <span class="small">{{ say(`form.${shape.form}.line`) }}</span>
        </span>
      </button>
    </li>
  </ul>
</template>

<style scoped>
path {
  fill: none;
  stroke: currentColor;
  stroke-width: 2.4;
}
svg {
  flex: none;
}
.grow {
  display: grid;
  line-height: 1.2;
}
strong {
  font-size: 20px;
}
</style>
