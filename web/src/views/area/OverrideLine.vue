<script setup lang="ts">
// Going on without a hold lies apart from releasing it: at the end of what is read, never beside the key that does.
import { ref } from 'vue'
import { say } from '../../words/words'
import OverrideSheet from './OverrideSheet.vue'
import type { Step } from './useArea'

defineProps<{ step: Step }>()
const asking = ref(false)
</script>

<template>
  <div class="apart">
    <p class="small">{{ say('override.apart') }}</p>
    <button class="outline narrow" @click="asking = true">{{ say('override') }}</button>
    <OverrideSheet v-if="asking" :step="step.id" :title="step.title" @close="asking = false" />
  </div>
</template>

<style scoped>
.apart {
  display: grid;
  gap: 8px;
  justify-items: start;
  margin-top: 28px;
  padding-top: 12px;
  border-top: 1.5px dashed var(--line);
}
</style>
