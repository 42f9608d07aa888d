<script setup lang="ts">
// One figure as it is printed: a number with its range and unit, or one answer of a few. The units
// it is read in stand below as keys.
import { computed, nextTick, ref, watch } from 'vue'
import type { Schemas } from '../../core/core'
import OneOf from '../../parts/OneOf.vue'
import { fieldName, optionName, unitName } from '../../words/words'

const props = defineProps<{ question: Schemas['AskQuestion']; text: string; wrong?: boolean }>()
const emit = defineEmits<{ type: [text: string]; enter: []; answer: [text: string] }>()

const field = ref<HTMLInputElement>()
const isChoice = computed(() => props.question.kind === 'choice')
const options = computed(() => (props.question.options ?? []).filter((option) => option !== '-'))
/** The spellings that a gloved hand chooses from: the first few, each once. */
const units = computed(() => {
  const list = options.value.length ? options.value : []
  return [...new Set(list.map((unit) => unitName(unit)))].slice(0, 10)
})

watch(
  () => props.question.id,
  () => void nextTick(() => matchMedia('(pointer: fine)').matches && field.value?.focus()),
  { immediate: true },
)

function put(unit: string): void {
  const number = props.text.replace(/\s*[^\d.,\s–-].*$/, '').trim()
  emit('type', `${number} ${unit}`.trim())
  field.value?.focus()
}
</script>

<template>
  <OneOf
    v-if="isChoice"
    look="row"
    :options="options"
    :picked="text"
    :label="fieldName(question.id)"
    @pick="(option) => emit('answer', option)"
  >
    <template #default="{ option }">
      <strong>{{ optionName(option, question.id) }}</strong>
    </template>
  </OneOf>
  <div v-else class="printed">
    <input
      ref="field"
      :value="text === '-' ? '' : text"
      :aria-label="fieldName(question.id)"
      :class="{ wrong }"
      :type="question.kind === 'date' ? 'date' : 'text'"
      :inputmode="question.kind === 'number' ? 'decimal' : undefined"
      autocomplete="off"
      spellcheck="false"
      maxlength="80"
      @input="emit('type', ($event.target as HTMLInputElement).value)"
      @keydown.enter.prevent="emit('enter')"
    />
    <div v-if="question.kind === 'stated' && units.length > 1" class="units">
      <button v-for="unit in units" :key="unit" type="button" class="outline narrow" @click="put(unit)">
        {{ unit }}
      </button>
    </div>
    <span v-else-if="question.unit && question.kind !== 'date'" class="small">{{ unitName(question.unit) }}</span>
  </div>
</template>

<style scoped>
.printed {
  display: grid;
  gap: 10px;
}
input {
  width: 100%;
  min-height: 64px;
  padding: 6px 14px;
  font-size: 34px;
  font-weight: 700;
  background: var(--sheet);
  border: 2.5px solid var(--ink);
  border-radius: 3px;
}
.wrong {
  border-color: var(--plum7);
}
.units {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.units .outline {
  min-width: 62px;
}
</style>
