<script setup lang="ts">
// A list, and beside it the one thing that is touched. On a phone they lie over each other: the
// list first, the thing first, or the thing alone.
import { nextTick, ref, watch } from 'vue'

const props = defineProps<{ width?: string; phone: 'list-first' | 'side-first' | 'side-alone' }>()
const host = ref<HTMLElement>()
const scroller = () => {
  let at: HTMLElement | null | undefined = host.value
  while (at && at.scrollHeight <= at.clientHeight) at = at.parentElement
  return at
}
/** How far the list was scrolled when the thing alone was shown: coming back it stands there again. */
let list = 0
watch(
  () => props.phone,
  async (now) => {
    if (now === 'side-alone') list = scroller()?.scrollTop ?? 0
    await nextTick()
    scroller()?.scrollTo({ top: now === 'side-alone' ? 0 : list })
  },
)
</script>

<template>
  <div ref="host" class="sides" :class="phone" :style="{ '--side': width ?? 'minmax(0, 1fr)' }">
    <div class="scroll list"><slot /></div>
    <div class="scroll side"><slot name="side" /></div>
  </div>
</template>

<style scoped>
.sides {
  height: 100%;
  display: grid;
  grid-template-columns: minmax(0, 1fr) var(--side);
}
.list,
.side {
  padding: 14px 24px 40px;
  display: grid;
  gap: 16px;
  align-content: start;
}
.side {
  border-inline-start: 2.4px solid var(--ink);
}
:root.narrow .sides {
  display: flex;
  flex-direction: column;
  height: auto;
}
:root.narrow .sides.side-first {
  flex-direction: column-reverse;
}
:root.narrow .side-alone .list {
  display: none;
}
:root.narrow .sides > .side {
  border: 0;
  border-block: 2.4px solid var(--ink);
  padding-block: 14px;
}
@media print {
  .sides {
    display: block;
    height: auto;
  }
}
</style>
