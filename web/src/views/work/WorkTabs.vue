<script setup lang="ts">
// What a step has to lay and to answer, side by side; what is done says so.
import OneOf from '../../parts/OneOf.vue'
import { say } from '../../words/words'

defineProps<{ tabs: readonly string[]; tab: string; named: (id: string) => string; done: (id: string) => boolean }>()
const emit = defineEmits<{ show: [tab: string] }>()
</script>

<template>
  <OneOf
    v-if="tabs.length > 1"
    v-slot="{ option }"
    class="tabs"
    of="tab"
    look="outline narrow"
    :options="tabs"
    :picked="tab"
    :label="say('work.what')"
    @pick="(id: string) => emit('show', id)"
  >
    {{ named(option) }}<span v-if="done(option)" class="small">{{ say('work.done') }}</span>
  </OneOf>
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
