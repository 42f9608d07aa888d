<script setup lang="ts">
// One number asked at a time, walking round the room; the drawing shows what is asked.
import { computed, ref, shallowRef, watch } from 'vue'
import { call, type Schemas } from '../../core/core'
import { useAsking } from '../../data/useAsking'
import { useDraft } from '../../data/useDraft'
import BigPad from '../../parts/BigPad.vue'
import FactLine from '../../parts/FactLine.vue'
import MitreButton from '../../parts/MitreButton.vue'
import NetDrawing from '../../drawing/NetDrawing.vue'
import { fieldName, place, quantity, questionKey, say, sayFault } from '../../words/words'
import StepFrame from '../area/StepFrame.vue'
import { useArea, type Step } from '../area/useArea'

type Question = Schemas['AskQuestion']

defineProps<{ step: Step; stage: Schemas['LogbookStageLook'] }>()
const emit = defineEmits<{ go: [stage: string]; step: [id: string] }>()
const { look, area, record } = useArea()

const FORM = 'rectangle'
const keptTyped = () =>
  Object.fromEntries(Object.entries(look.value.survey?.answers ?? {}).map(([id, answer]) => [id, answer.typed]))
const draft = useDraft(() => `survey.${area}`, keptTyped)

/** The question under way is found again after a reload. */
const kept = ref(sessionStorage.getItem(`asking.${area}`) ?? '')
watch(kept, (id) => sessionStorage.setItem(`asking.${area}`, id))
const { asked, asking, error, questions, question, after, ...asks } = useAsking(
  draft,
  () => call('survey.ask', { form: FORM, typed: { ...draft.typed.value } }),
  kept,
)
/** The last drawing that fitted: a wrong number does not take it away. */
const sketch = shallowRef<Schemas['WetareaArea'] | null>(null)
watch(asked, (out) => (sketch.value = out?.sketch ?? sketch.value))
/** Questions whose answer was entered: only then is it judged aloud. */
const entered = ref(new Set<string>())
const listed = ref(false)
const editing = ref(!look.value.survey)

// A survey that arrives from another device is shown, unless one is being typed here.
watch(
  () => look.value.survey_id,
  async () => {
    if (!(await draft.untouched())) return
    await draft.load()
    asking.value = ''
    editing.value = !look.value.survey
  },
)

const missing = computed(() => questions.value.filter((q) => q.state !== 'answered'))
const wrong = computed(() =>
  missing.value.filter((q) => q.state === 'wrong' && (q.id !== asking.value || entered.value.has(q.id))),
)
const changed = computed(() => JSON.stringify(draft.typed.value) !== JSON.stringify(keptTyped()))

const titleOf = (q: Question) => say(questionKey(q.id), q.args)
const lineOf = (q: Question) => say(`${questionKey(q.id)}.line`, q.args)
const optionName = (option: string) => place(option.includes('.') || option === 'floor' ? option : `wall.${option}`)
function valueOf(q: Question): string {
  if (q.state !== 'answered') return q.typed || '?'
  return q.kind === 'choice' ? optionName(q.typed) : quantity(q.value, q.unit ?? '')
}

const next = computed(() => questions.value.find((q) => q.id === after(asking.value)))

async function type(text: string): Promise<void> {
  entered.value.delete(asking.value)
  await asks.type(text)
}

async function enter(): Promise<void> {
  entered.value = new Set(entered.value).add(asking.value)
  await asks.enter()
}

async function choose(option: string): Promise<void> {
  entered.value = new Set(entered.value).add(asking.value)
  await asks.answer(option)
}

function ask(id: string): void {
  asks.ask(id)
  listed.value = false
}

/** A tap on a dimension asks for it; a tap on a surface answers where something is. */
async function pick(id: string): Promise<void> {
  if (!editing.value) return
  if (id.startsWith('ask.')) return ask(id.slice('ask.'.length))
  const q = question.value
  if (q?.kind !== 'choice') return
  const option = q.options?.find((o) => o === id || `wall.${o}` === id)
  if (option) await choose(option)
}

async function keep(): Promise<void> {
  const survey = asked.value?.survey
  if (!survey) return
  const body = look.value.survey_id ? { ...survey, from: [look.value.survey_id] } : survey
  if (await record('survey', body, { key: 'survey.kept' })) {
    await draft.drop()
    editing.value = false
    emit('go', look.value.next.stage)
  }
}

