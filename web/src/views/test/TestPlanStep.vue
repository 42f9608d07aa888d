<script setup lang="ts">
// A water test is settled before a tap is opened: depth, load against what is allowed,
// where the water goes, gauge and hours. What follows from the answers stands beside them.
import { computed, ref, shallowRef } from 'vue'
import type { Schemas } from '../../core/core'
import { call } from '../../core/core'
import { askJob } from '../../data/folded'
import { sayRefusal } from '../../data/refusal'
import { useAsking } from '../../data/useAsking'
import { useDraft } from '../../data/useDraft'
import BigPad from '../../parts/BigPad.vue'
import OneOf from '../../parts/OneOf.vue'
import ExplainSlip from '../../parts/ExplainSlip.vue'
import FactLine from '../../parts/FactLine.vue'
import MitreButton from '../../parts/MitreButton.vue'
import NumberFields from '../../parts/NumberFields.vue'
import NetDrawing from '../../drawing/NetDrawing.vue'
import { fixed, fieldName, quantity, say, sayFault, span, unitName } from '../../words/words'
import BlockLine from '../area/BlockLine.vue'
import StepFrame from '../area/StepFrame.vue'
import { useArea, type Step } from '../area/useArea'

const props = defineProps<{ step: Step; stage: Schemas['LogbookStageLook'] }>()
const { look, job, area, record, goOn } = useArea()

const planned = computed(() => look.value.test)
const editing = ref(!planned.value)
const explained = shallowRef<Schemas['FigureFigure'] | null>(null)
/** The plan that is kept stays as it is. */
async function stopEditing(): Promise<void> {
  await draft.drop()
  await draft.load()
  editing.value = false
}
const draft = useDraft(
  () => `test.${area}`,
  () => Object.fromEntries(Object.entries(planned.value?.answers ?? {}).map(([id, answered]) => [id, answered.typed])),
)
const { asked, error, questions, question, after, type, enter, answer, ask } = useAsking(draft, () =>
  askJob(job, 'test.ask', { area, typed: { ...draft.typed.value } }),
)

const suggested = computed(() => {
  const args = question.value?.args
  if (typeof args?.suggest !== 'number' || typeof args.says !== 'string') return null
  return { value: String(args.suggest), says: args.says }
})
const next = computed(() => questions.value.find((q) => q.id === after(question.value?.id ?? '')))
const wrong = computed(() => questions.value.filter((q) => q.state === 'wrong' && q.id !== question.value?.id))
const facts = computed(() => {
  const out = asked.value
  if (!out?.fill) return []
  const list = [
    { value: fixed(out.fill.volume_L, 0), unit: 'L', name: say('test.volume') },
    { value: span(out.fill.fill_h * 3_600_000), name: say('test.fill_time') },
  ]
  if (out.load_kPa !== null) list.push({ value: fixed(out.load_kPa, 2), unit: 'kPa', name: say('test.greatest_load') })
  if (out.weight_kg_per_m2 !== null)
    list.push({ value: fixed(out.weight_kg_per_m2, 0), unit: 'kg/m²', name: say('test.weight') })
  if (out.duration) list.push({ value: span(hours.value * 3_600_000), name: say('test.duration') })
  return list
})
const hours = computed(() => {
  const own = asked.value?.gauges.find((g) => g.resolution_mm === resolution.value)
  return own?.duration_h ?? asked.value?.chosen?.planned_h ?? asked.value?.duration?.duration_h ?? 0
})
const wished = computed(() => questions.value.find((q) => q.id === 'wished')?.value ?? 0)
const resolution = computed(() => questions.value.find((q) => q.id === 'resolution')?.value ?? 0)

function valueOf(q: Schemas['AskQuestion']): string {
  if (q.typed === '-') return say('sheet.not_stated')
  if (q.state !== 'answered' || q.kind === 'text') return q.typed || '?'
  if (q.kind === 'choice') return say(`test.pan.${q.typed || String(q.args?.usual)}`)
  return quantity(q.value, q.unit ?? '')
}

/** A roof that is tested bay by bay: which one this is, of how many. */
const byBays = computed(() => !!look.value.system?.proofs.includes('bays'))
const bay = computed(() => look.value.open_bays[0] ?? 1)
const howMany = async () =>
  look.value.test?.bays ||
  (
    await call('units.number', {
      field: 'bays',
      kind: 'number',
      typed: draft.typed.value.bays ?? '',
      least: 1,
      most: 200,
    })
  ).value

async function keep(): Promise<void> {
  const answers = asked.value?.answers
  if (!answers) return
  let bays = {}
  try {
    if (byBays.value) bays = { bay: bay.value, bays: await howMany() }
  } catch (refused) {
    error.value = sayRefusal(refused)
    return
  }
  if (await record('test.planned', { step: props.step.id, answers, ...bays }, { key: 'test.planned.kept' })) {
    await draft.drop()
    editing.value = false
    goOn()
  }
}
</script>

