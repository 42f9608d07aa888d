<script setup lang="ts">
// One piece: how long, how wide, where it goes, and what is to be cut out of it.
import { computed } from 'vue'
import type { Schemas } from '../../core/core'
import { place, say } from '../../words/words'

const props = defineProps<{
  piece: Schemas['CuttingWorkPiece']
  want: Schemas['TakeoffWant']
}>()

const lines = computed(() => {
  const { piece, want } = props
  return [
    ...(piece.again ? [say('cut.again')] : []),
    ...(piece.length_mm < want.length_mm
      ? [say('cut.part', { from: piece.from_mm, to: piece.to_mm, length: want.length_mm })]
      : []),
    ...want.notes.map((note) => say(note.key, note.args ?? {})),
  ]
})
</script>

<template>
  <section class="piece" :aria-label="say('cut.piece', { label: piece.label })">
    <h2>{{ say('cut.piece', { label: piece.label }) }}</h2>
    <p class="size">{{ say('cut.size', { length: piece.length_mm, width: want.width_mm }) }}</p>
    <p>{{ say(`cut.kind.${want.kind}`) }} · {{ place(want.place) }}</p>
    <p v-for="line in lines" :key="line">{{ line }}</p>
  </section>
</template>

<style scoped>
.piece {
  display: grid;
  gap: 4px;
}
.size {
  font-size: 34px;
  font-weight: 720;
  font-feature-settings: 'tnum';
}
</style>
