<script setup lang="ts">
// One piece: how long, how wide, where it goes, and what is to be cut out of it.
import { computed } from 'vue'
import type { Schemas } from '../../core/core'
import { place, say } from '../../words/words'

const props = defineProps<{
  piece: Schemas['CuttingWorkPiece']
  want: Schemas['TakeoffWant']
  list: Schemas['OpsLayoutOne']
}>()

const lines = computed(() => {
  const { piece, want, list } = props
  const layers = list.layers
  return [
    ...(piece.again ? [say('cut.again')] : []),
    ...(piece.length_mm < want.length_mm
      ? [say('cut.part', { from: piece.from_mm, to: piece.to_mm, length: want.length_mm })]
      : []),
    ...(want.width_mm < list.width_mm ? [say('cut.trim', { width: want.width_mm })] : []),
    ...(want.kind === 'fold' ? [say('cut.fold')] : []),
    ...(want.disc_mm ? [say('cut.disc', { diameter: want.disc_mm })] : []),
    ...(want.strip && layers > 1 ? [say('cut.layer', { n: want.strip.layer, of: layers, row: want.strip.row })] : []),
    ...(want.bed ? [say('cut.bed_first', { n: want.bed })] : []),
  ]
})
</script>

<template>
  <section class="piece" :aria-label="say('cut.piece', { label: piece.label })">
    <h2>{{ say('cut.piece', { label: piece.label }) }}</h2>
    <p class="size">{{ say('cut.size', { length: piece.length_mm, width: want.width_mm }) }}</p>
    <p>{{ say(`cut.kind.${want.kind}`) }} · {{ place(want.place) }}</p>
    <p v-for="line in lines" :key="line">{{ line }}</p>
    <p v-for="hole in want.strip?.holes ?? []" :key="hole.fitting + hole.along_mm" class="hole">
      {{
        say('cut.hole', {
          fitting: hole.fitting,
          along: hole.along_mm,
          across: hole.across_mm,
          diameter: hole.diameter_mm,
        })
      }}
    </p>
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
.hole {
  font-weight: 600;
}
</style>
