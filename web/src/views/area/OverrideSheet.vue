<script setup lang="ts">
// Going on without a hold or a wait.
import ReasonSheet from '../../parts/ReasonSheet.vue'
import { say } from '../../words/words'
import { useArea } from './useArea'

const props = defineProps<{ step: string; title: string }>()
const emit = defineEmits<{ close: [] }>()
const { look, record } = useArea()

async function keep(given: { reason: string; person: string }): Promise<void> {
  if (await record('overridden', { step: props.step, ...given }, { key: 'override.kept' })) emit('close')
}
</script>

<template>
  <ReasonSheet
    :title="say('override.title')"
    :sub="title"
    :line="say('override.line')"
    :keep="say('override.keep')"
    :people="look.job.people"
    @close="emit('close')"
    @keep="keep"
  />
</template>
