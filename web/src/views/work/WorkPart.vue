<script setup lang="ts">
// What a step has to lay and to answer, side by side; what is done says so. A work has its own panel, the other tab is the slot's.
import OneOf from '../../parts/OneOf.vue'
import { say } from '../../words/words'
import BlockLine from '../area/BlockLine.vue'
import type { Step } from '../area/useArea'
import StartList from '../waits/StartList.vue'
import type { useWorks } from './useWorks'
import WorkPanel from './WorkPanel.vue'

defineProps<{ step: Step; of: ReturnType<typeof useWorks>; starts: boolean }>()
const emit = defineEmits<{ error: [text: string]; laid: [] }>()
</script>

<template>
  <BlockLine :step="step" />
  <OneOf
    v-if="of.tabs.value.length > 1"
    v-slot="{ option }"
    class="tabs"
    of="tab"
    look="outline narrow"
    :options="of.tabs.value"
    :picked="of.tab.value"
    :label="say('work.what')"
    @pick="(id: string) => of.show(id)"
  >
    {{ of.named(option) }}<span v-if="of.doneAt(option)" class="small">{{ say('work.done') }}</span>
  </OneOf>
  <StartList v-if="starts" :step="step" />
  <WorkPanel
    v-if="of.work.value"
    :key="of.tab.value"
    :step="step"
    :work="of.work.value"
    :name="of.named(of.tab.value)"
    :chosen="of.chosen.value"
    @choose="of.choose"
    @error="(text) => emit('error', text)"
    @laid="emit('laid')"
  />
  <slot v-else />
</template>

<style scoped>
.tabs {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.tabs > :deep(button) {
  flex: 1 1 auto;
}
.small {
  display: block;
}
</style>
