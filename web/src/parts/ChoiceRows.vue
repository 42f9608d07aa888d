<script setup lang="ts">
// Answers to pick from as large rows; how each is worded is the slot's.
defineProps<{ options: readonly string[]; picked: string; label: string }>()
const emit = defineEmits<{ pick: [option: string] }>()
</script>

<template>
  <ul role="radiogroup" :aria-label="label">
    <li v-for="option in options" :key="option" role="presentation">
      <button
        class="row"
        role="radio"
        :aria-checked="picked === option"
        :class="{ chosen: picked === option }"
        @click="emit('pick', option)"
      >
        <slot :option="option" />
      </button>
    </li>
  </ul>
</template>
