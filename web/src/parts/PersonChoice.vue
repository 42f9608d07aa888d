<script setup lang="ts">
// Who of the job's people: names as rows for gloves.
import { useBook, type Job } from '../data/book'
import OneOf from './OneOf.vue'

const props = defineProps<{ people: Job['people']; label: string; roles?: boolean }>()
const person = defineModel<string>({ required: true })
const book = useBook()
const roleOf = (id: string) => props.people.find((each) => each.id === id)?.role ?? ''
</script>

<template>
  <OneOf
    v-slot="{ option }"
    titled
    look="row"
    :options="people.map((each) => each.id)"
    :picked="person"
    :label="label"
    @pick="(id) => (person = id)"
  >
    <span class="grow">{{ book.names[option] || roleOf(option) }}</span>
    <span v-if="roles" class="small">{{ roleOf(option) }}</span>
  </OneOf>
</template>
