<script setup lang="ts">
// The frame, the same on every screen: spine left, head above, ledge below. On a phone the
// spine lies across the top.
import type { Crew } from '../data/book'
import TopHead from './TopHead.vue'

// tall: the ledge holds a control; bare: it has nothing to hold on a wide screen; asks: on a phone the keys of
// a number need the second line of the head.
defineProps<{ tall?: boolean; bare?: boolean; asks?: boolean; crew?: Crew }>()
</script>

<template>
  <div class="frame" :class="{ tall, bare, asks }">
    <aside class="spine"><slot name="spine" /></aside>
    <header class="head">
      <TopHead :crew="crew">
        <slot name="title" />
        <template #line><slot name="line" /></template>
        <template #mark><slot name="mark" /></template>
      </TopHead>
    </header>
    <main class="body"><slot /></main>
    <footer class="ledge"><slot name="ledge" /></footer>
  </div>
</template>

<style scoped>
.frame {
  display: grid;
  height: 100%;
  grid-template: minmax(84px, auto) minmax(0, 1fr) auto / 168px minmax(0, 1fr);
  grid-template-areas: 'spine head' 'spine body' 'spine ledge';
}
.frame.tall {
  grid-template-rows: minmax(84px, auto) minmax(0, 1fr) auto;
}
.frame.bare {
  grid-template-rows: minmax(84px, auto) minmax(0, 1fr) 0;
}
.bare .ledge {
  display: none;
}
.spine {
  grid-area: spine;
  background: var(--ground);
  min-height: 0;
}
.head {
  grid-area: head;
  padding: 0 24px;
}
.body {
  grid-area: body;
  min-height: 0;
  overflow: hidden;
  position: relative;
}
.ledge {
  grid-area: ledge;
  background: var(--ground);
  border-top: 2.4px solid var(--ink);
  min-width: 0;
}
:root.narrow .frame,
:root.narrow .frame.tall,
:root.narrow .frame.bare {
  grid-template: 58px auto minmax(0, 1fr) auto / minmax(0, 1fr);
  grid-template-areas: 'spine' 'head' 'body' 'ledge';
}
:root.lying .frame {
  grid-template-columns: 84px minmax(0, 1fr);
}
:root.narrow .head {
  padding: 6px 16px;
}
:root.phone .asks .head :deep(.line),
:root.phone .asks .head :deep(.kept),
:root.phone .asks .head :deep(.who),
:root.phone .asks .head :deep(.help),
:root.phone .asks .head :deep(.theme),
:root.slim .asks .ledge :deep(.facts) {
  display: none;
}
:root.narrow .body,
:root.low .body {
  overflow: auto;
}
@media print {
  .frame {
    display: block;
    height: auto;
  }
  .spine,
  .ledge {
    display: none;
  }
}
</style>
