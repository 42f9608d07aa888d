<script setup lang="ts">
// One line to confirm, as a row for gloves.
defineProps<{ label: string; checked: boolean; disabled?: boolean }>()
const emit = defineEmits<{ toggle: [] }>()
</script>

<template>
  <button class="row" role="checkbox" :aria-checked="checked" :disabled="disabled" @click="emit('toggle')">
    <svg viewBox="0 0 28 28" width="32" height="32" aria-hidden="true">
      <rect x="2" y="2" width="24" height="24" fill="none" stroke="var(--ink)" stroke-width="2.6" />
      <path v-if="checked" d="M7 14l5 6 10-12" fill="none" stroke="var(--ink)" stroke-width="3.4" />
    </svg>
    <span class="grow line">{{ label }}</span>
  </button>
</template>

<style scoped>
svg {
  flex: none;
}
.line {
  font-size: 20px;
  font-weight: 650;
}
</style>
