<script setup lang="ts">
// Which shape is measured: each drawn as it lies folded open.
import OneOf from '../../parts/OneOf.vue'
import { say } from '../../words/words'

defineProps<{ form: string }>()
const emit = defineEmits<{ pick: [form: string] }>()

const shapes: Record<string, string> = {
  rectangle: 'M18 20h28v20H18zM18 20V8h28v12M46 20h10v20H46M18 40v6h28v-6M18 20H8v20h10',
  room: 'M12 10h40v18H32v22H12z',
  basin: 'M6 12h52v8L34 44H18L6 30z M6 20h52',
  round_tank: 'M32 40a12 12 0 1 0 .1 0zM8 8h48v18H8z',
  box_tank: 'M14 18h26v26H14zM14 18l10-10h26L40 18M50 8v26L40 44',
  deck: 'M8 14h48v30H8z M8 8v42M8 14h48 M20 44v6M32 44v6M44 44v6',
  wall_run: 'M6 12h20v28H6zM26 12h16v28H26zM42 12h16v28H42z M6 46h52',
  sunken: 'M6 14h10v22h32V14h10 M16 24h32',
}
</script>

<template>
  <div>
    <h2>{{ say('survey.shape') }}</h2>
    <p class="small">{{ say('survey.shape.line') }}</p>
  </div>
  <OneOf
    v-slot="{ option }"
    look="row"
    :options="Object.keys(shapes)"
    :picked="form"
    :label="say('survey.shape')"
    @pick="(picked) => emit('pick', picked)"
  >
    <svg viewBox="0 0 64 54" width="64" height="54" aria-hidden="true"><path :d="shapes[option]" /></svg>
    <span class="grow">
      <strong>{{ say(`form.${option}`) }}</strong>
      <span class="small">{{ say(`form.${option}.line`) }}</span>
    </span>
  </OneOf>
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
