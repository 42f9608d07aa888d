<script setup lang="ts">
// Where a window stands, in words: open from, last safe start, shuts; with the climate it is
// reckoned with and the touch test. Every time opens to where it comes from.
import { computed, onMounted, ref, shallowRef } from 'vue'
import type { Schemas } from '../../core/core'
import ExplainSlip from '../../parts/ExplainSlip.vue'
import MitreButton from '../../parts/MitreButton.vue'
import StateGlyph from '../../parts/StateGlyph.vue'
import { moment, say, span } from '../../words/words'
import OverrideSheet from '../area/OverrideSheet.vue'
import { useArea, type Step } from '../area/useArea'
import ClimateSheet from './ClimateSheet.vue'
import RemedySheet from './RemedySheet.vue'
import TouchSheet from './TouchSheet.vue'

const props = defineProps<{ step: Step; tide: Schemas['LogbookTide'] }>()
const { now } = useArea()
type Sheet = 'climate' | 'touch' | 'remedy' | 'override'
const sheet = ref<Sheet | ''>('')
const explained = shallowRef<Schemas['FigureFigure'] | null>(null)
const ready = ref(false)
onMounted(() => (ready.value = true))

const figure = (name: string) => props.tide.figures.find((each) => each.name === name)
const rows = computed(() =>
  (
    [
      ['wait.row.opens', props.tide.opens, figure('wait.opens')],
      ['wait.row.last_safe', props.tide.last_safe_start, figure('wait.lead')],
      ['wait.row.shuts', props.tide.shuts, figure('wait.shuts')],
    ] as const
  ).filter(([, at]) => at),
)
/** The time that matters now, and how long until it. */
const due = computed(() => {
  const early = props.tide.state === 'too early'
  const at = early ? props.tide.opens : props.tide.last_safe_start
  if (!at) return null
  const left = span(Date.parse(at) - now.value.getTime())
  return { at, line: say(early ? 'wait.until' : 'wait.left', { left }) }
})
const last = computed(() => props.tide.climate.at(-1))
const act = computed<Sheet>(() => {
  if (props.step.block?.kind === 'touch') return 'touch'
  return props.step.block?.kind === 'late' ? 'remedy' : 'climate'
})
</script>

<template>
  <section class="wait">
    <p class="state">
      <StateGlyph :state="tide.state" />
      <strong>{{ say(`wait.state.${tide.state}`) }}</strong>
    </p>
    <p v-if="tide.look" class="said">{{ say('wait.not_known.line', { look: tide.look }) }}</p>
    <p v-if="tide.frozen" class="said">{{ say('wait.frozen', { at: tide.frozen }) }}</p>
    <template v-if="tide.known">
      <p v-if="due" class="due">
        <strong>{{ moment(due.at) }}</strong>
        <span>{{ due.line }}</span>
      </p>
      <p v-if="tide.state === 'too early'" class="small">{{ say('wait.why.early') }}</p>
      <p v-if="tide.state === 'too late'" class="said">{{ say('wait.why.late', { remedy: tide.remedy }) }}</p>
      <ul>
        <li v-for="[key, at, from] in rows" :key="key">
          <button class="row" @click="explained = from ?? null">
            <span class="grow">{{ say(key) }}</span>
            <strong>{{ moment(at) }}</strong>
          </button>
        </li>
      </ul>
    </template>
    <p v-if="last" class="small">
      {{ last.rh_percent ? say('wait.climate', { ...last }) : say('wait.climate.batch', { ...last }) }}
    </p>
    <p v-if="tide.confirm.length">
      <strong>{{ say('touch.title') }}:</strong>
      {{
        tide.confirmed && tide.touch
          ? say('touch.passed', { at: tide.touch.at })
          : tide.touch
            ? say('touch.failed', { at: tide.touch.at })
            : say('touch.none')
      }}
    </p>
    <div class="acts">
      <button v-if="act !== 'climate'" class="outline narrow" @click="sheet = 'climate'">
        {{ say('climate.title') }}
      </button>
      <button v-if="tide.confirm.length && act !== 'touch'" class="outline narrow" @click="sheet = 'touch'">
        {{ say('touch.title') }}
      </button>
      <button v-if="step.block && step.block.step === step.id" class="outline narrow" @click="sheet = 'override'">
        {{ say('override.wait') }}
      </button>
    </div>
    <ClimateSheet v-if="sheet === 'climate'" @close="sheet = ''" />
    <TouchSheet v-if="sheet === 'touch'" :step="step" @close="sheet = ''" />
    <RemedySheet v-if="sheet === 'remedy'" :step="step" @close="sheet = ''" />
    <OverrideSheet v-if="sheet === 'override'" :step="step.id" :title="step.title" @close="sheet = ''" />
    <ExplainSlip v-if="explained" :figure="explained" @close="explained = null" />
    <Teleport v-if="ready && step.state !== 'done'" defer to="#step-mitre">
      <MitreButton :label="say(`${act}.title`)" :line="say(`${act}.act.line`)" @click="sheet = act" />
    </Teleport>
  </section>
</template>

<style scoped>
.wait {
  display: grid;
  gap: 12px;
  grid-template-columns: minmax(0, 1fr);
}
.state {
  display: flex;
  gap: 12px;
  align-items: center;
}
.state strong {
  font-size: 30px;
}
.due {
  display: grid;
}
.due strong {
  font-size: 50px;
  font-weight: 720;
  letter-spacing: -0.02em;
  line-height: 1.05;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
</style>
