<script setup lang="ts">
// A second sheet that slides over the right part; the drawing stays in sight. Vuetify keeps
// the focus inside and gives it back.
import { useEventListener } from '@vueuse/core'
import { say } from '../words/words'
import { useBackCloses } from './useBackCloses'

defineProps<{ title: string }>()
const emit = defineEmits<{ close: [] }>()
useBackCloses(() => emit('close'))

/** A press in a sheet that lay over this one, and went with it, is none beside this one. */
let inSheet = false
const noted = { capture: true }
useEventListener(
  window,
  'pointerdown',
  (event) => (inSheet = event.target instanceof Element && !!event.target.closest('.side-sheet')),
  noted,
)
useEventListener(window, 'keydown', () => (inSheet = false), noted)
</script>

<template>
  <v-dialog
    :model-value="true"
    :scrim="false"
    :close-on-back="false"
    transition="slide-sheet"
    content-class="side-sheet"
    aria-labelledby="side-sheet-title"
    @update:model-value="(open: boolean) => open || inSheet || emit('close')"
  >
    <section class="sheet">
      <header>
        <h2 id="side-sheet-title">{{ title }}</h2>
        <button class="outline narrow" @click="emit('close')">{{ say('close') }}</button>
      </header>
      <div class="scroll inner"><slot /></div>
      <footer v-if="$slots.action"><slot name="action" /></footer>
    </section>
  </v-dialog>
</template>

<style>
.v-dialog > .v-overlay__content.side-sheet {
  position: fixed;
  inset: 0 0 0 auto;
  margin: 0;
  width: min(460px, 100%);
  height: 100%;
  max-height: none;
}
.slide-sheet-enter-active,
.slide-sheet-leave-active {
  transition: transform 240ms var(--ease);
}
.slide-sheet-enter-from,
.slide-sheet-leave-to {
  transform: translateX(100%);
}
</style>
<style scoped>
.sheet {
  height: 100%;
  display: grid;
  grid-template-rows: auto minmax(0, 1fr) auto;
  background: var(--sheet);
  border-inline-start: 2.4px solid var(--ink);
}
header button {
  flex: none;
}
header {
  display: flex;
  justify-content: space-between;
  gap: 16px;
  align-items: center;
  padding: 14px 24px;
  border-bottom: 2.4px solid var(--ink);
}
.inner {
  padding: 20px 24px;
  display: grid;
  gap: 20px;
  align-content: start;
}
footer {
  display: flex;
  justify-content: space-between;
  gap: 16px;
  padding: 14px 24px;
  border-top: 2.4px solid var(--ink);
  background: var(--ground);
}
</style>