async function stopEditing(): Promise<void> {
  await draft.drop()
  await draft.load()
  editing.value = false
}

const shownArea = computed(() => sketch.value ?? look.value.geometry)
const facts = computed(() => {
  const t = shownArea.value?.takeoff
  if (!t) return []
  const walls = t.wall_areas_m2.reduce((sum, each) => sum + each, 0)
  const m2 = (value: number) => value.toFixed(2)
  const metres = ((t.floor_wall_mm + t.threshold_mm + t.wall_wall_internal_mm) / 1000).toFixed(2)
  return [
    { value: m2(t.total_membrane_area_m2), unit: 'm²', name: say('fact.total') },
    { value: m2(t.floor_area_m2), unit: 'm²', name: say('fact.floor') },
    { value: m2(walls), unit: 'm²', name: say('fact.walls') },
    { value: metres, unit: 'm', name: say('fact.joints') },
    { value: String(t.internal_corners), name: say('fact.corners') },
  ]
})
const line = computed(() => {
  const left = missing.value.length
  return left > 0 ? `${say('survey.line')} · ${say('survey.left', { n: left })}` : say('survey.line')
})
</script>

<template>
  <StepFrame
    :step="step"
    :stage="stage"
    :line="line"
    :error="error"
    @go="(s) => emit('go', s)"
    @step="(s) => emit('step', s)"
  >
    <template #drawing>
      <NetDrawing
        v-if="shownArea"
        :name="look.name"
        :input="{ area: shownArea, layers: ['dims'], asking: editing ? asking : '', missing: missing.map((q) => q.id) }"
        @pick="pick"
      />
      <div v-else class="before">
        <svg viewBox="0 0 220 200" width="330" height="300" aria-hidden="true">
          <g fill="none" stroke="var(--edge)" stroke-width="2.4" stroke-dasharray="8 5">
            <path d="M60 60h100v80H60zM60 60V12h100v48M160 60h48v80h-48M60 140v20h100v-20M60 60H12v80h48" />
          </g>
        </svg>
      </div>
    </template>

    <template v-if="editing && question">
      <div>
        <h2>{{ titleOf(question) }}</h2>
        <p class="small">{{ lineOf(question) }}</p>
      </div>
      <BigPad
        v-if="question.kind !== 'choice'"
        :id="question.id"
        :model-value="
          question.typed === draft.typed.value[question.id] ? question.typed : (draft.typed.value[question.id] ?? '')
        "
        :label="titleOf(question)"
        :unit="question.kind === 'count' ? '' : 'mm'"
        :wrong="entered.has(question.id) && question.state === 'wrong'"
        @update:model-value="type"
        @enter="enter"
      />
      <ul v-else role="radiogroup" :aria-label="titleOf(question)">
        <li v-for="option in question.options" :key="option">
          <button
            class="row"
            role="radio"
            :aria-checked="question.typed === option"
            :class="{ chosen: question.typed === option }"
            @click="choose(option)"
          >
            <h2 class="sub">{{ optionName(option) }}</h2>
          </button>
        </li>
      </ul>
    </template>
    <div v-else>
      <h2>{{ say('survey.complete') }}</h2>
      <p v-if="editing" class="small">{{ say('survey.complete.line') }}</p>
    </div>
    <p v-for="q in wrong" :key="q.id" class="said">{{ sayFault(q.fault!) }}</p>
    <button class="outline narrow" :aria-expanded="listed" @click="listed = !listed">{{ say('survey.list') }}</button>
    <ul v-if="listed || !editing">
      <li v-for="q in questions" :key="q.id">
        <button class="row" :disabled="!editing" :aria-current="q.id === asking && editing" @click="ask(q.id)">
          <span class="grow">{{ fieldName(q.id) }}</span>
          <strong>{{ valueOf(q) }}</strong>
        </button>
      </li>
    </ul>

    <template v-if="facts.length" #facts><FactLine :facts="facts" /></template>
    <template #outline>
      <button v-if="!editing" class="outline" @click="editing = true">{{ say('correct') }}</button>
      <button v-else-if="look.survey" class="outline" @click="stopEditing">{{ say('cancel') }}</button>
    </template>
    <template #mitre>
      <template v-if="editing">
        <MitreButton
          v-if="asked?.survey && !question"
          :label="say('survey.done')"
          :line="say('survey.done.line')"
          :disabled="!!look.survey && !changed"
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
.before {
  height: 100%;
  display: grid;
  place-items: center;
}
</style>