<template>
  <StepFrame
    :step="step"
    :stage="stage"
    :line="say('test.plan.line')"
    :error="error"
    :asks="editing && !!question && question.kind !== 'choice'"
  >
    <template #drawing>
      <div class="both">
        <div class="net-half">
          <NetDrawing v-if="look.geometry" :name="look.name" :input="{ job, area, layers: [] }" :taps="['surface']" />
        </div>
        <section v-if="asked?.gauges.length" class="gauges" tabindex="0" :aria-label="say('test.gauges')">
          <h2 class="sub">{{ say('test.gauges') }}</h2>
          <p v-if="asked.gauge" class="small">
            {{
              asked.gauge.coarsest_listed_mm === null
                ? say('test.gauge_for.none', { h: wished })
                : say('test.gauge_for', { h: wished, mm: asked.gauge.coarsest_listed_mm })
            }}
          </p>
          <p v-if="asked.fill?.by_rate" class="small">{{ say('test.by_rate') }}</p>
          <ul>
            <li
              v-for="g in asked.gauges"
              :key="g.resolution_mm"
              class="row"
              :class="{ chosen: g.resolution_mm === resolution }"
            >
              <span class="grow">{{ say('test.gauge', { mm: g.resolution_mm }) }}</span>
              <strong>{{ g.duration_h === null ? say('test.gauge.never') : span(g.duration_h * 3_600_000) }}</strong>
            </li>
          </ul>
        </section>
      </div>
    </template>

    <BlockLine :step="step" />
    <p v-if="byBays && look.test?.bays" class="said">{{ say('test.bay', { n: bay, of: look.test.bays }) }}</p>
    <NumberFields
      v-else-if="byBays && editing"
      :fields="[{ id: 'bays', label: say('test.bays') }]"
      :typed="draft.typed.value"
      @type="draft.type"
    />
    <template v-if="editing && question">
      <div>
        <h2>{{ fieldName(question.id) }}</h2>
        <p>{{ say(`ask.${question.id}`) }}</p>
        <p class="small">{{ say(`ask.${question.id}.line`) }}</p>
      </div>
      <OneOf
        v-if="question.kind === 'choice'"
        v-slot="{ option }"
        look="row"
        :options="question.options ?? []"
        :picked="question.typed"
        :label="fieldName(question.id)"
        @pick="answer"
      >
        <span class="grow">
          <strong class="option">{{ say(`test.pan.${option}`) }}</strong>
          <span class="small">{{ say(`test.pan.${option}.line`) }}</span>
        </span>
      </OneOf>
      <BigPad
        v-else
        :id="question.id"
        :model-value="draft.typed.value[question.id] ?? ''"
        :label="fieldName(question.id)"
        :unit="unitName(question.unit ?? '')"
        :plain="question.kind === 'text'"
        :wrong="!!error"
        @update:model-value="type"
        @enter="enter"
      />
      <button v-if="suggested" class="outline narrow" @click="answer(suggested.value)">
        {{ say('test.suggest', suggested) }}
      </button>
      <button v-if="question.kind === 'stated'" class="outline narrow" @click="answer('-')">
        {{ say('test.not_known') }}
      </button>
    </template>
    <h2 v-else-if="editing">{{ say('survey.complete') }}</h2>
    <p v-for="q in wrong" :key="q.id" class="said">{{ sayFault(q.fault!) }}</p>
    <ul v-if="!editing && planned">
      <li v-for="figure in planned.plan" :key="figure.name">
        <button class="row" @click="explained = figure">
          <span class="grow">{{ say(figure.name) }}</span>
          <strong>{{ quantity(figure.value, figure.unit) }}</strong>
        </button>
      </li>
    </ul>
    <ul>
      <li v-for="q in questions" :key="q.id">
        <button class="row" :disabled="!editing" :aria-current="q.id === question?.id && editing" @click="ask(q.id)">
          <span class="grow">{{ fieldName(q.id) }}</span>
          <strong class="value">{{ valueOf(q) }}</strong>
        </button>
      </li>
    </ul>
    <ExplainSlip v-if="explained" :figure="explained" @close="explained = null" />

    <template v-if="facts.length" #facts><FactLine :facts="facts" /></template>
    <template #outline>
      <button v-if="!editing" class="outline" @click="editing = true">{{ say('test.plan.again') }}</button>
      <button v-else-if="planned" class="outline" @click="stopEditing">{{ say('cancel') }}</button>
    </template>
    <template #mitre>
      <template v-if="editing">
        <MitreButton
          v-if="asked?.answers && !question"
          :label="say('test.plan.keep')"
          :line="say('test.plan.keep.line', { hours })"
          @click="keep"
        />
        <MitreButton
          v-else-if="question"
          :label="say('survey.enter')"
          :line="next ? say('survey.then', { next: fieldName(next.id) }) : say('survey.then.done')"
          @click="enter"
        />
      </template>
    </template>
  </StepFrame>
</template>

<style scoped>
.both {
  height: 100%;
  display: flex;
  flex-direction: column;
}
.net-half {
  flex: 1;
  min-height: 0;
}
:root.phone .net-half,
:root.low .net-half {
  flex: 1 0 36vh;
}
.gauges {
  min-height: 0;
  overflow-y: auto;
  padding: 6px 12px 10px;
}
.gauges ul {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(190px, 1fr));
  gap: 0 24px;
}
.gauges .row {
  min-height: 56px;
}
.option {
  display: block;
  font-size: 20px;
}
.value {
  overflow-wrap: anywhere;
  text-align: end;
}
</style>
