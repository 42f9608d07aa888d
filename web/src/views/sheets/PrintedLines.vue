<script setup lang="ts">
// Figures of a sheet as they are printed, one a line; the one that is asked is marked.
import type { Schemas } from '../../core/core'
import { fieldName, itemOf, say, sayFault } from '../../words/words'

type Question = Schemas['AskQuestion']

defineProps<{
  questions: readonly Question[]
  asking: string
  valueOf: (q: Question) => string
  reading: (q: Question) => string
}>()
const emit = defineEmits<{ ask: [id: string]; away: [item: string] }>()
</script>

<template>
  <ul>
    <li v-for="q in questions" :key="q.id">
      <button
        class="row figure"
        :aria-current="q.id === asking"
        :class="{ here: q.id === asking }"
        @click="emit('ask', q.id)"
      >
        <span class="grow">{{ fieldName(q.id) }}</span>
        <span v-if="reading(q)" class="small">{{ reading(q) }}</span>
        <strong :class="{ wrong: q.state === 'wrong' }">{{ valueOf(q) }}</strong>
      </button>
      <p v-if="q.state === 'wrong' && q.id !== asking" class="said">{{ sayFault(q.fault!) }}</p>
      <button v-if="q.id.endsWith('.size')" class="outline narrow away" @click="emit('away', itemOf(q.id))">
        {{ say('sheet.pack_away', { n: q.args?.pack }) }}
      </button>
    </li>
  </ul>
</template>

<style scoped>
.figure strong {
  font-size: 19px;
  text-align: end;
}
.figure .small {
  white-space: nowrap;
}
.here {
  background: var(--sunk);
}
.wrong {
  color: var(--plum7);
}
.away {
  margin: 6px 0;
}
</style>
