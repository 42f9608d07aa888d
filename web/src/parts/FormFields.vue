<script setup lang="ts">
// Questions of a form all at once, each kept as it is typed; what is usual stands in the field
// until something else is typed.
import type { Schemas } from '../core/core'
import { fieldName, optionName, quantity, sayFault, unitName } from '../words/words'

type Question = Schemas['AskQuestion']

defineProps<{ questions: readonly Question[]; typed: Record<string, string> }>()
const emit = defineEmits<{ type: [id: string, text: string] }>()

const typeOf = (event: Event) => (event.target as HTMLInputElement | HTMLSelectElement).value
const usual = (q: Question) => (typeof q.args?.usual === 'string' ? q.args.usual : '')
const label = (q: Question) => {
  const unit = q.unit && q.kind !== 'date' ? unitName(q.unit) : ''
  return unit ? `${fieldName(q.id)}, ${unit}` : fieldName(q.id)
}
</script>

<template>
  <div class="fields">
    <div v-for="q in questions" :key="q.id">
      <label class="field" :class="{ wrong: q.state === 'wrong' }">
        <span>{{ label(q) }}</span>
        <select
          v-if="q.kind === 'choice'"
          :value="typed[q.id] || usual(q)"
          @change="emit('type', q.id, typeOf($event))"
        >
          <option v-if="!typed[q.id] && !usual(q)" value="" />
          <option v-for="option in q.options" :key="option" :value="option">{{ optionName(option, q.id) }}</option>
        </select>
        <input
          v-else
          :type="q.kind === 'date' ? 'date' : 'text'"
          :value="typed[q.id] ?? ''"
          :placeholder="q.assumed && q.kind !== 'date' ? quantity(q.value, '').trim() : ''"
          :inputmode="q.kind === 'number' || q.kind === 'count' ? 'decimal' : undefined"
          autocomplete="off"
          maxlength="60"
          @input="emit('type', q.id, typeOf($event))"
        />
      </label>
      <p v-if="q.state === 'wrong'" class="said" role="alert">{{ sayFault(q.fault!) }}</p>
    </div>
  </div>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(160px, 1fr));
  gap: 12px 18px;
}
select {
  width: 100%;
  min-height: 56px;
  border: 0;
  border-bottom: 2.5px solid var(--ink);
  background: var(--sheet);
  color: inherit;
  font: inherit;
  font-size: 20px;
  font-weight: 600;
}
</style>
