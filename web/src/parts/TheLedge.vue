<script setup lang="ts">
// The ledge: facts left, one outline button, one mitre button. Errors, questions and undo
// speak here and nowhere else.
import { computed } from 'vue'
import { useBook } from '../data/book'
import { useClock } from '../data/useClock'
import { say } from '../words/words'

// tall: it holds a control
defineProps<{ error?: string; tall?: boolean }>()

const book = useBook()
const now = useClock()
const undoable = computed(() => {
  const last = book.last
  return last && now.value.getTime() < last.until ? last : null
})
</script>

<template>
  <div class="ledge" :class="{ tall }">
    <div class="says" :class="{ over: tall }" aria-live="polite">
      <p v-if="error" class="error" role="alert">{{ error }}</p>
      <div v-else-if="undoable" class="undo">
        <p>{{ say('undo.line', { what: say(undoable.key, undoable.args) }) }}</p>
      </div>
      <slot v-else name="facts" />
      <slot name="tool" />
    </div>
    <button v-if="undoable && !error" class="outline" @click="book.undo()">{{ say('undo') }}</button>
    <slot name="outline" />
    <slot name="mitre" />
  </div>
</template>

<style scoped>
.ledge {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  justify-content: end;
  gap: 8px 16px;
  min-height: 84px;
  padding: 5px 8px 5px 24px;
}
.says {
  flex: 1 1 200px;
  min-width: 0;
}
/* Over a control the line keeps its place, said or not: a drawing does not move between two readings. */
.over > :first-child {
  min-height: 30px;
  padding-block: 2px;
}
.error {
  padding: 8px 14px;
  border-inline-start: 8px solid var(--amber7);
  background: var(--amber1);
  font-weight: 600;
  line-height: 1.25;
}
.undo p {
  font-weight: 650;
}
:root.phone .ledge {
  flex-wrap: wrap;
  gap: 8px;
  padding: 6px 12px;
}
:root.phone:not(.low) .says {
  flex-basis: 100%;
}
:root.low .ledge.tall {
  flex-wrap: nowrap;
}
</style>
