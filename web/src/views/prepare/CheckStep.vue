<script setup lang="ts">
// A step that is done when each of its lines is confirmed.
import { computed, ref } from 'vue'
import type { Schemas } from '../../core/core'
import { toggled } from '../../data/toggled'
import CheckRow from '../../parts/CheckRow.vue'
import MitreButton from '../../parts/MitreButton.vue'
import NetDrawing from '../../drawing/NetDrawing.vue'
import { say } from '../../words/words'
import BlockLine from '../area/BlockLine.vue'
import StepFrame from '../area/StepFrame.vue'
import { isShut, useArea, type Step } from '../area/useArea'

const props = defineProps<{ step: Step; stage: Schemas['LogbookStageLook'] }>()
const { look, job, area, record, goOn } = useArea()

const lines = computed(() => (props.step.asks ?? []).map((each) => each.line))
const done = computed(() => props.step.state === 'done')
const ticked = ref<string[]>([])
const confirmed = computed(() => (done.value ? lines.value : ticked.value))
const left = computed(() => lines.value.length - confirmed.value.length)

function toggle(line: string): void {
  ticked.value = toggled(ticked.value, line)
}

async function finish(): Promise<void> {
  const kept = await record(
    'done',
    { step: props.step.id, confirmed: confirmed.value },
    { key: 'check.kept', args: { title: props.step.title } },
  )
  if (kept) goOn()
}
</script>

<template>
  <StepFrame :step="step" :stage="stage" :line="say('check.line', { title: step.title })">
    <template #drawing>
      <NetDrawing v-if="look.geometry" :name="look.name" :input="{ job, area, layers: [] }" :taps="['surface']" />
    </template>
    <h2>{{ step.title }}</h2>
    <p>{{ step.why }}</p>
    <BlockLine :step="step" />
    <ul>
      <li v-for="each in lines" :key="each">
        <CheckRow :label="each" :checked="confirmed.includes(each)" :disabled="done" @toggle="toggle(each)" />
      </li>
    </ul>
    <p v-if="left && !done" class="small">{{ say('check.left', { n: left }) }}</p>
    <template #mitre>
      <MitreButton v-if="!done && !isShut(step)" :label="say('check.done')" :disabled="left > 0" @click="finish" />
    </template>
  </StepFrame>
</template>
