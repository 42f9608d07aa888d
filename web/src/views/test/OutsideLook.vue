<script setup lang="ts">
// What is seen outside: dry, damp or wet, where, and of something damp whether it was there before.
import OneOf from '../../parts/OneOf.vue'
import { say } from '../../words/words'

defineProps<{ typed: Record<string, string>; before: boolean }>()
const emit = defineEmits<{ type: [id: string, text: string] }>()
</script>

<template>
  <OneOf
    v-slot="{ option }"
    class="outside"
    look="outline narrow"
    :options="['dry', 'damp', 'wet']"
    :picked="typed.outside"
    :label="say('field.outside')"
    @pick="(seen) => emit('type', 'outside', seen)"
  >
    {{ say(`test.outside.${option}`) }}
  </OneOf>
  <OneOf
    v-if="typed.outside === 'damp' && !before"
    v-slot="{ option }"
    class="outside"
    look="outline narrow"
    :options="['as_before', 'new', 'grown']"
    :picked="typed.damp"
    :label="say('test.damp')"
    @pick="(damp) => emit('type', 'damp', damp)"
  >
    {{ say(`test.damp.${option}`) }}
  </OneOf>
  <v-text-field
    v-if="typed.outside && typed.outside !== 'dry'"
    :label="say('test.read.where')"
    :model-value="typed.where ?? ''"
    maxlength="200"
    autocomplete="off"
    @update:model-value="emit('type', 'where', $event)"
  />
</template>

<style scoped>
.outside {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 8px;
}
</style>
