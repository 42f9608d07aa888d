<script setup lang="ts">
// A few numbers side by side, each kept as it is typed. A temperature that may be in °F is asked back.
import { say } from '../words/words'

defineProps<{
  fields: readonly { id: string; label: string }[]
  typed: Record<string, string>
  asked?: string
  wrong?: Record<string, string>
}>()
const emit = defineEmits<{ type: [id: string, text: string]; enter: [] }>()
</script>

<template>
  <div class="numbers">
    <div v-for="field in fields" :key="field.id">
      <v-text-field
        :label="field.label"
        :error="!!wrong?.[field.id]"
        :model-value="typed[field.id] ?? ''"
        inputmode="decimal"
        autocomplete="off"
        maxlength="20"
        @update:model-value="emit('type', field.id, $event)"
        @keydown.enter="emit('enter')"
      />
      <span v-if="asked === field.id" class="units" role="group" :aria-label="field.label">
        <button
          v-for="unit in ['°C', '°F']"
          :key="unit"
          type="button"
          class="outline narrow"
          @click="emit('type', field.id, `${typed[field.id]} ${unit}`)"
        >
          {{ say('number.is', { unit }) }}
        </button>
      </span>
    </div>
  </div>
</template>

<style scoped>
.numbers {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(96px, 1fr));
  gap: 10px 16px;
}
.units {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  padding-top: 8px;
}
</style>
