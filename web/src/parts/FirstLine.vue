<script setup lang="ts">
// A line for whoever is here for the first time. It leaves by itself, and for good, once what it says was done.
import { useLocalStorage } from '@vueuse/core'
import { computed, watch } from 'vue'
import { say } from '../words/words'

// count: how much of it there is; more of it than before is it done.
const props = defineProps<{ of: string; count: number }>()
const known = useLocalStorage<string[]>('first-lines', [])
const shown = computed(() => !known.value.includes(props.of))
watch(
  () => props.count,
  (now, before) => {
    if (now > before && shown.value) known.value = [...known.value, props.of]
  },
)
</script>

<template>
  <p v-if="shown" class="first">{{ say(`first.${of}`) }}</p>
</template>

<style scoped>
.first {
  padding: 8px 12px;
  border-left: 6px solid var(--lime-edge);
  background: var(--sunk);
}
</style>
