<script setup lang="ts">
// What a plan comes to, what is proven of it, and the search that may better it.
import { computed } from 'vue'
import type { Cut } from '../../core/searches'
import { say } from '../../words/words'

const props = defineProps<{ found: Cut | null; searching: boolean }>()
const emit = defineEmits<{ stop: []; search: [] }>()

const sums = computed(() => {
  const cut = props.found
  if (!cut) return ''
  const some = (n: number, none: string, many: string) => say(n ? many : none, { n })
  return [
    some(cut.rolls, 'cut.no_rolls', 'cut.rolls'),
    some(cut.joins, 'cut.joins.none', 'cut.joins'),
    ...(cut.rolls ? [say('cut.longest', { length: cut.longest_offcut_mm })] : []),
  ].join(', ')
})
const known = computed(() => {
  const proven = props.found?.proven
  if (!proven) return say('cut.loading')
  if (proven.longest_offcut) return say('cut.proven')
  if (proven.joins) return say('cut.proven.joins')
  if (proven.rolls) return say('cut.proven.rolls')
  return `${say('cut.unproven')} ${say('cut.bound', { n: props.found.lower_bound_rolls })}`
})
const THOUSAND = 1000
</script>

<template>
  <div class="plan no-print">
    <p>
      <strong class="sums">{{ sums }}</strong>
    </p>
    <p>{{ known }}</p>
    <div v-if="searching" class="going" role="status">
      <span>{{ say('cut.searching', { n: Math.round((found?.steps ?? 0) / THOUSAND) }) }}</span>
      <button class="outline narrow" @click="emit('stop')">{{ say('cut.stop') }}</button>
    </div>
    <button v-else-if="found?.from" class="outline narrow" @click="emit('search')">{{ say('cut.search') }}</button>
  </div>
</template>

<style scoped>
.plan {
  display: grid;
  gap: 6px;
  justify-items: start;
}
.sums {
  font-size: 22px;
}
.going {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 16px;
}
</style>
