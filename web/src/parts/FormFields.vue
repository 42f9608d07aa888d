<script setup lang="ts">
// Questions of a form all at once, each kept as it is typed; what is usual stands in the field
// until something else is typed.
import type { Schemas } from '../core/core'
import OneOf from './OneOf.vue'
import { fieldName, optionName, quantity, sayFault, unitName } from '../words/words'

type Question = Schemas['AskQuestion']

defineProps<{ questions: readonly Question[]; typed: Record<string, string> }>()
const emit = defineEmits<{ type: [id: string, text: string] }>()

const usual = (q: Question) => (typeof q.args?.usual === 'string' ? q.args.usual : '')
const label = (q: Question) => {
  const unit = q.unit && q.kind !== 'date' ? unitName(q.unit) : ''
  return unit ? `${fieldName(q.id)}, ${unit}` : fieldName(q.id)
}
</script>

<template>
  <div class="fields">
    <div v-for="q in questions" :key="q.id">
      <OneOf
        v-if="q.kind === 'choice'"
        v-slot="{ option }"
        class="wrapped"
        titled
        look="outline narrow"
        :options="q.options ?? []"
        :picked="typed[q.id] || usual(q)"
        :label="label(q)"
        @pick="(option: string) => emit('type', q.id, option)"
      >
        {{ optionName(option, q.id) }}
      </OneOf>
      <v-text-field
        v-else
        :label="label(q)"
        :error="q.state === 'wrong'"
        :type="q.kind === 'date' ? 'date' : 'text'"
        :model-value="typed[q.id] ?? ''"
        :placeholder="q.assumed && q.kind !== 'date' ? quantity(q.value, '').trim() : ''"
        :inputmode="q.kind === 'number' || q.kind === 'count' ? 'decimal' : undefined"
        autocomplete="off"
        maxlength="60"
        @update:model-value="emit('type', q.id, $event)"
      />
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
</style>
