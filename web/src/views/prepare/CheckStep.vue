<script setup lang="ts">
// A step that a person says is done: what it lays, material by material, then its questions, each answered.
import { computed, ref } from 'vue'
import { call } from '../../core/core'
import { sayRefusal } from '../../data/refusal'
import MitreButton from '../../parts/MitreButton.vue'
import NetDrawing from '../../drawing/NetDrawing.vue'
import OneOf from '../../parts/OneOf.vue'
import { say } from '../../words/words'
import SiteOptions from '../area/SiteOptions.vue'
import StepFrame from '../area/StepFrame.vue'
import AsksPanel from '../work/AsksPanel.vue'
import RepeatLine from '../work/RepeatLine.vue'
import WorkPart from '../work/WorkPart.vue'
import { isDone, useWorks } from '../work/useWorks'
import type { Schemas } from '../../core/core'
import { isShut, useArea, type Step } from '../area/useArea'

const props = defineProps<{ step: Step; stage: Schemas['LogbookStageLook'] }>()
const { look, job, area, record, goOn } = useArea()
const works = useWorks(() => props.step, 'asks')
const { work, chosen, pick } = works

const error = ref('')
const done = computed(() => props.step.state === 'done')
/** What was answered already, then what is being answered here. */
const answers = ref<Record<string, string>>({})
/** Where a photo was taken: the surface tapped while questions are answered. */
const at = ref('')
const given = computed(() => ({ ...kept(), ...answers.value }))
const kept = () =>
  Object.fromEntries(
    props.step.replies.map((r) => [
      r.question,
      r.says || r.choice || r.photo || (r.value == null ? '' : String(r.value)),
    ]),
  )
const left = computed(() => (props.step.asks ?? []).filter((each) => !given.value[each.id]).length)
const refused = computed(() => (props.step.asks ?? []).some((each) => given.value[each.id] === 'no'))
/** A milestone: time and state bring it, no key. */
const comes = computed(() => props.step.does === 'milestone')
const undecided = computed(() => !!props.step.only_if && !given.value[props.step.only_if.id])

async function reply(question: NonNullable<Step['asks']>[number]): Promise<Record<string, unknown>> {
  const text = given.value[question.id]!
  if (question.kind === 'choice') return { question: question.id, choice: text }
  if (question.kind === 'photo' && text !== 'not_here') {
    const before = props.step.replies.find((each) => each.question === question.id && each.photo === text)
    return { question: question.id, photo: text, place: at.value || before?.place || '' }
  }
  if (question.kind !== 'number') return { question: question.id, says: text }
  const { value } = await call('units.number', {
    field: question.id,
    kind: 'number',
    typed: text,
    least: -1e6,
    most: 1e6,
  })
  return { question: question.id, value }
}

async function finish(): Promise<void> {
  error.value = ''
  try {
    const list = await Promise.all((props.step.asks ?? []).filter((each) => given.value[each.id]).map(reply))
    const said = { key: refused.value ? 'asks.kept' : 'check.kept', args: { title: props.step.title } }
    if (!(await record('done', { step: props.step.id, answers: list }, said))) return
    answers.value = {}
    if (!refused.value) goOn()
  } catch (fault) {
    error.value = sayRefusal(fault)
  }
}
/** A step that is asked for first: needed here, or not. */
async function decide(says: string): Promise<void> {
  const body = { step: props.step.id, answers: [{ question: props.step.only_if!.id, says }] }
  if ((await record('done', body, { key: 'asks.kept', args: { title: props.step.title } })) && says === 'no') goOn()
}
async function again(): Promise<void> {
  await record('done', { step: props.step.id }, { key: 'again.kept', args: { title: props.step.title } })
}
function laid(): void {
  works.onwards()
  if (!(props.step.asks ?? []).length && works.works.value.every(isDone)) goOn()
}
</script>

<template>
  <StepFrame :step="step" :stage="stage" :line="say('check.line', { title: step.title })" :error="error">
    <template #drawing>
      <NetDrawing
        v-if="look.geometry"
        :name="look.name"
        :input="{ job, area, layers: [], selected: work ? chosen : [at].filter(Boolean) }"
        :taps="['surface']"
        @pick="(id) => (work ? pick(id) : (at = id))"
      />
    </template>
    <h2>{{ step.title }}</h2>
    <p>{{ step.why }}</p>
    <p v-if="comes" class="said">
      {{
        done
          ? say('milestone.reached', { at: step.ended })
          : step.opens_at
            ? say('milestone.at', { at: step.opens_at })
            : say('milestone.later')
      }}
    </p>
    <p v-if="step.dropped" class="said">{{ say('asks.dropped') }}</p>
    <template v-else-if="step.only_if && undecided">
      <OneOf
        v-slot="{ option }"
        class="decide"
        titled
        look="outline"
        :options="['yes', 'no'] as const"
        :picked="undefined"
        :label="step.only_if.line"
        @pick="decide"
      >
        {{ say(`asks.says.${option}`) }}
      </OneOf>
    </template>
    <template v-else>
      <SiteOptions v-if="!done" :step="step.id" />
      <WorkPart :step="step" :of="works" :starts="!done" @error="(text) => (error = text)" @laid="laid">
        <RepeatLine v-if="step.repeats" :step="step" />
        <AsksPanel
          :step="step"
          :given="given"
          :done="done"
          :at="at"
          @give="(id, says) => (answers = { ...answers, [id]: says })"
        />
        <p v-if="left && !done" class="small">{{ say('check.left', { n: left }) }}</p>
      </WorkPart>
    </template>
    <template #outline>
      <button v-if="step.repeats && !done && !work" class="outline" @click="again">{{ say('again.now') }}</button>
      <span id="step-outline" class="teleport" />
    </template>
    <template #mitre>
      <span id="step-mitre" class="teleport" />
      <MitreButton
        v-if="!done && !comes && !work && !step.dropped && !undecided && !isShut(step)"
        :label="say(refused ? 'asks.keep' : 'check.done')"
        :disabled="left > 0"
        @click="finish"
      />
    </template>
  </StepFrame>
</template>

<style scoped>
.teleport {
  display: contents;
}
.decide {
  display: grid;
  gap: 8px;
}
</style>
