<script setup lang="ts">
// What stands before a step: no, or not known with the one thing to look at; what mends it is one tap
// away, and so is the way past it, with a name and a reason.
import { computed, ref } from 'vue'
import StateGlyph from '../../parts/StateGlyph.vue'
import { say } from '../../words/words'
import ClimateSheet from '../waits/ClimateSheet.vue'
import ForecastSheet from '../waits/ForecastSheet.vue'
import NeedsSheet from './NeedsSheet.vue'
import OverrideSheet from './OverrideSheet.vue'
import { useArea, type Step } from './useArea'

const props = defineProps<{ step: Step }>()
const { job } = useArea()
const sheet = ref<'override' | 'climate' | 'forecast' | 'needs' | ''>('')

const block = computed(() => props.step.block)
const args = computed(() => block.value?.args ?? {})
/** Of another step: its name stands in the sentence. */
const line = computed(() => {
  const b = block.value
  if (!b) return ''
  if (b.kind === 'hold' || b.kind === 'earlier') return say('step.behind', { hold: b.title })
  if (b.kind === 'wait' && b.says === 'no' && props.step.opens_at)
    return say('step.waiting', { at: props.step.opens_at })
  return say(b.key, args.value)
})
const mends = computed(() => {
  const remedy = block.value?.remedy ?? ''
  if (['look.base', 'look.air_and_base', 'remedy.warm', 'remedy.cool', 'remedy.air', 'remedy.dew'].includes(remedy))
    return 'climate'
  return ['look.forecast', 'remedy.dry_spell', 'remedy.frost', 'remedy.wind'].includes(remedy) ? 'forecast' : ''
})
/** What it asks for by name: a permit, a gas test, people. */
const needs = computed(() => {
  const kind = block.value?.kind ?? ''
  return kind === 'permit' || kind === 'gas' ? kind : kind === 'people' || kind === 'licence' ? 'people' : null
})
</script>

<template>
  <div v-if="block" class="said block">
    <p class="line">
      <StateGlyph v-if="block.says === 'not_known'" state="not known" />
      <span>
        <strong v-if="block.says === 'not_known'">{{ say('next.state.not_known') }}: </strong>{{ line }}
      </span>
    </p>
    <p v-if="block.remedy && block.kind !== 'hold' && block.kind !== 'earlier'" class="small">
      {{ say(block.remedy) }}
    </p>
    <div class="acts">
      <button v-if="mends === 'climate'" class="outline narrow" @click="sheet = 'climate'">
        {{ say('block.read_climate') }}
      </button>
      <button v-else-if="mends === 'forecast'" class="outline narrow" @click="sheet = 'forecast'">
        {{ say('block.read_forecast') }}
      </button>
      <button v-else-if="needs" class="outline narrow" @click="sheet = 'needs'">
        {{ say(`needs.open.${needs}`) }}
      </button>
      <router-link v-else-if="block.kind === 'short'" class="outline narrow" :to="`/job/${job}/materials`">
        {{ say('block.count') }}
      </router-link>
      <button v-if="block.kind !== 'earlier'" class="outline narrow" @click="sheet = 'override'">
        {{ block.kind === 'hold' ? say('override') : say('override.wait') }}
      </button>
    </div>
  </div>
  <OverrideSheet
    v-if="sheet === 'override' && block"
    :step="block.step"
    :title="block.step === step.id ? step.title : block.title"
    @close="sheet = ''"
  />
  <NeedsSheet v-if="sheet === 'needs' && needs" :step="step" :of="needs" @close="sheet = ''" />
  <ClimateSheet v-if="sheet === 'climate'" @close="sheet = ''" />
  <ForecastSheet v-if="sheet === 'forecast'" @close="sheet = ''" />
</template>

<style scoped>
.block {
  display: grid;
  gap: 10px;
  justify-items: start;
}
.line {
  display: flex;
  gap: 12px;
  align-items: center;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
</style>
