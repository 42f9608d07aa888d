<script setup lang="ts">
// All numbers of a survey beside the drawing: what was typed, what stands as usual, what is
// missing. Items of a list can be added and taken away.
import { computed } from 'vue'
import { fieldName, itemOf, optionName, quantity, say } from '../../words/words'
import type { Question } from './useSurvey'

const props = defineProps<{
  questions: Question[]
  asking: string
  editing: boolean
  toCheck: (q: Question) => boolean
}>()
const emit = defineEmits<{ ask: [id: string]; add: [list: Question]; remove: [list: Question, item: string] }>()

function valueOf(q: Question): string {
  if (q.state !== 'answered') return q.typed || '?'
  if (q.kind === 'choice') {
    const usual = typeof q.args?.usual === 'string' ? q.args.usual : ''
    const picked = q.typed || usual
    return picked ? optionName(picked, q.id) : '–'
  }
  if (q.kind === 'text') return q.typed.length > 24 ? `${q.typed.slice(0, 24)}…` : q.typed
  return quantity(q.value, q.unit ?? '')
}

/** Questions with a heading before the first of each item. */
const lines = computed(() => {
  let last = ''
  return props.questions.map((q) => {
    const item = itemOf(q.id)
    const first = item !== '' && item !== last && !item.startsWith('pipes.')
    last = item
    return { q, item: first ? item : '' }
  })
})
const listOf = (item: string) => props.questions.find((q) => q.id === item.split('.')[0])
const itemName = (item: string) => {
  const [list = '', n = ''] = item.split('.')
  return say(`ask.${list}.item`, { n })
}
</script>

<template>
  <ul>
    <li v-for="{ q, item } in lines" :key="q.id">
      <div v-if="item" class="item">
        <strong>{{ itemName(item) }}</strong>
        <button
          v-if="editing && listOf(item)"
          class="outline narrow"
          @click="emit('remove', listOf(item)!, item.split('.')[1]!)"
        >
          {{ say('survey.remove') }}
          <span class="visually-hidden">{{ itemName(item) }}</span>
        </button>
      </div>
      <button v-if="q.kind === 'list'" class="row" :disabled="!editing" @click="emit('add', q)">
        <span class="grow">{{ fieldName(q.id) }}</span>
        <strong v-if="editing">{{ say(`ask.${q.id}.add`) }}</strong>
        <strong v-else>{{ q.value || say('survey.none') }}</strong>
      </button>
      <button
        v-else
        class="row"
        :class="{ assumed: q.assumed }"
        :disabled="!editing"
        :aria-current="q.id === asking && editing"
        @click="emit('ask', q.id)"
      >
        <span class="grow">{{ fieldName(q.id) }}</span>
        <span v-if="toCheck(q)" class="small">{{ say('survey.check') }}</span>
        <strong>{{ valueOf(q) }}</strong>
      </button>
    </li>
  </ul>
</template>

<style scoped>
.item {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 12px;
  padding-top: 18px;
  font-size: 20px;
}
.assumed strong {
  font-weight: 450;
  color: var(--ink2);
}
</style>
