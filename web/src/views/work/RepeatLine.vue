<script setup lang="ts">
// A step that comes back: how often it was done, and when it is due again.
import { moment, say } from '../../words/words'
import type { Step } from '../area/useArea'

defineProps<{ step: Step }>()
</script>

<template>
  <section v-if="step.repeats" class="said" :data-late="step.repeats.late">
    <p>
      {{
        step.repeats.times.length
          ? say('again.times', { n: step.repeats.times.length, at: step.repeats.times.at(-1) })
          : say('again.none')
      }}
    </p>
    <p v-if="!step.repeats.over" class="small">
      {{
        step.repeats.due
          ? say(step.repeats.late ? 'again.late' : 'again.due', { at: moment(step.repeats.due) })
          : step.repeats.state
            ? say('again.state', { state: step.repeats.state })
            : ''
      }}
    </p>
  </section>
</template>
