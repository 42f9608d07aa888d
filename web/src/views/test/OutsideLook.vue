<script setup lang="ts">
// What is seen outside: dry, damp or wet, where, and of something damp whether it was there before.
import { say } from '../../words/words'

defineProps<{ typed: Record<string, string>; before: boolean }>()
const emit = defineEmits<{ type: [id: string, text: string] }>()
</script>

<template>
  <div role="radiogroup" :aria-label="say('field.outside')" class="outside">
    <button
      v-for="each in ['dry', 'damp', 'wet']"
      :key="each"
      class="outline narrow"
      role="radio"
      :aria-checked="typed.outside === each"
      :class="{ picked: typed.outside === each }"
      @click="emit('type', 'outside', each)"
    >
      {{ say(`test.outside.${each}`) }}
    </button>
  </div>
  <div v-if="typed.outside === 'damp' && !before" role="radiogroup" :aria-label="say('test.damp')" class="outside">
    <button
      v-for="each in ['as_before', 'new', 'grown']"
      :key="each"
      class="outline narrow"
      role="radio"
      :aria-checked="typed.damp === each"
      :class="{ picked: typed.damp === each }"
      @click="emit('type', 'damp', each)"
    >
      {{ say(`test.damp.${each}`) }}
    </button>
  </div>
  <label v-if="typed.outside && typed.outside !== 'dry'" class="field">
    <span>{{ say('test.read.where') }}</span>
    <input
      :value="typed.where ?? ''"
      maxlength="200"
      autocomplete="off"
      @input="emit('type', 'where', ($event.target as HTMLInputElement).value)"
    />
  </label>
</template>

<style scoped>
.outside {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 8px;
}
.picked {
  background: var(--ink);
  color: var(--sheet);
}
</style>
