<script setup lang="ts">
// The order of the work, stage by stage; between two steps lies their wait as a small tide. Dragged to come earlier or later.
import type { Schemas } from '../../core/core'
import { say } from '../../words/words'
import DragHandle from './DragHandle.vue'
import StepTides from './StepTides.vue'
import type { Step } from './useEditor'
import { placeOn, useDragOrder } from './useDragOrder'

const props = defineProps<{
  stages: readonly Schemas['SystemStage'][]
  steps: readonly Step[]
  tides: readonly Schemas['SystemTide'][]
  chosen: string
}>()
const emit = defineEmits<{ touch: [step: string]; move: [step: string, before: string] }>()
const { held, over, take, drag, drop } = useDragOrder((from, to) => emit('move', from, placeOn(props.steps, from, to)))
</script>

<template>
  <section>
    <h2 class="sub">{{ say('system.order') }}</h2>
    <ol>
      <li v-for="stage in stages" :key="stage.id">
        <p class="small">{{ stage.title }}</p>
        <template v-for="each in stage.steps" :key="each.id">
          <StepTides :tides="tides.filter((tide) => tide.step === each.id)" :steps="steps" />
          <div
            class="line"
            :class="{ held: held === each.id, over: over === each.id && held !== each.id }"
            :data-place="each.mends ? undefined : each.id"
          >
            <button
              class="row"
              :class="{ chosen: chosen === each.id, mends: each.mends }"
              :aria-pressed="chosen === each.id"
              :disabled="!!each.mends"
              @click="emit('touch', each.id)"
            >
              <span class="grow">{{ each.title }}</span>
              <span v-if="each.mends" class="small">{{ say('system.mends') }}</span>
              <span v-else-if="each.does === 'accept' || each.does === 'sign'" class="small">{{
                say('hold.shut')
              }}</span>
            </button>
            <DragHandle v-if="!each.mends" @take="(event) => take(event, each.id)" @drag="drag" @drop="drop" />
          </div>
        </template>
      </li>
    </ol>
  </section>
</template>

<style scoped>
.line {
  display: flex;
}
.line .row {
  flex: 1;
  min-width: 0;
}
.held {
  opacity: 0.5;
}
.over {
  box-shadow: inset 0 0 0 3px var(--ink);
}
.mends {
  color: var(--ink2);
}
</style>
