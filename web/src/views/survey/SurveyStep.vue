<script setup lang="ts">
// One number asked at a time, walking round the area; the drawing shows what is asked. The
// same numbers stand in a list beside it.
import { computed, ref, watch } from 'vue'
import { call, type Schemas } from '../../core/core'
import FirstLine from '../../parts/FirstLine.vue'
import BigPad from '../../parts/BigPad.vue'
import OneOf from '../../parts/OneOf.vue'
import UndoKeys from '../../parts/UndoKeys.vue'
import FactLine from '../../parts/FactLine.vue'
import MitreButton from '../../parts/MitreButton.vue'
import ProfileGrades from '../../parts/ProfileGrades.vue'
import NetDrawing from '../../drawing/NetDrawing.vue'
import {
  fixed,
  areaFact,
  fieldName,
  imperial,
  known,
  lengthFact,
  optionName,
  questionKey,
  say,
  sayFault,
  unitName,
} from '../../words/words'
import StepFrame from '../area/StepFrame.vue'
import { useAlone } from '../../data/useAlone'
import { without } from '../../data/useDraft'
import { useUndoKeys } from '../../data/useUndoKeys'
import { useArea, type Step } from '../area/useArea'
import BasePanel from './BasePanel.vue'
import FilesSheet from './FilesSheet.vue'
import FindingsList from './FindingsList.vue'
import NumberList from './NumberList.vue'
import ShapeChoice from './ShapeChoice.vue'
import { useSurvey, type Question } from './useSurvey'

defineProps<{ step: Step; stage: Schemas['LogbookStageLook'] }>()
const { look, job, area, record, goOn } = useArea()
const { place, takeOver: take } = useAlone(() => `survey.${area}`)
const elsewhere = computed(() => place.value === 'elsewhere')
const { draft, form, asks, sketch, changed, unchecked, check, toCheck, toOffer, pass } = useSurvey()
const { asked, asking, error, questions, question, after } = asks

/** Goes on here, with what was typed in the other tab. */
async function takeOver(): Promise<void> {
  take()
  await draft.load()
}

/** Questions whose answer was entered: only then is it judged aloud. */
const entered = ref(new Set<string>())
const listed = ref(false)
const editing = ref(!look.value.survey)
const shaping = ref(false)
const filing = ref(false)
const showsBase = ref(false)
const base = ref<InstanceType<typeof BasePanel>>()
const net = ref<InstanceType<typeof NetDrawing>>()

// A correction that was begun here goes on, also after a reload.
watch(draft.ready, async (ready) => {
  if (ready && look.value.survey && !(await draft.untouched())) editing.value = true
})

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

const choosesShape = computed(() => editing.value && draft.ready.value && (!form.value || shaping.value))
const missing = computed(() => questions.value.filter((q) => q.state !== 'answered'))
const wrong = computed(() =>
  missing.value.filter(
    (q) => q.state === 'wrong' && (q.id !== asking.value || (entered.value.has(q.id) && !error.value)), // the ledge says it
  ),
)
/** What a length that was entered may have meant: one tap takes it. */
const offers = computed<string[]>(() => {
  const q = question.value
  const meant = q && entered.value.has(q.id) ? q.fault?.args?.offers : undefined
  return Array.isArray(meant) ? meant.map(String) : []
})
const additions = computed(() => questions.value.filter((q) => q.kind === 'list'))

const titleOf = (q: Question) => (known(questionKey(q.id)) ? say(questionKey(q.id), q.args) : fieldName(q.id))
const lineOf = (q: Question) => (known(`${questionKey(q.id)}.line`) ? say(`${questionKey(q.id)}.line`, q.args) : '')
const next = computed(() => questions.value.find((q) => q.id === after(asking.value)))
const unitOf = (q: Question) => {
  if (q.kind === 'length') return imperial.value ? '' : 'mm'
  return q.kind === 'count' ? '' : unitName(q.unit ?? '')
}

async function type(text: string): Promise<void> {
  entered.value.delete(asking.value)
  await asks.type(text)
}

async function enter(): Promise<void> {
  entered.value = new Set(entered.value).add(asking.value)
  await check(asking.value)
  if (question.value && toOffer(question.value)) await pass(asking.value)
  await asks.enter()
}

async function choose(option: string): Promise<void> {
  entered.value = new Set(entered.value).add(asking.value)
  await asks.answer(option)
}

function ask(id: string): void {
  asks.ask(id)
  showsBase.value = false
  listed.value = false
}

/** What a finding names is asked at once; of a list, one more of it. */
async function mend(id: string): Promise<void> {
  if (!editing.value) editing.value = true
  const list = questions.value.find((q) => q.id === id && q.kind === 'list')
  if (list) await add(list)
  else ask(id)
}

/** What was asked of one shape goes along into another one. */
async function pickShape(picked: string): Promise<void> {
  const typed = without(draft.typed.value, 'form')
  const now = form.value ? await call('survey.reshape', { form: form.value, to: picked, typed }) : { typed }
  shaping.value = false
  asking.value = ''
  await draft.replace({ ...now.typed, form: picked })
}

