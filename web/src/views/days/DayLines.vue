<script setup lang="ts">
// The days in words: who does what where, from when to when. Each line can be touched.
import { computed } from 'vue'
import { say } from '../../words/words'
import { dayOf } from '../../words/zone'
import { titleOf, type Row } from './useDays'

const props = defineProps<{
  rows: readonly Row[]
  chain: readonly string[]
  crews: readonly { id: string; name: string }[]
  touched: string
}>()
const emit = defineEmits<{ touch: [id: string] }>()
const days = computed(() => [...Map.groupBy(props.rows, (row) => dayOf(new Date(row.start)))])
const isSameDay = (row: Row) => dayOf(new Date(row.start)) === dayOf(new Date(row.end))
const nameOf = (crew: string) => props.crews.find((each) => each.id === crew)?.name ?? say('days.alone')
</script>

<template>
  <section v-for="[day, list] in days" :key="day" class="day">
    <h2 class="sub">{{ say('days.day', { at: `${day}T12:00:00` }) }}</h2>
    <button
      v-for="row in list"
      :key="row.id"
      class="row"
      :class="{ chosen: touched === row.id }"
      :aria-pressed="touched === row.id"
      @click="emit('touch', row.id)"
    >
      <strong class="time">{{
        say(isSameDay(row) ? 'days.row' : 'days.row.over', { at: row.start, end: row.end })
      }}</strong>
      <span class="grow">
        <strong>{{ titleOf(row) }}</strong>
        <span class="small"
          >{{ row.name }} · {{ nameOf(row.crew) }}{{ row.hold ? ` · ${say('hold.shut')}` : ''
          }}{{ chain.includes(row.id) ? ` · ${say('days.holds_end')}` : '' }}</span
        >
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
