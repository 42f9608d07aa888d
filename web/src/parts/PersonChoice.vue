<script setup lang="ts">
// Who of the job's people: names as rows for gloves.
import { useBook, type Job } from '../data/book'

defineProps<{ people: Job['people']; label: string; roles?: boolean }>()
const person = defineModel<string>({ required: true })
const book = useBook()
</script>

<template>
  <div role="radiogroup" :aria-label="label">
    <p class="small">{{ label }}</p>
    <button
      v-for="each in people"
      :key="each.id"
      class="row"
      role="radio"
      :aria-checked="person === each.id"
      :class="{ chosen: person === each.id }"
      @click="person = each.id"
    >
      <span class="grow">{{ book.names[each.id] || each.role }}</span>
      <span v-if="roles" class="small">{{ each.role }}</span>
    </button>
  </div>
</template>