/** Adds an item to a list and asks its first question. */
async function add(list: Question): Promise<void> {
  const items = (draft.typed.value[list.id] ?? '').split(' ').filter(Boolean)
  const item = `${Number(list.args?.next ?? 1)}`
  asking.value = ''
  await draft.type(list.id, [...items, item].join(' '))
  listed.value = false
  // The first open question of the new item is asked, wherever the walk stood.
  const stop = watch(questions, (all) => {
    const first = all.find((q) => q.id.startsWith(`${list.id}.${item}.`) && q.state !== 'answered')
    if (!first) return
    stop()
    asking.value = first.id
  })
}

async function remove(list: Question, item: string): Promise<void> {
  const items = (draft.typed.value[list.id] ?? '').split(' ').filter((each) => each && each !== item)
  asking.value = ''
  await draft.type(list.id, items.join(' '))
}

/** A tap on a dimension asks for it; a tap on a surface answers where something is. */
async function pick(id: string): Promise<void> {
  if (showsBase.value || !editing.value) return
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
    goOn()
  }
}

async function stopEditing(): Promise<void> {
  await draft.drop()
  await draft.load()
  editing.value = false
}

useUndoKeys(draft, editing)

const shownArea = computed(
  () => sketch.value ?? (editing.value && form.value !== look.value.survey?.form ? null : look.value.geometry),
)
/** Walls that do not close yet are drawn as they were walked. */
const run = computed(() => (editing.value && asked.value?.run && !asked.value.sketch ? asked.value.run : null))
const gates = computed(() => (editing.value ? (asked.value?.gates ?? []) : look.value.gates))
const layers = computed(() => [
  'dims',
  'leaks',
  ...(showsBase.value || asking.value.startsWith('patches.') ? ['patches'] : []),
])
const facts = computed(() => {
  const t = shownArea.value?.takeoff
  if (!t) return []
  const walls = t.wall_areas_m2.reduce((sum, each) => sum + each, 0)
  const joints = t.floor_wall_mm + t.threshold_mm + t.wall_wall_internal_mm + t.wall_wall_external_mm
  const water = shownArea.value?.water
  return [
    { ...areaFact(t.total_membrane_area_m2), name: say('fact.total') },
    { ...areaFact(t.floor_area_m2), name: say('fact.floor') },
    { ...areaFact(walls), name: say('fact.walls') },
    { ...lengthFact(joints), name: say('fact.joints') },
    { value: String(t.internal_corners), name: say('fact.corners') },
    ...(water ? [{ value: fixed(water.volume_L, 0), name: say('fact.water') }] : []),
  ]
})
/** Questions whose lengths are drawn: what was typed and what is asked, not what stands as usual. */
const dimensioned = computed(() => questions.value.filter((q) => !q.assumed || q.id === asking.value).map((q) => q.id))
const line = computed(() => {
  if (choosesShape.value) return `${say('survey.line')} · ${say('survey.shape.line.short')}`
  if (unchecked.value) return `${say('survey.line')} · ${say('survey.check.line', { n: unchecked.value })}`
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
    :asks="editing && !!question && !choosesShape && !showsBase && !['choice', 'text'].includes(question.kind)"
  >
    <template #drawing>
      <NetDrawing
        v-if="(shownArea || run) && !choosesShape"
        ref="net"
        :name="look.name"
        :run="run"
        :survey="editing ? { form, typed: draft.typed.value } : null"
        :spots="showsBase"
        :input="{
          job,
          area,
          layers,
          asking: editing ? asking : '',
          ...(editing ? {} : { asked: dimensioned }),
          wide: imperial,
          way: base?.way ?? look.history?.path ?? [],
          ...(showsBase && base?.spot ? { spot: base.spot } : {}),
        }"
        @pick="pick"
        @spot="(spot) => base?.take(spot)"
      />
      <div v-else class="before">
        <svg viewBox="0 0 220 200" width="330" height="300" aria-hidden="true">
          <g fill="none" stroke="var(--edge)" stroke-width="2.4" stroke-dasharray="8 5">
            <path d="M60 60h100v80H60zM60 60V12h100v48M160 60h48v80h-48M60 140v20h100v-20M60 60H12v80h48" />
          </g>
        </svg>
      </div>
    </template>

    <div v-if="editing && elsewhere" class="said elsewhere" role="alert">
      <p>{{ say('alone.elsewhere') }}</p>
      <button class="outline" @click="takeOver">{{ say('alone.take') }}</button>
    </div>
    <ShapeChoice v-else-if="choosesShape" :form="form" @pick="pickShape" />
    <BasePanel v-else-if="showsBase" ref="base" @back="showsBase = false" />
    <template v-else>
      <template v-if="editing && question">
        <div>
          <h2>{{ titleOf(question) }}</h2>
          <p class="small">{{ lineOf(question) }}</p>
          <p v-if="toCheck(question)" class="small">{{ say('survey.check') }}</p>
        </div>
        <div v-if="question.kind === 'angle'" class="quick">
          <button v-for="option in question.options" :key="option" class="outline narrow" @click="choose(option)">
            {{ optionName(option) }}
          </button>
        </div>
        <div v-if="question.kind === 'text'">
          <v-textarea
            :label="titleOf(question)"
            rows="4"
            :model-value="draft.typed.value[question.id] ?? ''"
            @update:model-value="type"
          />
          <button class="outline narrow" @click="filing = true">{{ say('survey.import') }}</button>
        </div>
        <OneOf
          v-else-if="question.kind === 'choice'"
          v-slot="{ option }"
          look="row"
          :options="question.options ?? []"
          :picked="question.typed"
          :label="titleOf(question)"
          @pick="choose"
        >
          <h2 class="sub">{{ optionName(option, question.id) }}</h2>
        </OneOf>
        <ProfileGrades
          v-else-if="question.id.startsWith('patches.') && question.id.includes('.profile_')"
          :chosen="question.typed"
          :label="titleOf(question)"
          @pick="choose"
        />
        <BigPad
          v-else
          :id="question.id"
          :plain="question.kind === 'date'"
          :model-value="
            question.typed === draft.typed.value[question.id] ? question.typed : (draft.typed.value[question.id] ?? '')
          "
          :label="titleOf(question)"
          :unit="unitOf(question)"
          :feet="imperial && question.kind === 'length'"
          :wrong="entered.has(question.id) && question.state === 'wrong'"
          @update:model-value="type"
          @enter="enter"
        />
        <FirstLine of="survey" :count="Object.keys(draft.typed.value).length" />
      </template>
      <div v-else>
        <h2>{{ say('survey.complete') }}</h2>
        <p v-if="editing" class="small">{{ say('survey.complete.line') }}</p>
      </div>
      <div v-if="offers.length" class="tools">
        <button v-for="offer in offers" :key="offer" class="outline narrow" @click="choose(offer)">
          {{ say('survey.meant', { offer }) }}
        </button>
      </div>
      <div v-if="question && editing && toOffer(question)" class="tools">
        <button class="outline narrow" @click="enter">{{ say('survey.pass') }}</button>
        <p class="small grow">{{ say('survey.pass.line') }}</p>
      </div>
      <p v-for="q in wrong" :key="q.id" class="said">{{ sayFault(q.fault!) }}</p>
      <p v-if="run && run.points_mm.length > 3" class="small">{{ say('survey.gap', { gap: run.gap_mm }) }}</p>
      <div class="tools">
        <button class="outline narrow" :aria-expanded="listed" @click="listed = !listed">
          {{ say('survey.list') }}
        </button>
        <UndoKeys v-if="editing" :draft="draft" />
        <button v-if="editing" class="outline narrow" @click="shaping = true">{{ say('survey.shape.other') }}</button>
        <button class="outline narrow" @click="filing = true">{{ say('survey.files') }}</button>
        <button v-if="look.geometry" class="outline narrow" @click="showsBase = true">{{ say('base.open') }}</button>
      </div>
      <FindingsList v-if="!question || !editing" :gates="gates" :area="shownArea" :questions="questions" @ask="mend" />
      <section v-if="editing && !question" class="more">
        <h2 class="sub">{{ say('survey.add') }}</h2>
        <button v-for="list in additions" :key="list.id" class="row" @click="add(list)">
          <span class="grow">{{ say(`ask.${list.id}.add`) }}</span>
          <strong>{{ list.value || '' }}</strong>
        </button>
      </section>
      <OneOf
        v-slot="{ option }"
        class="tools"
        look="outline narrow"
        :options="[false, true]"
        :picked="imperial"
        :label="say('units.label')"
        @pick="(feet) => (imperial = feet)"
      >
        {{ say(option ? 'units.imperial' : 'units.metric') }}
      </OneOf>
      <NumberList
        v-if="listed || !editing"
        :questions="questions"
        :asking="asking"
        :editing="editing"
        :to-check="toCheck"
        @ask="ask"
        @add="add"
        @remove="remove"
      />
    </template>
    <FilesSheet
      v-if="filing"
      :survey="asked?.survey ?? look.survey"
      :area="shownArea"
      :svg="net?.svg"
      :typed="draft.typed.value"
      :form="form"
      :editing="editing"
      @close="filing = false"
      @replace="(typed) => draft.replace(typed)"
    />

    <template v-if="facts.length" #facts><FactLine :facts="facts" /></template>
    <template #outline>
      <button v-if="!editing" class="outline" @click="editing = true">{{ say('correct') }}</button>
      <button v-else-if="look.survey" class="outline" @click="stopEditing">{{ say('cancel') }}</button>
    </template>
    <template #mitre>
      <template v-if="editing && !choosesShape && !showsBase">
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
.elsewhere {
  display: grid;
  gap: 12px;
  justify-items: start;
}
.before {
  height: 100%;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  place-items: center;
}
.before svg {
  max-width: 100%;
}
.quick,
.tools {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.quick button {
  flex: 1;
}
.more .row {
  min-height: 56px;
}
textarea {
  font: 16px/1.3 var(--mono);
  width: 100%;
}
</style>
