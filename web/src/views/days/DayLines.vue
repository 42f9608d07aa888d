<script setup lang="ts">
// The days in words: who does what where, from when to when. Each line can be touched.
import { computed } from 'vue'
import { say } from '../../words/words'
import { dayOf } from '../../words/zone'
import type { Row } from './useDays'

const props = defineProps<{ rows: readonly Row[]; crews: readonly { id: string; name: string }[]; touched: string }>()
const emit = defineEmits<{ touch: [id: string] }>()
const days = computed(() => [...Map.groupBy(props.rows, (row) => dayOf(new Date(row.start)))])
const nameOf = (crew: string) => props.crews.find((each) => each.id === crew)?.name ?? say('days.alone')
</script>

<template>
  <section v-for="[day, list] in days" :key="day" class="day">
    <h2 class="sub">{{ say('days.day', { at: `${day}T12:00:00` }) }}</h2>
    <button
      v-for="row in list"
      :key="`${row.area} ${row.step}`"
      class="row"
      :class="{ chosen: touched === `${row.area} ${row.step}` }"
      :aria-pressed="touched === `${row.area} ${row.step}`"
      @click="emit('touch', `${row.area} ${row.step}`)"
    >
      <strong class="time">{{ say('days.row', { at: row.start, end: row.end }) }}</strong>
      <span class="grow">
        <strong>{{ row.title }}</strong>
        <span class="small">{{ row.name }} · {{ nameOf(row.crew) }}{{ row.hold ? ` · ${say('hold.shut')}` : '' }}</span>
        <span v-if="row.lacks.length" class="small lacks">{{ say('days.lacks', { what: row.lacks }) }}</span>
      </span>
    </button>
  </section>
</template>

<style scoped>
.time {
  flex: none;
  width: 116px;
  font-feature-settings: 'tnum';
}
.small {
  display: block;
}
.lacks {
  color: var(--plum7);
}
</style>
