<script setup lang="ts">
// May we start? Each check with what was read, its limit and where that comes from.
import { computed, ref } from 'vue'
import { quantity, say } from '../../words/words'
import ClimateSheet from './ClimateSheet.vue'
import ForecastSheet from './ForecastSheet.vue'
import type { Step } from '../area/useArea'

const props = defineProps<{ step: Step }>()
type Check = Step['start'][number]
const sheet = ref<'climate' | 'forecast' | ''>('')
const listed = ref(false)
const against = computed(() => props.step.start.filter((check) => check.says !== 'go'))
const outdoors = computed(() => props.step.start.some((check) => check.check === 'start.rain'))
const head = computed(() =>
  against.value.length
    ? against.value.map((check) => `${say(check.check)}: ${say(`start.says.${check.says}`)}`).join(' · ')
    : say('start.all', { n: props.step.start.length }),
)

function limits(check: Check): string {
  const [least, most] = [check.limit, check.most ?? null].map((v) => (v === null ? '' : quantity(v, check.unit)))
  if (least && most) return say('start.range', { least, most })
  return least ? say('start.at_least', { least }) : most ? say('start.at_most', { most }) : ''
}
</script>

<template>
  <section v-if="step.start.length" class="start">
    <button class="row" :aria-expanded="listed" @click="listed = !listed">
      <span class="grow">
        <strong>{{ say('start.title') }}</strong>
        <span class="small head">{{ head }}</span>
      </span>
    </button>
    <ul v-if="listed">
      <li v-for="(check, i) in step.start" :key="i" class="row check" :data-says="check.says">
        <span class="grow">
          {{ say(check.check) }}
          <span class="small head"
            >{{ limits(check) }} {{ say(`start.source.${check.source}`, { sheet: check.sheet }) }}
            <template v-if="check.at"> · {{ say('start.read_at', { at: check.at }) }}</template></span
          >
          <span v-if="check.remedy" class="small head">{{ say(check.remedy) }}</span>
        </span>
        <strong>{{ check.value === null ? say('start.not_read') : quantity(check.value, check.unit) }}</strong>
        <strong>{{ say(`start.says.${check.says}`) }}</strong>
      </li>
    </ul>
    <div class="acts">
      <button class="outline narrow" @click="sheet = 'climate'">{{ say('climate.title') }}</button>
      <button v-if="outdoors" class="outline narrow" @click="sheet = 'forecast'">{{ say('forecast.title') }}</button>
    </div>
    <ClimateSheet v-if="sheet === 'climate'" @close="sheet = ''" />
    <ForecastSheet v-if="sheet === 'forecast'" @close="sheet = ''" />
  </section>
</template>

<style scoped>
.start {
  display: grid;
  gap: 8px;
}
.head {
  display: block;
}
.check[data-says='stop'],
.check[data-says='not_known'] {
  border-inline-start: 8px solid var(--amber7);
}
.check[data-says='not_known'] {
  border-inline-start-style: dashed;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
</style>
