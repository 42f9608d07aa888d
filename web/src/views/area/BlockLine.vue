<script setup lang="ts">
// What stands before a step, and the way past it: with a name and a reason.
import { ref } from 'vue'
import { say } from '../../words/words'
import OverrideSheet from './OverrideSheet.vue'
import { isShut, useArea, type Step } from './useArea'

defineProps<{ step: Step }>()
const { look } = useArea()
const overriding = ref(false)
</script>

<template>
  <div v-if="step.block" class="said block">
    <p v-if="step.block.kind === 'wait'">
      {{ step.opens_at ? say('step.waiting', { at: step.opens_at }) : say(look.next.why, look.next.args ?? {}) }}
    </p>
    <p v-else-if="step.block.kind === 'not_known'">{{ say('step.not_known') }}</p>
    <p v-else-if="step.block.kind === 'short'">{{ say('step.short', { name: step.block.title }) }}</p>
    <p v-else>{{ say('step.behind', { hold: step.block.title }) }}</p>
    <button v-if="step.block.kind !== 'earlier'" class="outline narrow" @click="overriding = true">
      {{ isShut(step) ? say('override') : say('override.wait') }}
    </button>
  </div>
  <OverrideSheet
    v-if="overriding && step.block"
    :step="step.block.step"
    :title="step.block.kind === 'short' ? step.title : step.block.title"
    @close="overriding = false"
  />
</template>

<style scoped>
.block {
  display: grid;
  gap: 10px;
  justify-items: start;
}
</style>
