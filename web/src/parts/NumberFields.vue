<script setup lang="ts">
// A few numbers side by side, each kept as it is typed.
defineProps<{ fields: readonly { id: string; label: string }[]; typed: Record<string, string> }>()
const emit = defineEmits<{ type: [id: string, text: string]; enter: [] }>()
</script>

<template>
  <div class="numbers">
    <label v-for="field in fields" :key="field.id" class="field">
      <span>{{ field.label }}</span>
      <input
        :value="typed[field.id] ?? ''"
        inputmode="decimal"
        autocomplete="off"
        maxlength="20"
        @input="emit('type', field.id, ($event.target as HTMLInputElement).value)"
        @keydown.enter="emit('enter')"
      />
    </label>
  </div>
</template>

<style scoped>
.numbers {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(110px, 1fr));
  gap: 10px 16px;
}
</style>
