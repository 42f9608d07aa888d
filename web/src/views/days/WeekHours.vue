<script setup lang="ts">
// Hours of a week, stretch by stretch: from, to, and on which days; or stretches of one day.
import { computed } from 'vue'
import { toggled } from '../../data/toggled'
import { say } from '../../words/words'
import { stretches } from './week'

const props = defineProps<{ typed: Record<string, string>; of?: 'weather.rain' }>()
const emit = defineEmits<{ type: [field: string, text: string] }>()
const rows = computed(() => stretches(props.typed))
const daysOf = (n: string) => (props.typed[`hours.${n}.days`] ?? '').split(' ').filter(Boolean)
/** A Monday and the days after it, for their names. */
const MONDAY = 5
const nameOf = (day: number) => say('crews.weekday', { at: new Date(2026, 0, MONDAY + day - 1, 12).toISOString() })
const toggle = (n: string, day: number) =>
  emit('type', `hours.${n}.days`, toggled(daysOf(n), String(day)).toSorted().join(' '))
function more(): void {
  const next = Math.max(0, ...rows.value.map(Number)) + 1
  emit('type', 'hours', [...rows.value, next].join(' '))
}
const less = (n: string) => emit('type', 'hours', rows.value.filter((each) => each !== n).join(' '))
</script>

<template>
  <section v-for="n in rows" :key="n" class="stretch">
    <v-text-field
      v-for="end in ['from', 'to'] as const"
      :key="end"
      type="time"
      :label="say(`crews.${end}`)"
      :model-value="typed[`hours.${n}.${end}`] ?? ''"
      @update:model-value="(text: string) => emit('type', `hours.${n}.${end}`, text)"
    />
    <div v-if="!of" class="days" role="group" :aria-label="say('crews.weekdays')">
      <button
        v-for="day in 7"
        :key="day"
        class="outline narrow"
        :aria-pressed="daysOf(n).includes(String(day))"
        @click="toggle(n, day)"
      >
        {{ nameOf(day) }}
      </button>
    </div>
    <button class="outline narrow" @click="less(n)">{{ say(`${of ?? 'crews.hours'}.less`) }}</button>
  </section>
  <button class="outline narrow" @click="more">{{ say(`${of ?? 'crews.hours'}.more`) }}</button>
</template>

<style scoped>
.stretch {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 8px;
  padding-bottom: 12px;
  border-bottom: 1.5px solid var(--line);
}
.days {
  grid-column: 1 / -1;
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.days .outline {
  min-width: 56px;
}
.days .outline[aria-pressed='true'] {
  background: var(--ink);
  color: var(--sheet);
}
</style>
